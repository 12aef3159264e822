<!-- The strokes of a sheet along time, true to length, with the moments at which its parts come free. -->
<script lang="ts">
	import type { SheetPlan } from '../../api/types';
	import { clock } from '../../lib/units/units';
	import { freedAt } from './order';
	import { word } from '../../words/words';

	let { sheet, labels, t, width, total }: { sheet: SheetPlan; labels: Record<string, string>; t: number; width: number; total: number } =
		$props();
	const x = (s: number) => 24 + ((width - 48) * s) / total;
	const ticks = $derived.by(() => {
		const step = [5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600].find((s) => total / s <= 8) ?? 7200;
		return Array.from({ length: Math.floor(total / step) + 1 }, (_, i) => i * step);
	});
	const frees = $derived.by(() => {
		let clear = -200; // where the label before ends
		return sheet.strokes
			.filter((s) => s.path.operation === 'outer' && s.path.through !== false)
			.map((s) => {
				const at = x(freedAt(s, sheet.strokes));
				const name = word(s.path.bridges?.length ? 'cut-plan.is-held' : 'cut-plan.comes-free', { part: labels[s.path.part] });
				const half = name.length * 3.6;
				const middle = Math.min(Math.max(at, half + 8), width - half - 8); // whole at both ends
				const told = middle - half > clear;
				if (told) clear = middle + half + 8;
				return { id: s.path.id, at, middle, name: told ? name : '' };
			});
	});
	const TALL: Record<string, number> = { engrave: 30, score: 14, inner: 24 };
</script>

<svg {width} height="112" aria-hidden="true">
	{#each ticks as s (s)}<text x={x(s)} y="20" text-anchor={s === 0 ? 'start' : 'middle'}>{clock(s)}</text>{/each}
	{#each sheet.strokes as s (s.path.id)}
		{@const done = s.end <= t}
		{@const w = Math.max(x(s.end) - x(s.burn_from) - 0.6, 0.8)}
		<rect
			class={s.path.operation}
			class:done
			x={x(s.burn_from)}
			y={s.path.operation === 'score' ? 46 : 36}
			width={w}
			height={TALL[s.path.operation] ?? 34}
		/>
	{/each}
	{#each frees as f (f.id)}<path d="M{f.at} 74V84" stroke="#a9cbc1" />{#if f.name}<text x={f.middle} y="98" text-anchor="middle"
				>{f.name}</text
			>{/if}{/each}
	<path d="M{x(t)} 34V84M{x(t) - 6} 27H{x(t) + 6}L{x(t)} 35Z" stroke="#fff" stroke-width="2" fill="#fff" />
</svg>

<style>
	svg {
		display: block;
	}
	text {
		font: 11.5px var(--font-mono);
		fill: var(--mat-ink-2);
	}
	.outer {
		fill: #8e4a30;
	}
	.inner {
		fill: #83695a;
	}
	.engrave {
		fill: #6d6190;
	}
	.engrave.done {
		fill: #c58bd0;
	}
	.score {
		fill: #b08a2a;
	}
	.done {
		fill: var(--color-ember);
	}
	.inner.done {
		fill: #f39069;
	}
	.score.done {
		fill: #e2b43c;
	}
</style>
