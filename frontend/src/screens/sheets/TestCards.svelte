<!-- Making a test card, and going on with one that was made. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { day } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	const KINDS = [
		['gauge', word('sheets.gauge-strip'), word('sheets.stepped-slots-and-a-tongue-how')],
		['strips', word('sheets.kerf-strips'), word('sheets.ten-strips-to-stack-and-measure')],
		['gaps', word('sheets.gap-card'), word('sheets.slots-and-pegs-to-measure-on')],
		['power', word('sheets.power-card'), word('sheets.squares-over-power-and-speed-what')],
		['steps', word('sheets.step-card'), word('sheets.one-to-six-engraving-passes-how')],
		['legibility', word('sheets.legibility-card-2'), word('sheets.the-least-text-and-the-least')]
	] as const;
	let kind = $state<string>('gauge');
	// svelte-ignore state_referenced_locally (its own stock to begin with)
	let tongue = $state(stock.value.id);
	let problem = $state('');
	let busy = $state(false);
	const id = $props.id();

	async function make() {
		[problem, busy] = ['', true];
		try {
			await rack.makeCard(kind, kind === 'gauge' ? tongue : null);
		} catch (e) {
			problem = (e as Error).message;
		} finally {
			busy = false;
		}
	}
</script>

<section aria-label={word('sheets.test-cards')}>
	{#each rack.cards as c (c.id)}
		<button class="card" onclick={() => rack.openCard(c.id)}>
			<span>{c.name}<small>{day(c.created)}, {c.by}</small></span>
			<span class="fig" class:open={c.entered < c.asked}>{c.entered}/{c.asked}</span>
		</button>
	{/each}
	<label for="{id}k"
		>{word('sheets.make-a-new')}
		<select class="select" id="{id}k" bind:value={kind}>
			{#each KINDS as [key, name] (key)}<option value={key}>{name}</option>{/each}
		</select></label
	>
	<p class="quiet">{KINDS.find(([key]) => key === kind)?.[2]}</p>
	{#if kind === 'gauge'}
		<label for="{id}t"
			>{word('sheets.tongue-of')}
			<select class="select" id="{id}t" bind:value={tongue}>
				{#each rack.rack!.stocks as s (s.id)}<option value={s.id}>{s.id === stock.value.id ? word('sheets.the-same-sheet') : s.name}</option
					>{/each}
			</select></label
		>
	{/if}
	{#if stock.flares || stock.caution}<p class="quiet mt-1">{stock.caution}</p>{/if}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<button class="btn main mt-1" disabled={busy} onclick={make}>{busy ? word('sheets.laying-it-out') : word('sheets.make-it')}</button>
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
	}
	.card {
		display: flex;
		justify-content: space-between;
		width: 100%;
		text-align: left;
		padding: 4px 6px;
		border-bottom: 1px solid var(--rule);
		margin-bottom: 6px;
	}
	.card:hover {
		background: var(--pick);
	}
	small {
		display: block;
		color: var(--ink-2);
		font-size: 11.5px;
	}
	.open {
		color: #a45a00;
	}
	:global(.dark) .open {
		color: #f0b45a;
	}
</style>
