<!-- The reel: strokes in order along time, true to length; scrub it or let it play. -->
<script lang="ts">
	import type { SheetPlan } from '../../api/types';
	import { clock } from '../../lib/units/units';
	import { freedAt } from './order';
	import { word } from '../../words/words';

	let { sheet, labels, t = $bindable() }: { sheet: SheetPlan; labels: Record<string, string>; t: number } = $props();
	let playing = $state(false);
	let width = $state(900);
	const total = $derived(Math.max(sheet.seconds, 0.001));
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
				const name = word(s.path.bridges?.length ? 'cutplan.is-held' : 'cutplan.comes-free', { part: labels[s.path.part] });
				const half = name.length * 3.6;
				const middle = Math.min(Math.max(at, half + 8), width - half - 8); // whole at both ends
				const told = middle - half > clear;
				if (told) clear = middle + half + 8;
				return { id: s.path.id, at, middle, name: told ? name : '' };
			});
	});
	const TALL: Record<string, number> = { engrave: 30, score: 14, inner: 24 };
	const engraves = $derived(sheet.strokes.some((s) => s.path.operation === 'engrave'));
	const SECONDS_TO_PLAY = 24;
	$effect(() => {
		if (!playing) return;
		let last = performance.now();
		let frame = requestAnimationFrame(function tick(now) {
			t = Math.min(t + ((now - last) / 1000) * (total / SECONDS_TO_PLAY), total);
			last = now;
			if (t >= total) playing = false;
			else frame = requestAnimationFrame(tick);
		});
		return () => cancelAnimationFrame(frame);
	});
	function play() {
		if (t >= total) t = 0;
		playing = !playing;
	}
	function jump(by: number) {
		playing = false;
		const ends = [0, ...sheet.strokes.map((s) => s.end)];
		t = by > 0 ? (ends.find((e) => e > t + 1e-6) ?? total) : ([...ends].reverse().find((e) => e < t - 1e-6) ?? 0);
	}
	function key(event: KeyboardEvent) {
		const on = event.target as HTMLElement;
		if (on.closest('input:not([type=range]), select, textarea, .surface')) return;
		if (event.key === ' ' && !on.closest('button')) play();
		else if (event.key === 'ArrowRight') jump(1);
		else if (event.key === 'ArrowLeft') jump(-1);
		else return;
		event.preventDefault();
	}
</script>

<svelte:window onkeydown={key} />
<div class="reel" bind:clientWidth={width}>
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
	<input
		type="range"
		min="0"
		max={total}
		step={total / 2000}
		value={t}
		oninput={(e) => ((playing = false), (t = Number(e.currentTarget.value)))}
		aria-label={word('cutplan.moment-of-the-cut')}
		aria-valuetext={clock(t)}
	/>
	<div class="bar">
		<button class="on-mat" onclick={play}>{playing ? word('cutplan.hold') : word('cutplan.play')}</button>
		<span class="fig" data-testid="moment">{word('cutplan.of', { t: clock(t), total: clock(total) })}</span>
		<span class="key"
			><i class="outer"></i>{word('cutplan.outer-cut')} <i class="inner"></i>{word('cutplan.inner-cut')}
			<i class="score"></i>{word('cutplan.score-2')}{#if engraves}<i class="engrave"></i>{word('cutplan.engrave-2')}{/if}</span
		>
	</div>
</div>

<style>
	.reel {
		position: relative;
		background: var(--color-mat-deep);
		border-top: 1px solid #4f8377;
		color: var(--mat-ink);
		overflow: hidden;
	}
	svg {
		display: block;
	}
	text {
		font: 11.5px var(--font-mono);
		fill: var(--mat-ink-2);
	}
	rect.outer {
		fill: #8e4a30;
	}
	rect.inner {
		fill: #83695a;
	}
	rect.engrave,
	i.engrave {
		fill: #6d6190;
		background: #6d6190;
	}
	rect.engrave.done {
		fill: #c58bd0;
	}
	rect.score {
		fill: #b08a2a;
	}
	rect.done {
		fill: var(--color-ember);
	}
	rect.inner.done {
		fill: #f39069;
	}
	rect.score.done {
		fill: #e2b43c;
	}
	input {
		position: absolute;
		left: 12px;
		right: 12px;
		top: 24px;
		width: calc(100% - 24px);
		height: 62px;
		opacity: 0;
		cursor: ew-resize;
	}
	input:focus-visible + .bar {
		outline: 2px solid #fff;
	}
	.bar {
		display: flex;
		gap: 16px;
		align-items: center;
		padding: 0 24px 8px;
	}
	.key {
		margin-left: auto;
		font-size: 12px;
		color: var(--mat-ink-2);
	}
	i {
		display: inline-block;
		width: 12px;
		margin: 0 4px 0 12px;
		vertical-align: middle;
	}
	i.outer {
		height: 14px;
		background: #c85a33;
	}
	i.inner {
		height: 10px;
		background: #b48a74;
	}
	i.engrave {
		height: 13px;
	}
	i.score {
		height: 5px;
		background: #d0a63c;
	}
</style>
