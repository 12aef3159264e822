<!-- The sheet of a run as it is burned up to a moment, and the way to the other runs. -->
<script lang="ts">
	import { pictureAddress } from '../../api/files';
	import type { PlanOut, SheetPlan } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { drawnStrokes } from '../../lib/mat/burn';
	import BurnSheet from '../../lib/mat/BurnSheet.svelte';
	import Mat from '../../lib/mat/Mat.svelte';
	import { runName } from '../../lib/mat/runs';
	import SheetTabs from '../../lib/ui/SheetTabs.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';

	let {
		out,
		sheet,
		t,
		squeeze,
		chosen,
		onchoose
	}: {
		out: PlanOut;
		sheet: SheetPlan;
		/** the moment [s] */
		t: number;
		/** how wide it is seen while it is turned over */
		squeeze: number;
		/** of the runs, from 0 */
		chosen: number;
		onchoose: (run: number) => void;
	} = $props();
	const work = useProject();
	const drawn = $derived(drawnStrokes(sheet));
	const stock = $derived(out.stocks[sheet.stock]);
</script>

<Mat
	bounds={{ x0: 0, y0: 0, x1: sheet.width, y1: sheet.height + 40 }}
	label={word('cutplan.sheet-with-its-cuts')}
	inch={session.unit !== 'mm'}
	pad={22}
>
	{#snippet children(scale)}<BurnSheet
			{sheet}
			{drawn}
			{t}
			{squeeze}
			colour={stock?.colour ?? '#ddd'}
			{scale}
			picture={(part, mark) => pictureAddress(work.id, part, mark, out.plan_print ?? '')}
		/>{/snippet}
	{#snippet over()}
		<div class="tabs">
			<SheetTabs names={out.plan!.sheets.map(runName)} {chosen} {onchoose} />
			<span
				>{word('cutplan.measured', {
					name: stock?.name,
					value: show(stock?.thickness.value ?? 0, session.unit, true),
					width: show(sheet.width, session.unit),
					height: show(sheet.height, session.unit)
				})}</span
			>
		</div>
	{/snippet}
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
	.tabs span {
		margin-left: 10px;
	}
</style>
