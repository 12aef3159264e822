<!-- Sheets and offcuts of this stock on the shelf. -->
<script lang="ts">
	import type { Point, StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import { MM_PER_INCH, show, unitName } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	let w = $state(600);
	let h = $state(400);
	let count = $state(1);
	let price = $state(0);
	let grain = $state('along');
	let place = $state('');
	let offcut = $state(false);
	let corners = $state('');
	let problem = $state('');
	const id = $props.id();

	/** Corners as typed, `0,0 300,0 120,180`, in the reader's unit; millimetres come out. */
	function outline(): Point[] {
		const per = session.unit === 'mm' ? 1 : session.unit === 'thou' ? MM_PER_INCH / 1000 : MM_PER_INCH;
		const pairs = corners.trim().split(/\s+/).filter(Boolean);
		return pairs.map((pair) => {
			const [x, y] = pair.split(',').map(Number);
			if (!Number.isFinite(x) || !Number.isFinite(y))
				throw new Error(`“${pair}” is not a corner. Write each as across,up: 0,0 300,0 120,180`);
			return [x! * per, y! * per];
		});
	}
	async function add(event: Event) {
		if (!(await settled(event))) return;
		problem = '';
		try {
			const shape = offcut ? outline() : [];
			const size = shape.length ? 'odd shape' : `${show(w, session.unit)} × ${show(h, session.unit)}`;
			const name = `${offcut ? 'Offcut' : stock.value.name}, ${size}`.slice(0, 80);
			await rack.shelve({ name, width_mm: w, height_mm: h, count, price, grain, place, is_offcut: offcut, outline: shape });
			corners = '';
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<section aria-label="Shelf">
	{#each stock.sheets as s (s.id)}
		<NumberField
			label={s.name + (s.place ? `, ${s.place}` : '')}
			kind="count"
			value={s.count}
			oncommit={(n) => rack.changeSheets(s.id, { count: n })}
		/>
	{/each}
	<p class="quiet mt-2">Put more on the shelf</p>
	<label class="flex items-center gap-2 py-1"><input type="checkbox" bind:checked={offcut} /> an offcut</label>
	<NumberField label="Width" value={w} unit={session.unit} oncommit={(mm) => void (w = mm)} />
	<NumberField label="Height" value={h} unit={session.unit} oncommit={(mm) => void (h = mm)} />
	{#if offcut}
		<label for="{id}c"
			>Corners of an odd shape, {unitName(session.unit)}<input
				id="{id}c"
				class="line"
				placeholder="0,0 300,0 300,80 120,180"
				bind:value={corners}
			/></label
		>
	{/if}
	<NumberField label="Sheets" kind="count" value={count} oncommit={(n) => void (count = n)} />
	<NumberField label="Price each" kind="number" value={price} oncommit={(n) => void (price = n)} />
	<div class="two">
		<label for="{id}g"
			>Grain
			<select id="{id}g" bind:value={grain}>
				<option value="along">along the width</option><option value="across">across it</option><option value="none">none</option>
			</select></label
		>
		<label for="{id}p">Place<input id="{id}p" class="line" placeholder={stock.shelf} maxlength="40" bind:value={place} /></label>
	</div>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<button class="btn main mt-2" onclick={add}>Put on the shelf</button>
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
	}
	.two {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 8px;
	}
	.line,
	select {
		width: 100%;
		border: 1px solid var(--rule);
		border-radius: 4px;
		background-color: var(--bench);
		color: var(--ink);
		padding: 4px 7px;
		font-size: 13px;
	}
</style>
