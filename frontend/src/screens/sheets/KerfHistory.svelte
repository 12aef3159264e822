<!-- The kerf as it was learned: pooled after each test, with what that test alone said. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { day, showKerf } from '../../lib/units/units';
	import { kerfTestName } from '../../lib/ui/kerftests';
	import { word } from '../../words/words';

	let { stock }: { stock: StockOut } = $props();
	const kerfs = $derived([
		{
			key: 'default',
			name: word('sheets.default'),
			on: '',
			value: stock.default_kerf_mm,
			sd: 0.05,
			single: stock.default_kerf_mm
		},
		...stock.kerf_tests
			.filter((k) => !k.withdrawn)
			.map((k) => ({
				key: String(k.id),
				name: k.borrowed ? word('sheets.borrowed', { kind: kerfTestName(k.kind) }) : kerfTestName(k.kind),
				on: k.on,
				value: k.pooled_mm,
				sd: k.pooled_sd_mm,
				single: k.kerf_mm
			}))
	]);
	const kerfLine = $derived.by(() => {
		const all = kerfs.flatMap((k) => [k.value - k.sd, k.value + k.sd, k.single]);
		const [low, high] = [Math.min(...all), Math.max(...all)];
		return (v: number) => 62 - (48 * (v - low)) / Math.max(high - low, 0.01);
	});
	const kx = (i: number) => 50 + (470 * i) / Math.max(kerfs.length - 1, 3);
</script>

<div class="kerf">
	<b>{word('sheets.kerf-as-it-was-learned')}</b>
	<svg viewBox="0 0 700 92" role="img" aria-label={word('sheets.kerf-after-each-test')}>
		<polyline points={kerfs.map((k, i) => `${kx(i)},${kerfLine(k.value)}`).join(' ')} fill="none" stroke="#cfeee4" />
		{#each kerfs as k, i (k.key)}
			<rect
				x={kx(i) - 3}
				width="6"
				y={kerfLine(k.value + k.sd)}
				height={Math.max(kerfLine(k.value - k.sd) - kerfLine(k.value + k.sd), 1)}
				fill="#cfeee4"
				opacity="0.35"
			/>
			{#if k.key !== 'default'}<path d="M{kx(i) - 8} {kerfLine(k.single)}h16" stroke="#cfeee4" opacity="0.7" />{/if}
			<circle cx={kx(i)} cy={kerfLine(k.value)} r="4" fill="#fff" />
			<text x={kx(i)} y="86">{k.name}{k.on ? `, ${day(k.on)}` : ''}</text>
		{/each}
		<text x="690" y={kerfLine(kerfs[kerfs.length - 1]!.value) + 4} class="now" text-anchor="end"
			>{showKerf(stock.value.kerf.value, session.unit)} ± {showKerf(stock.value.kerf.sd, session.unit)}</text
		>
	</svg>
</div>

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
	text.now {
		fill: #fff;
		font-size: 14px;
		text-anchor: end;
	}
	.kerf {
		margin-top: 8px;
	}
	b {
		font-weight: 550;
	}
</style>
