<!-- Sheets and offcuts of this stock on the shelf. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending';
	import { show } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	let w = $state(600);
	let h = $state(400);
	let count = $state(1);
	let price = $state(0);
	let offcut = $state(false);
	let problem = $state('');

	async function add(event: Event) {
		if (!(await settled(event))) return;
		problem = '';
		try {
			const name = `${offcut ? 'Offcut' : stock.value.name}, ${show(w, session.unit)} × ${show(h, session.unit)}`;
			await rack.shelve({
				name: name.slice(0, 80),
				width_mm: w,
				height_mm: h,
				count,
				price,
				is_offcut: offcut
			});
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<section aria-label="Shelf">
	{#each stock.sheets as s (s.id)}
		<NumberField label={s.name} kind="count" value={s.count} oncommit={(n) => rack.countSheets(s.id, n)} />
	{/each}
	<p class="quiet mt-2">Put more on the shelf</p>
	<NumberField label="Width" value={w} unit={session.unit} oncommit={(mm) => void (w = mm)} />
	<NumberField label="Height" value={h} unit={session.unit} oncommit={(mm) => void (h = mm)} />
	<NumberField label="Sheets" kind="count" value={count} oncommit={(n) => void (count = n)} />
	<NumberField label="Price each" kind="number" value={price} oncommit={(n) => void (price = n)} />
	<label class="flex items-center gap-2 py-1"><input type="checkbox" bind:checked={offcut} /> an offcut</label>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<button class="btn main" onclick={add}>Put on the shelf</button>
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
	}
</style>
