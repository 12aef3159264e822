<!-- The reel: strokes in order along time, true to length; scrub it or let it play. -->
<script lang="ts">
	import type { SheetPlan } from '../../api/types';
	import { clock } from '../../lib/units/units';
	import ReelStrokes from './ReelStrokes.svelte';
	import { word } from '../../words/words';

	let { sheet, labels, t = $bindable() }: { sheet: SheetPlan; labels: Record<string, string>; t: number } = $props();
	let playing = $state(false);
	let width = $state(900);
	const total = $derived(Math.max(sheet.seconds, 0.001));
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
	<ReelStrokes {sheet} {labels} {t} {width} {total} />
	<input
		type="range"
		min="0"
		max={total}
		step={total / 2000}
		value={t}
		oninput={(e) => ((playing = false), (t = Number(e.currentTarget.value)))}
		aria-label={word('cut-plan.moment-of-the-cut')}
		aria-valuetext={clock(t)}
	/>
	<div class="bar">
		<button class="on-mat" onclick={play}>{playing ? word('cut-plan.hold') : word('cut-plan.play')}</button>
		<span class="fig" data-testid="moment">{word('cut-plan.of', { t: clock(t), total: clock(total) })}</span>
		<span class="key"
			><i class="outer"></i>{word('cut-plan.outer-cut')} <i class="inner"></i>{word('cut-plan.inner-cut')}
			<i class="score"></i>{word('cut-plan.score-2')}{#if engraves}<i class="engrave"></i>{word('cut-plan.engrave-2')}{/if}</span
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
		background: #6d6190;
	}
	i.score {
		height: 5px;
		background: #d0a63c;
	}
</style>
