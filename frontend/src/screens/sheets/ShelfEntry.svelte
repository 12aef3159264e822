<!-- Sheets and offcuts of this stock on the shelf, and more of them. -->
<script lang="ts">
	import { traceSheet } from '../../api/files';
	import type { Point, StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { readCorners, writeCorners } from './offcut';
	import OffcutPad from './OffcutPad.svelte';
	import OnTheShelf from './OnTheShelf.svelte';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	let w = $state(600);
	let h = $state(400);
	let count = $state(1);
	let price = $state(0);
	let grain = $state('along');
	let place = $state('');
	let offcut = $state(false);
	let corners = $state.raw<Point[]>([]);
	let bad = $state.raw<Point[][]>([]);
	let light = $state(true);
	const attempt = new Attempt();
	const id = $props.id();

	/** The outline of a piece on a photo; its width is what is typed above. */
	async function trace(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		event.currentTarget.value = '';
		if (file)
			await attempt.at(async () => {
				corners = await traceSheet(file, w, light);
				h = Math.max(...corners.map((p) => p[1]));
			});
	}
	async function add(event: Event) {
		if (!(await settled(event))) return;
		await attempt.at(async () => {
			const shape = offcut ? corners : [];
			const size = shape.length ? word('sheets.odd-shape') : `${show(w, session.unit)} × ${show(h, session.unit)}`;
			const name = `${offcut ? word('sheets.offcut-2') : stock.value.name}, ${size}`.slice(0, 80);
			await rack.shelve({
				name,
				width_mm: w,
				height_mm: h,
				count,
				price,
				grain,
				place,
				is_offcut: offcut,
				outline: shape,
				bad: offcut ? bad : []
			});
			[corners, bad] = [[], []];
		});
	}
</script>

<section aria-label={word('sheets.shelf')}>
	<OnTheShelf {rack} {stock} />
	<p class="quiet mt-2">{word('sheets.put-more-on-the-shelf')}</p>
	<label class="flex items-center gap-2 py-1"><input type="checkbox" bind:checked={offcut} /> {word('sheets.an-offcut')}</label>
	<NumberField label={word('sheets.width')} value={w} unit={session.unit} oncommit={(mm) => void (w = mm)} />
	<NumberField label={word('sheets.height')} value={h} unit={session.unit} oncommit={(mm) => void (h = mm)} />
	{#if offcut}
		<p class="quiet">{word('sheets.width-and-height-are-measured-over')}</p>
		<OffcutPad width={w} height={h} {corners} {bad} oncorners={(c) => (corners = c)} onbad={(b) => (bad = b)} />
		<label for="{id}c"
			>{word('sheets.corners-of-an-odd-shape', { size: unitName(session.unit) })}<input
				id="{id}c"
				class="input"
				placeholder="0,0 300,0 300,80 120,180"
				value={writeCorners(corners, session.unit)}
				onchange={(e) => attempt.at(() => (corners = readCorners(e.currentTarget.value, session.unit)))}
			/></label
		>
		<label class="photo" for="{id}f"
			>{word('sheets.or-from-a-photo-from-straight')}<input id="{id}f" type="file" accept="image/png,image/jpeg" onchange={trace} /></label
		>
		<label class="flex items-center gap-2 py-1"
			><input type="checkbox" bind:checked={light} /> {word('sheets.lighter-than-the-ground-it-lies')}</label
		>
	{/if}
	<NumberField label={word('sheets.sheets')} kind="count" value={count} oncommit={(n) => void (count = n)} />
	<NumberField label={word('sheets.price-each')} kind="number" value={price} oncommit={(n) => void (price = n)} />
	<div class="two">
		<label for="{id}g"
			>{word('sheets.grain-2')}
			<select class="select" id="{id}g" bind:value={grain}>
				<option value="along">{word('sheets.along-the-width')}</option><option value="across">{word('sheets.across-it')}</option><option
					value="none">{word('sheets.none')}</option
				>
			</select></label
		>
		<label for="{id}p"
			>{word('sheets.place')}<input id="{id}p" class="input" placeholder={stock.shelf} maxlength="40" bind:value={place} /></label
		>
	</div>
	{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
	<button class="btn main mt-2" onclick={add}>{word('sheets.put-on-the-shelf')}</button>
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
	.photo input {
		display: block;
		width: 100%;
		font-size: 12.5px;
	}
</style>
