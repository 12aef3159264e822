<!-- All evidence of a stock, newest first: who found it, where, and whether it counts. Nothing is ever overwritten. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { day } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';
	import { recordOf, type Line } from './record';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	const attempt = new Attempt();
	const lines = $derived(recordOf(stock, rack));
	const turn = (line: Line) => attempt.at(() => line.turn(!line.withdrawn));
</script>

<div class="mat record">
	<div class="title">
		<button class="on-mat" onclick={() => (rack.pane = 'sheet')}>{word('sheets.sheet')}</button>
		<h2>{word('sheets.the-record', { name: stock.value.name })}</h2>
		<span>{word('sheets.entries-on', { lines: lines.length, name: rack.machine?.name })}</span>
	</div>
	{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
	<table>
		<thead
			><tr
				><th>{word('sheets.day')}</th><th>{word('sheets.what')}</th><th>{word('sheets.found')}</th><th>{word('sheets.how')}</th><th
					>{word('sheets.by')}</th
				><th></th></tr
			></thead
		>
		<tbody>
			{#each lines as l (l.key)}
				<tr class:gone={l.withdrawn}>
					<td class="fig">{day(l.on)}</td><td>{l.what}</td><td class="fig value">{l.value}</td><td class="how">{l.how}</td><td>{l.by}</td>
					<td
						><button class="underline" onclick={() => turn(l)}>{l.withdrawn ? word('sheets.put-back') : word('sheets.withdraw')}</button
						></td
					>
				</tr>
			{/each}
		</tbody>
	</table>
</div>

<style>
	.record {
		overflow: auto;
		padding: 14px 22px;
	}
	.title {
		display: flex;
		align-items: baseline;
		gap: 14px;
		margin-bottom: 10px;
	}
	.title span,
	th {
		color: var(--mat-ink-2);
		font-weight: 500;
		text-align: left;
	}
	table {
		width: 100%;
		max-width: 860px;
		border-collapse: collapse;
	}
	td,
	th {
		padding: 4px 10px 4px 0;
		border-bottom: 1px solid rgba(190, 230, 218, 0.16);
		white-space: nowrap;
	}
	.how {
		white-space: normal;
		color: var(--mat-ink-2);
		font-size: 12px;
	}
	.value {
		color: #fff;
	}
	.gone td {
		opacity: 0.6;
		text-decoration: line-through;
	}
	.gone td:last-child {
		text-decoration: none;
		opacity: 1;
	}
</style>
