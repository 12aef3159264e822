<!-- Why a number is what it is: each term with its source, the finished width, the kerf, and what is drawn. -->
<script lang="ts">
	import type { Quantity } from '../../api/types';
	import { day, MM_PER_INCH, plainly, type Unit } from '../units/units';
	import { word } from '../../words/words';

	let { drawn, unit, sum = word('common.finished-width') }: { drawn: Quantity; unit: Unit; sum?: string } = $props();
	/** One digit more than elsewhere, so that the lines add up to the eye. */
	const exact = (mm: number) =>
		unit === 'mm' ? mm.toFixed(3) : unit === 'thou' ? ((mm / MM_PER_INCH) * 1000).toFixed(1) : (mm / MM_PER_INCH).toFixed(4);
	const before = $derived(drawn.terms.filter((t) => t.kind !== 'kerf'));
	const kerf = $derived(drawn.terms.filter((t) => t.kind === 'kerf'));
	const finished = $derived(before.reduce((sum, t) => sum + t.value, 0));
	type Term = Quantity['terms'][number];
	const from = (t: Term) =>
		[t.source && plainly(t.source.spans, unit), t.on ? day(t.on) : '', t.sd ? `±${exact(t.sd)}` : ''].filter(Boolean).join(' · ');
</script>

{#snippet line(t: Term, first: boolean)}
	<tr>
		<td
			>{plainly(t.label.spans, unit)}{#if t.trust === 'default'}<span class="guess" title={word('common.a-default-not-measured-here')}
					>{word('common.guess')}</span
				>{/if}<small>{from(t)}</small></td
		>
		<td class="fig">{first ? exact(t.value) : `${t.value < 0 ? '−' : '+'}${exact(Math.abs(t.value))}`}</td>
	</tr>
{/snippet}

<table>
	<tbody>
		{#each before as t, i (i)}{@render line(t, i === 0)}{/each}
		<tr class="sum"><td>{sum}</td><td class="fig">{exact(finished)}</td></tr>
		{#each kerf as t, i (i)}{@render line(t, false)}{/each}
		<tr class="drawn"><td>{word('common.drawn-in-the-file')}</td><td class="fig">{exact(drawn.value)}</td></tr>
	</tbody>
</table>

<style>
	table {
		width: 100%;
		border-collapse: collapse;
	}
	td {
		padding: 6px 0;
		border-bottom: 1px solid var(--rule);
		vertical-align: top;
	}
	td.fig {
		text-align: right;
		white-space: nowrap;
		font-size: 14px;
	}
	small {
		display: block;
		color: var(--ink-2);
		font-size: 11.5px;
	}
	.guess {
		color: #8a5a00;
		background: #fbeccb;
		border-radius: 3px;
		padding: 0 5px;
		margin-left: 6px;
		font-size: 11px;
	}
	.sum td {
		font-weight: 650;
		border-bottom-color: var(--ink);
	}
	.drawn td {
		font-weight: 700;
		border-bottom: 1.5px solid var(--ink);
	}
	.drawn .fig {
		font-size: 18px;
		color: var(--color-ember-ink);
	}
	:global(.dark) .drawn .fig {
		color: var(--color-ember);
	}
</style>
