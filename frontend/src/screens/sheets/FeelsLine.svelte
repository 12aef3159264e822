<!-- Feels as dots on a line of clearance, over the boundaries that were learned from them. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { FEELS, feelName } from '../../lib/ui/feels';
	import { day, signed } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { stock, fit }: { stock: StockOut; fit: StockOut['fits'][number] } = $props();
	const pair = $derived(new Set([stock.value.id, fit.mate]));
	const feels = $derived(
		stock.feels.filter(
			(f) => !f.withdrawn && new Set([f.opening, f.entering]).size === pair.size && pair.has(f.opening) && pair.has(f.entering)
		)
	);
	const edges = $derived([fit.boundaries.rattles, fit.boundaries.slides, fit.boundaries.snug, fit.boundaries.mallet]);
	const span = $derived.by(() => {
		const all = [...edges, ...feels.map((f) => f.clearance_mm)];
		const [low, high] = [Math.min(...all), Math.max(...all)];
		const pad = Math.max((high - low) * 0.12, 0.04);
		return { low: low - pad, high: high + pad };
	});
	// loose on the left, as on every band
	const at = (c: number) => 30 + (640 * (span.high - c)) / (span.high - span.low);
	const colour = (key: string) => FEELS.find((f) => f.key === key)?.colour;
	const marks = $derived([span.high, ...edges, span.low]);
</script>

<div class="feels">
	<b>{word('sheets.feels-with', { mate: fit.mate === stock.value.id ? word('sheets.itself') : fit.name })}</b>
	<span>{session.told(fit.boundaries.source)}{fit.boundaries.on ? `, ${day(fit.boundaries.on)}` : ''}</span>
	<svg viewBox="0 0 700 62" role="img" aria-label={word('sheets.feels-by-clearance-with-the-boundaries')}>
		{#each FEELS as f, i (f.key)}
			<rect x={at(marks[i]!)} width={Math.max(at(marks[i + 1]!) - at(marks[i]!), 0)} y="26" height="9" fill={f.colour} />
		{/each}
		{#each edges as e, i (i)}
			{@const sd = fit.boundaries.sds?.[i] ?? 0}
			<path d="M{at(e + sd)} 39H{at(e - sd)}" stroke="#e6f2ee" stroke-width="2" />
			<text x={at(e)} y="54">{signed(e, session.unit)}</text>
		{/each}
		{#each feels as f (f.id)}
			<circle cx={at(f.clearance_mm)} cy="15" r="6" fill={colour(f.feel)} stroke="#fff">
				<title
					>{word('sheets.at', {
						feel: feelName(f.feel),
						clearancemm: signed(f.clearance_mm, session.unit),
						on: day(f.on),
						by: f.by
					})}</title
				>
			</circle>
		{/each}
		<path d="M{at(fit.targets.snug ?? 0)} 22V40" stroke="#fff" stroke-width="3" />
	</svg>
</div>

<style>
	.feels {
		margin-top: 10px;
	}
	b {
		font-weight: 550;
	}
	span {
		color: var(--mat-ink-2);
		margin-left: 10px;
		font-size: 12px;
	}
	svg {
		width: 100%;
		max-width: 760px;
		display: block;
	}
	text {
		fill: var(--mat-ink-2);
		font: 11px var(--font-mono);
		text-anchor: middle;
	}
</style>
