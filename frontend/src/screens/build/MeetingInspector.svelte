<!-- One meeting: how it should feel, why its widths are what they are, and what to expect. -->
<script lang="ts">
	import type { MeetingOut } from '../../api/types';
	import { NOTHING_CHOSEN, useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import { ASKED_FEELS, feelName, chancesLine } from '../../lib/ui/feels';
	import FitBand from '../../lib/ui/FitBand.svelte';
	import Ledger from '../../lib/ui/Ledger.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show, signed } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import FeltEntry from './FeltEntry.svelte';
	import Glyph from './Glyph.svelte';
	import MeetingLayout from './MeetingLayout.svelte';
	import PinButton from './PinButton.svelte';
	import { CUTS, meetName } from './kinds';
	import { word } from '../../words/words';

	let { build, detail }: { build: BuildState; detail: MeetingOut } = $props();
	const work = useProject();
	const m = $derived(detail.meeting);
	/** Where its choices are kept: a socket in a copy has those of the original. */
	const kept = $derived(m.follows || m.id);
	const choice = $derived(work.design.choices?.[kept]);
	const line = $derived(detail.features.find((f) => f.feature.id === build.feature) ?? detail.features[0]);
	const alike = $derived(
		build.out!.meetings.filter((x) => x.id !== m.id && x.kind === m.kind && x.style === m.style && sameStocks(x.a, x.b)).map((x) => x.id)
	);
	const pair = $derived(word('build.with', { a: build.names.get(m.a), b: build.names.get(m.b) }));
	let problem = $state('');
	const stockOf = (part: string) => build.out!.parts.find((p) => p.id === part)?.stock ?? '';
	const sameStocks = (a: string, b: string) => [stockOf(a), stockOf(b)].sort().join() === [stockOf(m.a), stockOf(m.b)].sort().join();
	async function choose(changes: Parameters<typeof work.setChoice>[1], label: string, others: string[] = []) {
		problem = '';
		try {
			await work.setChoice(kept, changes, label, others);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<h2>{build.names.get(m.a)} <Glyph kind={m.kind} /> {build.names.get(m.b)}</h2>
<p class="quiet">
	{meetName(m.kind)} · {detail.name} ·
	<span class="fig">{m.angle_deg.toFixed(0)}°</span>{alike.length ? ` · ${word('build.alike', { alike: alike.length })}` : ''}
</p>

{#if m.feel && m.clearance}
	<h3>{word('build.how-it-should-feel')}</h3>
	<Choice
		label={word('build.feel')}
		options={ASKED_FEELS}
		value={m.feel}
		onchoose={(v) => choose({ feel: v as 'snug', clearance: null }, `${pair}: ${feelName(v)}`)}
	/>
	<div class="mt-2">
		<NumberField
			label={word('build.clearance')}
			finest
			unit={session.unit}
			value={m.clearance.value}
			oncommit={(mm) => work.setChoice(kept, { clearance: mm }, word('build.clearance-2', { pair, mm: signed(mm, session.unit) }))}
		/>
	</div>
	{#if line}
		<h3>
			{word('build.why-this-in-is', {
				kind: CUTS[line.feature.kind],
				partlabel: line.part_label,
				value: show(line.drawn.value, session.unit, true)
			})}
		</h3>
		<Ledger drawn={line.drawn} unit={session.unit} />
		<PinButton pin={{ part: line.feature.part, what: line.feature.id }} label="{line.part_label}, {CUTS[line.feature.kind]}" />
	{/if}
	{#if detail.chances}
		<h3>{word('build.what-to-expect')}</h3>
		<FitBand boundaries={detail.boundaries} clearance={detail.chances.chances.clearance} sd={detail.chances.chances.sd} height={9} />
		<p class="chances">
			{#each chancesLine(detail.chances.chances, m.feel) as o (o.name)}<span class:strong={o.strong}
					>{o.name} <span class="fig">{(o.share * 100).toFixed(0)} %</span></span
				>{/each}
		</p>
	{/if}
	{#if detail.chances}
		<FeltEntry {detail} stocks={[stockOf(m.a), stockOf(m.b)]} machine={work.project!.machine} onlearned={() => work.touched()} />
	{/if}
{:else if m.clearance}
	<p>{word('build.it-lies-in-its-opening-with', { value: session.length(m.clearance.value, 3) })}</p>
	{#each m.clearance.terms as term, i (i)}<p class="quiet">
			{session.told(term.label)}: {show(term.value, session.unit, true)} · {term.source ? session.told(term.source) : ''}
		</p>{/each}
{:else if m.style === 'dowels'}
	<p>{word('build.glued-face-to-face-with-dowels')}</p>
{:else if m.style === 'recess'}
	<p>
		{word('build.the-smaller-sheet-lies-in-a', { size: session.length(0.3) })}
	</p>
{:else if m.style === 'scarf'}
	<p>{word('build.joined-along-a-slant-that-only')}</p>
{:else if m.style === 'blind'}
	<p>{word('build.glued-without-a-tab-its-place')}</p>
{:else if m.style === 'glue'}
	<p>{word('build.glued-face-to-face-the-outline')}</p>
{:else}
	<div class="note">
		{word('build.these-two-only-butt-against-each', { ways: detail.ways.length > 1 ? `, ${word('build.or-choose-a-joint')}` : '' })}
	</div>
{/if}
<MeetingLayout {m} name={detail.name} ways={detail.ways} {choice} {pair} />
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
<div class="mt-3 flex flex-wrap gap-2">
	{#if alike.length && choice}<button
			class="btn"
			onclick={() => choose(choice, word('build.joints-like', { alike: alike.length + 1, pair }), alike)}
			>{word('build.same-for-all-alike', { alike: alike.length + 1 })}</button
		>{/if}
	{#if choice}<button class="btn" onclick={() => choose(NOTHING_CHOSEN, word('build.as-the-rest', { pair }))}
			>{word('build.as-the-rest-2')}</button
		>{/if}
</div>
{#if m.feel}<p class="quiet mt-2">
		{word('build.comes-from', {
			feel: feelName(m.feel),
			source: m.clearance?.terms[0]?.source ? session.told(m.clearance.terms[0].source) : ''
		})}
	</p>{/if}

<style>
	h2 {
		display: flex;
		align-items: center;
		gap: 7px;
		flex-wrap: wrap;
	}
	.chances {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 12px;
		margin-top: 9px;
	}
	.strong {
		font-weight: 700;
	}
</style>
