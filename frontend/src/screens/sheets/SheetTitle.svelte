<!-- What a stock is called, how much of it is there, and the way to its record. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { word } from '../../words/words';
	import type { RackState } from './rack.svelte';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	const counts = $derived({
		whole: stock.sheets.filter((s) => !s.is_offcut).reduce((n, s) => n + s.count, 0),
		off: stock.sheets.filter((s) => s.is_offcut).reduce((n, s) => n + s.count, 0)
	});
</script>

<div class="title">
	<h2>{rack.coming?.name ?? stock.value.name}</h2>
	<span
		>{word('sheets.whole-sheet', {
			whole: counts.whole,
			off: counts.off ? ` · ${word('sheets.offcut', { off: counts.off })}` : '',
			shelf: stock.shelf ? ` · ${stock.shelf}` : ''
		})}</span
	>
	<button class="on-mat record" onclick={() => (rack.pane = 'record')}>{word('sheets.the-whole-record')}</button>
</div>

<style>
	.title {
		display: flex;
		align-items: baseline;
		gap: 16px;
		margin-bottom: 12px;
	}
	.title span {
		color: var(--mat-ink-2);
	}
	.title .record {
		margin-left: auto;
		font-size: 12px;
	}
</style>
