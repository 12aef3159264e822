<!-- A test card on the mat: cut it, then enter what came of it, cell by cell. -->
<script lang="ts">
	import type { CardOut } from '../../../api/types';
	import { session } from '../../../app/session.svelte';
	import NumberField from '../../../lib/ui/NumberField.svelte';
	import { show } from '../../../lib/units/units';
	import type { RackState } from '../rack.svelte';
	import CardDrawing from './CardDrawing.svelte';
	import CardShows from './CardShows.svelte';
	import CardTitle from './CardTitle.svelte';
	import { chosen, measureOf, optionsFor, standing } from './entry';
	import { word } from '../../../words/words';

	let { rack, card }: { rack: RackState; card: CardOut } = $props();
	const options = $derived(optionsFor(card.kind));
	const results = $derived(standing(card));
	// svelte-ignore state_referenced_locally (begins at the first cell without a result)
	let at = $state(
		Math.max(
			card.cells.findIndex((c) => !standing(card).has(c.id)),
			0
		)
	);
	const cell = $derived(card.cells[at]!);
	const value = $derived(results.get(cell.id));
	const said = $derived(chosen(options, value));
	const ask = $derived(measureOf(card, cell));
	let far = $state<number | null>(null);
	let drawing: ReturnType<typeof CardDrawing>;
	let problem = $state('');

	async function say(index: number, option: number | null) {
		problem = '';
		const kept = rack.enter(card.cells[index]!.id, option === null ? null : options[option]!.value);
		if (option !== null && index < card.cells.length - 1) drawing.focus(index + 1);
		try {
			await kept;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	async function measured(mm: number) {
		await rack.enter(cell.id, { [ask.field]: mm, ...(far === null ? {} : { below_mm: far }) });
		far = null;
		if (at < card.cells.length - 1) at += 1;
	}
</script>

<div class="table">
	<CardTitle {rack} {card} />
	<CardDrawing bind:this={drawing} {card} {at} onpick={(i) => (at = i)} onsay={say} />
	<div class="entry" role="group" aria-label={word('sheets.enter-results')}>
		<div class="say">
			{#if options.length}
				<b>{cell.what} {cell.label}</b>
				<div class="options" role="radiogroup" aria-label={word('sheets.what-came-of', { what: cell.what, label: cell.label })}>
					{#each options as o, i (o.name)}
						<button role="radio" aria-checked={said === o} class:on={said === o} style:--shade={o.colour} onclick={() => say(at, i)}
							><kbd>{i + 1}</kbd> {o.name}</button
						>
					{/each}
				</div>
				<p class="quiet">{word('sheets.press-a-cell-or-walk-with')}</p>
			{:else}
				{#key cell.id}
					<b>{ask.ask}</b>
					<div class="fields">
						<NumberField
							label={word('sheets.it-measures')}
							value={typeof value?.[ask.field] === 'number' ? (value[ask.field] as number) : null}
							unit={session.unit}
							fine
							oncommit={measured}
						/>
						{#if cell.what === 'slot' && card.kind === 'gaps'}
							<NumberField
								label={word('sheets.far-face-first-if-you-want')}
								value={typeof value?.below_mm === 'number' ? value.below_mm : far}
								unit={session.unit}
								fine
								placeholder={word('sheets.same')}
								oncommit={(mm) => void (far = mm)}
							/>
						{/if}
					</div>
					<p class="quiet">
						{word('sheets.drawn-enter-keeps-it-and-goes', {
							kind: card.kind === 'steps' ? word('sheets.with-pass', { passes: Number(cell.label) }) : show(cell.value, session.unit, true)
						})}
					</p>
				{/key}
			{/if}
			{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		</div>
		<CardShows {rack} {card} />
	</div>
</div>

<style>
	.table {
		display: grid;
		grid-template-rows: auto minmax(0, 1fr) auto;
		min-width: 0;
		min-height: 0;
	}
	.entry {
		display: grid;
		grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
		gap: 22px;
		padding: 10px 18px 12px;
		background: var(--bench);
		min-height: 132px;
	}
	.options {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
		margin: 6px 0;
	}
	.options button {
		border: 1px solid var(--rule);
		border-bottom: 4px solid var(--shade);
		border-radius: 4px;
		padding: 4px 10px;
	}
	.options button:hover {
		background: var(--pick);
	}
	.options button.on {
		background: var(--shade);
		color: #10201b;
		border-color: var(--shade);
		font-weight: 650;
	}
	kbd {
		font-family: var(--font-mono);
		color: var(--ink-2);
	}
	.on kbd {
		color: inherit;
	}
	.fields {
		max-width: 330px;
	}
</style>
