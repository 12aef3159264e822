<!-- One variant: what one of it takes, and how many of it are wanted. -->
<script lang="ts" module>
	import type { VariantOut } from '../../api/types';
	export type Row = { choice: Record<string, string>; out: VariantOut | null; count: number };
</script>

<script lang="ts">
	import { session } from '../../app/session.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';

	let {
		row,
		words,
		chosen,
		onchoose,
		oncount
	}: { row: Row; words: string; chosen: boolean; onchoose: () => void; oncount: (text: string) => void } = $props();
	const out = $derived(row.out);
	const size = (mm: readonly number[]) => `${mm.map((v) => show(v, session.unit)).join(' × ')} ${unitName(session.unit)}`;
</script>

<tr class:on={chosen}>
	{#each Object.entries(row.choice) as [name, alternative], i (name)}<td
			>{alternative}{#if i === 0 && out?.size}<small class="fig">{size(out.size as unknown as number[])}</small>{/if}</td
		>{/each}
	{#if out && !out.problem}
		<td class="n fig">{out.pieces}</td>
		<td
			>{#each out.sheets as s (s.stock)}<div class:bad={s.buy > 0}>
					{word(s.buy ? 'build.sheets-and-to-buy' : 'build.sheets-of-stock', {
						sheets: s.sheets.toFixed(2),
						stock: s.stock,
						buy: s.buy
					})}
				</div>{/each}</td
		>
		<td class="n fig">{word('build.burning-minutes', { minutes: out.minutes.toFixed(1) })}</td>
		<td class="n fig">{out.price.toFixed(2)}</td>
	{:else}<td colspan="4" class:bad={out?.problem}>{out?.problem ? session.told(out.problem) : '…'}</td>{/if}
	<td
		>{#if out?.stops}<span class="bad">{word('build.stops-of', { stops: out.stops })}</span>
		{:else if chosen}{word('build.chosen-now')}
		{:else if !out?.problem}<button class="btn" aria-label="{word('build.choose-it')}: {words}" onclick={onchoose}
				>{word('build.choose-it')}</button
			>{/if}</td
	>
	<td
		><input
			class="input count fig"
			inputmode="numeric"
			aria-label={word('build.how-many-of', { words })}
			value={row.count}
			onchange={(e) => oncount(e.currentTarget.value)}
		/></td
	>
</tr>

<style>
	td {
		padding: 4px 10px 4px 0;
		border-bottom: 1px solid var(--rule);
		vertical-align: top;
	}
	.n {
		text-align: right;
	}
	.on td {
		background: var(--pick);
	}
	td small {
		display: block;
		color: var(--ink-2);
		font-size: 11.5px;
	}
	.bad {
		color: var(--bad);
	}
	.count {
		width: 52px;
		text-align: right;
	}
</style>
