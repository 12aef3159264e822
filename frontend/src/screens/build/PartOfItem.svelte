<!-- A part of an item while all of a project is shown: it is changed where its item is open. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { ownMeeting, ownName, partOf } from '../../app/items';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import { itemDragged } from './dragging';
	import LineUp from './LineUp.svelte';
	import { type Axis, lineUp, type LineUp as LineUpWay } from './moves';

	let { build, part }: { build: BuildState; part: PartOut } = $props();
	const work = useProject();
	const b = $derived(boundsOf(part.profile.outer as number[][]));
	const item = $derived(build.out!.items.find((i) => i.id === (part.item || partOf(part.id).item))!);
	const stock = $derived(build.out!.stocks[part.stock]!);
	/** a part of another item that is picked beside this one */
	const onto = $derived(build.out!.parts.find((p) => p.id === build.picked[1] && itemOf(p) !== item.id) ?? null);
	const itemOf = (p: PartOut) => p.item || partOf(p.id).item;
	const attempt = new Attempt();
	/** its item, where that can be moved; what is held by another stays */
	const movable = $derived(onto ? itemDragged(build, work) : null);
	function lineItUp(axis: Axis, how: LineUpWay) {
		const by = lineUp(part, onto!, axis, how);
		return attempt.at(() => movable!.save({ axis, by, met: false }));
	}
	function open() {
		const [to, meeting] = [item.id, build.meeting];
		build.open(false, ownName(to, part.id), meeting ? ownMeeting(to, meeting) : '');
		work.item = to;
	}
</script>

<h2>{part.label}</h2>
<p class="quiet">
	<span class="fig">{show(b.x1 - b.x0, session.unit, true)} × {show(b.y1 - b.y0, session.unit, true)}</span>
	{unitName(session.unit)} · {stock.name}, <span class="fig">{show(part.high - part.low, session.unit, true)}</span>
</p>
{#if part.copies + part.spares > 1}<p>{word('build.cut-so-often', { copies: part.copies, spares: part.spares })}</p>{/if}
{#if onto}
	<h3>{word('build.lay-on')}</h3>
	<p class="quiet">{word('build.lay-on-does', { item: item.label })}</p>
	<button class="btn" disabled={attempt.busy} onclick={() => attempt.at(() => work.layOn(part.id, onto.id))}
		>{word('build.lay-it-on', { part: part.label, onto: onto.label })}</button
	>
	{#if movable}<LineUp heading={word('build.line-item-up-with', { item: item.label, label: onto.label })} onchoose={lineItUp} />{/if}
	{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
{:else if work.project!.design.items?.length}
	<p class="quiet">{word('build.pick-another-to-lay-it-on')}</p>
{/if}
<button class="btn main mt-3" onclick={open}>{word('build.open-to-change', { label: item.label })}</button>
