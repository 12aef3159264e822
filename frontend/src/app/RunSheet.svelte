<!-- The sheet of a run on the mat, burned up to a moment, with what stands over it. -->
<script lang="ts">
	import type { Snippet } from 'svelte';
	import { pictureAddress } from '../api/files';
	import type { PlanOut, SheetPlan } from '../api/types';
	import { drawnStrokes } from '../lib/mat/burn';
	import BurnSheet from '../lib/mat/BurnSheet.svelte';
	import Mat from '../lib/mat/Mat.svelte';
	import { useProject } from './project.svelte';
	import { session } from './session.svelte';

	let {
		plan,
		sheet,
		t,
		label,
		squeeze = 1,
		head,
		tabs
	}: {
		plan: PlanOut;
		sheet: SheetPlan;
		/** the moment [s] */
		t: number;
		label: string;
		/** how wide it is seen while it is turned over, 0..1 */
		squeeze?: number;
		/** where the machine says that the beam is */
		head?: { x: number; y: number; burning: boolean; path: string };
		tabs: Snippet;
	} = $props();
	const work = useProject();
	const drawn = $derived(drawnStrokes(sheet));
	const colour = $derived(plan.stocks[sheet.stock]?.colour ?? '#ddd');
</script>

<Mat bounds={{ x0: 0, y0: 0, x1: sheet.width, y1: sheet.height + 40 }} {label} inch={session.unit !== 'mm'} pad={22}>
	{#snippet children(scale)}<BurnSheet
			{sheet}
			{drawn}
			{t}
			{head}
			{squeeze}
			{colour}
			{scale}
			picture={(part, mark) => pictureAddress(work.id, part, mark, plan.plan_print ?? '')}
		/>{/snippet}
	{#snippet over()}<div class="tabs">{@render tabs()}</div>{/snippet}
</Mat>

<style>
	.tabs {
		position: absolute;
		left: 16px;
		top: 10px;
		display: flex;
		gap: 8px;
		align-items: center;
		color: var(--mat-ink);
	}
	.tabs :global(> span) {
		margin-left: 10px;
	}
</style>
