<!-- The edge of a sheet, as thick as it was read. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { stock, readings, plies }: { stock: StockOut; readings: number; plies: boolean } = $props();
	const t = $derived(stock.value.thickness);
	const high = $derived(Math.min(t.value * 18, 120));
</script>

<div class="edge">
	<small>{word('sheets.edge-reading', { readings: readings })}</small>
	<svg width="110" height={high + 2} aria-hidden="true">
		<rect x="0.5" y="0.5" width="96" height={high} fill={stock.value.colour} stroke="#3d2f1c" />
		{#if plies}{#each [1, 2] as k (k)}<line
					x1="1"
					x2="96"
					y1={(high * k) / 3}
					y2={(high * k) / 3}
					stroke="#7a5a30"
					stroke-width="2"
				/>{/each}{/if}
		<path d="M104 1V{high}M100 1H108M100 {high}H108" stroke="#e6f2ee" fill="none" />
	</svg>
	<b class="fig" data-testid="thickness">{show(t.value, session.unit, true)}</b><span class="fig pm">
		± {show(t.sd, session.unit, true)} {unitName(session.unit)}</span
	>
	<small>{word('sheets.label-says', { label: show(stock.value.label, session.unit, true) })}</small>
	{#if stock.spread}<small>{word('sheets.range', { rangemm: show(stock.spread.range_mm, session.unit, true) })}</small>
		<small>{word('sheets.mean-known-to', { meansdmm: show(stock.spread.mean_sd_mm, session.unit, true) })}</small>{/if}
</div>

<style>
	.edge small {
		display: block;
		color: var(--mat-ink-2);
		margin: 3px 0;
	}
	.edge b {
		font-size: 21px;
		font-weight: 600;
	}
	.pm {
		display: block;
		font-size: 12px;
		color: var(--mat-ink-2);
	}
</style>
