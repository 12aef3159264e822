<!-- A part of an item while all of a project is shown: it is changed where its item is open. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { ownMeeting, ownName, partOf } from '../../app/items';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';

	let { build, part }: { build: BuildState; part: PartOut } = $props();
	const work = useProject();
	const b = $derived(boundsOf(part.profile.outer as number[][]));
	const item = $derived(build.out!.items.find((i) => i.id === (part.item || partOf(part.id).item))!);
	const stock = $derived(build.out!.stocks[part.stock]!);
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
<button class="btn main" onclick={open}>{word('build.open-to-change', { label: item.label })}</button>
