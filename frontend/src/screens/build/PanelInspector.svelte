<!-- One panel: its stock, place and faces, how often it is cut, what is on it, and the meetings it takes part in. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { PanelEdit, PartOut, RackRow } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import Ledger from '../../lib/ui/Ledger.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import Tick from '../../lib/ui/Tick.svelte';
	import { show, unitName } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import AddedNumbers from './AddedNumbers.svelte';
	import PanelActions from './PanelActions.svelte';
	import PanelFeatures from './PanelFeatures.svelte';
	import PanelMeets from './PanelMeets.svelte';
	import PanelPlace from './PanelPlace.svelte';
	import PinButton from './PinButton.svelte';
	import PanelStock from './PanelStock.svelte';
	import ThereWith from './ThereWith.svelte';
	import { word } from '../../words/words';

	let { build, part }: { build: BuildState; part: PartOut } = $props();
	const work = useProject();
	const design = $derived(work.design);
	const id = $derived(part.panel);
	const edit = $derived(design.edits?.[id]);
	/** how many the family makes of it */
	const each = $derived(part.copies / (edit?.copies ?? 1));
	const b = $derived(boundsOf(part.profile.outer as number[][]));
	const stock = $derived(build.out!.stocks[part.stock]!);
	let stocks = $state.raw<RackRow[]>([]);
	const attempt = new Attempt();
	need(api.GET('/api/rack'))
		.then((r) => (stocks = r.stocks))
		.catch(attempt.failed);

	const change = (changes: Partial<PanelEdit>, label: string) => work.editPanels([id], () => changes, `${part.label} ${label}`);
	/** A name of its own; an empty one gives the usual name back. */
	async function rename(field: HTMLInputElement) {
		const wanted = field.value.trim();
		if (build.out!.parts.some((p) => p.id !== part.id && p.label === wanted)) {
			attempt.problem = word('build.there-is-a-already-give-this', { wanted });
			return;
		}
		await quietly(change({ label: wanted || null }, wanted ? word('build.is-called', { wanted }) : word('build.has-its-usual-name')));
	}
	const quietly = (saved: Promise<void>) => attempt.at(() => saved);
</script>

<h2 class="sr-only">{part.label}</h2>
<input
	class="title"
	aria-label={word('build.name-of-this-panel')}
	value={edit?.label ?? part.label.split('·')[0]}
	maxlength="60"
	onchange={(e) => void rename(e.currentTarget)}
/>
<p class="quiet">
	<button class="why fig" title={word('build.why-this-width')} onclick={() => build.pickSize(part.id, 'x')}
		>{show(b.x1 - b.x0, session.unit, true)}</button
	>
	×
	<button class="why fig" title={word('build.why-this-height')} onclick={() => build.pickSize(part.id, 'y')}
		>{show(b.y1 - b.y0, session.unit, true)}</button
	>
	{unitName(session.unit)} · {stock.name}, <span class="fig">{show(part.high - part.low, session.unit, true)}</span>
</p>
{#if part.falls_from}<p>
		{word('build.falls-out-of-it-is-cut', { fallsfrom: build.names.get(part.falls_from) ?? part.falls_from })}
	</p>{/if}
{#if build.why}
	<h3>{word('build.why-this-is-in-the-file', { title: build.why.title, value: show(build.why.drawn.value, session.unit, true) })}</h3>
	<Ledger
		drawn={build.why.drawn}
		unit={session.unit}
		sum={build.why.pin.what === 'x' || build.why.pin.what === 'y' ? word('build.finished-size') : undefined}
	/>
	<PinButton pin={build.why.pin} label="{part.label}, {build.why.title}" />
{/if}

<ThereWith kind="panels" {id} label={part.label} />
<PanelStock {build} {part} {stocks} {edit} change={(changes, words) => quietly(change(changes, words))} />
<AddedNumbers {part} parts={build.out!.parts} />
<PanelPlace {build} {part} onproblem={(told) => (attempt.problem = told)} />

<h3>{word('build.how-many')}</h3>
<NumberField
	label={each > 1 ? word('build.times-what-there-is', { each }) : word('build.in-the-thing')}
	kind="count"
	value={edit?.copies ?? 1}
	oncommit={(v) => change({ copies: v }, `× ${v}`)}
/>
<NumberField
	label={word('build.spares')}
	kind="count"
	value={edit?.spares ?? 0}
	oncommit={(v) => change({ spares: v }, word('build.spares-2', { v }))}
/>
<NumberField
	label={word('build.bridges-to-its-sheet')}
	kind="count"
	value={edit?.bridges ?? 0}
	oncommit={(v) => change({ bridges: v }, word('build.bridges', { v }))}
/>
<Tick
	label={word('build.a-helper-jig-or-spacer-not')}
	checked={edit?.helper ?? false}
	onchange={(helper) => quietly(change({ helper }, helper ? word('build.is-a-helper') : word('build.is-a-part')))}
/>
<PanelFeatures panel={id} label={part.label} size={{ w: b.x1 - b.x0, h: b.y1 - b.y0 }} parts={build.out!.parts} />
<PanelActions {build} {part} {id} stocks={stocks.map((s) => s.id)} />
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<PanelMeets {build} {part} />

<style>
	.title {
		width: 100%;
		font: inherit;
		font-size: 17px;
		font-weight: 650;
		border: 1px solid transparent;
		border-radius: 4px;
		margin: 0 -5px;
		padding: 1px 4px;
		background: none;
	}
	.title:hover,
	.title:focus {
		border-color: var(--rule);
		background: var(--bench);
	}
	.why:hover {
		text-decoration: underline;
	}
</style>
