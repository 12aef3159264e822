<!-- The sheet's face: readings at their spots, and the field for the next one. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { show } from '../../lib/units/units';
	import FeelsLine from './FeelsLine.svelte';
	import KerfHistory from './KerfHistory.svelte';
	import MoreReadings from './MoreReadings.svelte';
	import type { RackState } from './rack.svelte';
	import ReadingsLine from './ReadingsLine.svelte';
	import ReadingsTold from './ReadingsTold.svelte';
	import SheetEdge from './SheetEdge.svelte';
	import SheetSpots from './SheetSpots.svelte';
	import SheetTitle from './SheetTitle.svelte';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	const sheet = $derived(stock.sheets.find((s) => !s.is_offcut) ?? stock.sheets[0]);
	const [w, h] = $derived([sheet?.width_mm ?? 600, sheet?.height_mm ?? 400]);
	const felt = $derived(stock.fits.filter((f) => (f.boundaries.answers ?? 0) > 0));
	const material = $derived(rack.rack?.materials.find((f) => f.id === stock.value.material));
	const queue = $derived(rack.typed);
	const wrong = $derived(queue.unread || (queue.failed[0]?.wrong ?? ''));
	let spot = $state<{ x: number; y: number } | null>(null);
	const next = $derived(spot ?? rack.spot);
	let field: HTMLInputElement;

	/** The field is free again at once: the next reading can be typed while this one is on its way. */
	function keep(event: KeyboardEvent) {
		if (event.key === 'Escape') {
			if (!queue.text) field.blur(); // then the keys 1 to 6 switch stations again
			[queue.text, queue.unread] = ['', ''];
		}
		if (event.key !== 'Enter' || !queue.text.trim()) return;
		queue.enter(queue.text, session.unit, next, rack.target);
		[queue.text, spot] = ['', null];
	}
	/** Take what was not kept back into the field. */
	function mend(key: number, text: string) {
		queue.drop(key);
		queue.text = text;
		field.focus();
	}
	function pick(at: { x: number; y: number }) {
		spot = at;
		field.focus();
	}
	$effect(() => {
		rack.focusReading = () => field.focus({ preventScroll: true });
		rack.focusReading();
	});
</script>

<div class="mat face">
	<SheetTitle {rack} {stock} />

	<div class="work">
		<div class="sheet" style:aspect-ratio="{w} / {h}">
			<SheetSpots {rack} colour={stock.value.colour} grained={material?.grained ?? false} {next} onpick={pick}>
				<input
					class="fig"
					aria-label={word('sheets.thickness-reading')}
					aria-invalid={!!wrong}
					placeholder="?"
					bind:this={field}
					bind:value={queue.text}
					onkeydown={keep}
					autocomplete="off"
				/>
			</SheetSpots>
			<span class="dim w"
				>{show(w, session.unit)}
				{material?.grained && sheet?.grain !== 'none'
					? `· ${word('sheets.grain', { grain: sheet?.grain === 'across' ? '↑' : '→' })}`
					: ''}</span
			>
			<span class="dim h">{show(h, session.unit)}</span>
		</div>
		<SheetEdge {stock} readings={rack.readings.length} plies={material?.plies ?? false} />
	</div>
	<ReadingsTold {rack} {wrong} onmend={mend} />

	{#if !rack.coming}<MoreReadings {rack} stockId={stock.value.id} />{/if}
	<ReadingsLine {stock} />
	{#each felt as fit (fit.mate)}<FeelsLine {stock} {fit} />{/each}
	<KerfHistory {stock} />
</div>

<style>
	.face {
		overflow: auto;
		padding: 16px 26px;
		background-image:
			linear-gradient(var(--mat-line-5) 1px, transparent 1px), linear-gradient(90deg, var(--mat-line-5) 1px, transparent 1px),
			linear-gradient(var(--mat-line) 1px, transparent 1px), linear-gradient(90deg, var(--mat-line) 1px, transparent 1px);
		background-size:
			60px 60px,
			60px 60px,
			12px 12px,
			12px 12px;
	}
	.work {
		display: flex;
		gap: 62px;
		align-items: flex-start;
		white-space: nowrap;
	}
	.sheet {
		position: relative;
		height: min(31vh, 300px);
		min-height: 190px;
		max-width: calc(100% - 190px);
		flex: none;
	}
	.sheet input {
		width: 38px;
		text-align: center;
		background: none;
		border: 0;
		outline: none;
		box-shadow: none;
		padding: 0;
		color: #0c1412;
		font-weight: 650;
		font-size: 13px;
	}
	.dim {
		position: absolute;
		font-size: 12px;
		color: var(--mat-ink);
	}
	.dim.w {
		left: 0;
		right: 0;
		bottom: -22px;
		text-align: center;
	}
	.dim.h {
		left: calc(100% + 10px);
		top: 46%;
	}
</style>
