<!-- What is laid on a map of tiles next: a tile, a wall, or a piece of one sort. -->
<script lang="ts">
	import Choice from '../../lib/ui/Choice.svelte';
	import { word } from '../../words/words';
	import type { Sort } from './tilemap';

	let {
		sorts,
		walls,
		tool,
		problem,
		onchoose
	}: { sorts: readonly Sort[]; walls: boolean; tool: string; problem: string; onchoose: (tool: string) => void } = $props();
	const tools = $derived([
		{ value: 'tile', name: word('build.map-tile') },
		...(walls ? [{ value: 'wall', name: word('build.map-wall') }] : []),
		...sorts.map((s, i) => ({ value: `${i}`, name: word('build.map-sort', { columns: s[0], rows: s[1], kind: s[2] + 1 }) }))
	]);
	const does = $derived(
		tool === 'wall' ? word('build.map-click-an-edge') : tool === 'tile' ? word('build.map-click-a-place') : word('build.map-click-a-field')
	);
</script>

<div class="tools">
	<Choice label={word('build.lay-on-the-map')} options={tools} value={tool} {onchoose} />
	<p>{does}</p>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
</div>

<style>
	.tools {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 12px;
	}
	.tools :global(.choice) {
		background: var(--bench);
		min-width: 260px;
	}
	p {
		color: #e8f3ef;
		font-size: 13px;
		margin: 0;
	}
</style>
