<!-- The sheets and offcuts of a stock, with their counts; a board larger than the bed is cut down here. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import CutDown from './CutDown.svelte';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	let cutting = $state(0); // which board
	const tooLarge = (s: StockOut['sheets'][number]) => {
		const bed = rack.machine && [rack.machine.bed_width, rack.machine.bed_height].sort((a, b) => a - b);
		const size = [s.width_mm, s.height_mm].sort((a, b) => a - b);
		return !s.outline.length && !!bed && (size[0]! > bed[0]! || size[1]! > bed[1]!);
	};
</script>

{#each stock.sheets as s (s.id)}
	<NumberField
		label={s.name + (s.place ? `, ${s.place}` : '')}
		kind="count"
		value={s.count}
		oncommit={(n) => rack.changeSheets(s.id, { count: n })}
	/>
	{#if s.count && tooLarge(s)}<button class="btn" aria-expanded={cutting === s.id} onclick={() => (cutting = cutting === s.id ? 0 : s.id)}
			>{word('sheets.larger-than-the-bed-cut-down')}</button
		>{/if}
	{#if cutting === s.id}<CutDown {rack} board={s} onclose={() => (cutting = 0)} />{/if}
{/each}
