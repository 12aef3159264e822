<!-- The sheet of a run as it is planned, and the way to the other runs. -->
<script lang="ts">
	import type { PlanOut, SheetPlan } from '../../api/types';
	import RunSheet from '../../app/RunSheet.svelte';
	import { session } from '../../app/session.svelte';
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
	const stock = $derived(out.stocks[sheet.stock]);
</script>

<RunSheet plan={out} {sheet} {t} {squeeze} label={word('cut-plan.sheet-with-its-cuts')}>
	{#snippet tabs()}
		<SheetTabs names={out.plan!.sheets.map(runName)} {chosen} {onchoose} />
		<span
			>{word('cut-plan.measured', {
				name: stock?.name,
				value: show(stock?.thickness.value ?? 0, session.unit, true),
				width: show(sheet.width, session.unit),
				height: show(sheet.height, session.unit)
			})}</span
		>
	{/snippet}
</RunSheet>
