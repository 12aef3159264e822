<!-- The band of feels with a mark where a joint stands, and how sure that is. -->
<script lang="ts">
	import type { Boundaries } from '../../api/types';
	import { FEELS, onBand } from './feels';

	let {
		clearance,
		sd = 0,
		boundaries,
		height = 8,
		mark = true
	}: {
		clearance?: number;
		sd?: number;
		boundaries: Boundaries;
		height?: number;
		mark?: boolean;
	} = $props();

	const at = $derived(clearance === undefined ? 0 : onBand(clearance, boundaries) * 100);
	const from = $derived(clearance === undefined ? 0 : onBand(clearance + sd, boundaries) * 100);
	const to = $derived(clearance === undefined ? 0 : onBand(clearance - sd, boundaries) * 100);
</script>

<div class="band" style:height="{height}px" aria-hidden="true">
	{#each FEELS as f (f.key)}<span style:width="{f.width * 100}%" style:background={f.colour}></span>{/each}
	{#if mark && clearance !== undefined}
		<i class="range" style:left="{from}%" style:width="{Math.max(to - from, 0.5)}%"></i>
		<i class="at" style:left="{at}%"></i>
	{/if}
</div>

<style>
	.band {
		display: flex;
		position: relative;
	}
	.at {
		position: absolute;
		top: -2px;
		bottom: -2px;
		width: 3px;
		margin-left: -1.5px;
		background: var(--ink);
		outline: 1px solid var(--bench);
	}
	.range {
		position: absolute;
		bottom: -4px;
		height: 2px;
		background: var(--ink-2);
	}
</style>
