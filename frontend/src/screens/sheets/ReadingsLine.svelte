<!-- The readings as dots on a line against the label, with mean and spread. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { stock }: { stock: StockOut } = $props();
	const readings = $derived(stock.readings.filter((r) => !r.withdrawn));
	const own = $derived(readings.some((r) => !r.borrowed) ? readings.filter((r) => !r.borrowed) : readings);
	const odd = $derived(
		new Set((stock.value.findings ?? []).filter((f) => f.code === 'reading_odd').map((f) => own[Number(f.facts?.reading)]?.id))
	);
	const t = $derived(stock.value.thickness);
	const line = $derived.by(() => {
		const values = [...readings.map((r) => r.thickness_mm), t.value - t.sd, t.value + t.sd, stock.value.label];
		const [low, high] = [Math.min(...values), Math.max(...values)];
		const pad = Math.max((high - low) * 0.18, 0.04);
		return { low: low - pad, high: high + pad };
	});
	const at = (v: number) => 30 + (640 * (v - line.low)) / (line.high - line.low);
	const ticks = $derived.by(() => {
		const span = line.high - line.low;
		const step = [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5].find((s) => span / s <= 7) ?? 10;
		const from = Math.ceil(line.low / step) * step;
		return Array.from({ length: Math.floor((line.high - from) / step) + 1 }, (_, i) => from + i * step);
	});
</script>

<svg viewBox="0 0 700 74" role="img" aria-label={word('sheets.readings-on-a-line-against-the')}>
	<line x1="10" x2="690" y1="36" y2="36" stroke="#5d9488" />
	{#each ticks as v (v)}<path d="M{at(v)} 31V41" stroke="#5d9488" /><text x={at(v)} y="58">{show(v, session.unit, true)}</text>{/each}
	<rect
		x={at(t.value - t.sd)}
		width={Math.max(at(t.value + t.sd) - at(t.value - t.sd), 2)}
		y="28"
		height="16"
		fill="#cfeee4"
		opacity="0.28"
	/>
	<path d="M{at(stock.value.label)} 20V44" stroke="#fff" stroke-dasharray="3 3" /><text x={at(stock.value.label)} y="13"
		>{word('sheets.label')}</text
	>
	{#each readings as r (r.id)}{@const far = odd.has(r.id)}<circle
			cx={at(r.thickness_mm)}
			cy="36"
			r={far ? 7 : 5}
			fill={stock.value.colour}
			stroke={far ? '#f0b45a' : '#0e2b26'}
			stroke-width={far ? 3 : 1}
			><title>{show(r.thickness_mm, session.unit, true)}{far ? `, ${word('sheets.far-from-the-others')}` : ''}</title></circle
		>{/each}
	<path d="M{at(t.value)} 20V52" stroke="#fff" stroke-width="2" />
</svg>

<style>
	text {
		fill: var(--mat-ink-2);
		font: 11px var(--font-mono);
		text-anchor: middle;
	}
	svg {
		width: 100%;
		max-width: 760px;
		display: block;
	}
</style>
