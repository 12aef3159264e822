<!-- The assembly player: step by step, each part on its straight way in. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import { firstOfItsOwn, wayIn, withinOf, type AnyStep } from './scope';
	import { word } from '../../words/words';

	let {
		steps,
		names,
		at = $bindable(),
		move = $bindable()
	}: { steps: readonly AnyStep[]; names: Map<string, string>; at: number; move: number } = $props();
	let playing = $state(false);
	const done = $derived(at >= steps.length);
	const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
	const STEP_MS = 1100;

	$effect(() => {
		if (!playing) return;
		let last = performance.now();
		let began = last; // of this step, for those who want no motion
		let frame = requestAnimationFrame(function tick(now) {
			move = still ? 1 : Math.min(move + (now - last) / (STEP_MS * 0.75), 1.35);
			last = now;
			if (move >= 1.35 || (still && now - began > STEP_MS)) {
				began = now;
				if (at >= steps.length - 1) {
					playing = false;
					at = steps.length;
					return;
				}
				at += 1;
				move = 0;
			}
			frame = requestAnimationFrame(tick);
		});
		return () => cancelAnimationFrame(frame);
	});
	function play() {
		if (done) [at, move] = [0, 0];
		playing = !playing;
	}
	function step(by: number) {
		playing = false;
		at = Math.min(Math.max((done ? steps.length : at) + by, 0), steps.length);
		move = 1;
	}
	function key(event: KeyboardEvent) {
		if ((event.target as HTMLElement).closest('input, select, textarea, .surface')) return;
		if (event.key === ' ' && !(event.target as HTMLElement).closest('button')) play();
		else if (event.key === 'ArrowRight') step(1);
		else if (event.key === 'ArrowLeft') step(-1);
		else return;
		event.preventDefault();
	}
	const words = $derived.by(() => {
		if (done) return word('dry-fit.all-together');
		const s = steps[at]!;
		const way = firstOfItsOwn(steps, at) ? word('dry-fit.lay-down') : wayIn(s, session.unit);
		return `${withinOf(s) ? `${word('dry-fit.apart')} ` : ''}${s.parts.map((p) => names.get(p)).join(' + ')}, ${way}`;
	});
</script>

<svelte:window onkeydown={key} />
{#if steps.length}
	<div class="player" role="group" aria-label={word('dry-fit.assembly-player')}>
		<button class="on-mat" aria-label={word('dry-fit.step-back')} onclick={() => step(-1)}>←</button>
		<button class="on-mat active" onclick={play}>{playing ? word('dry-fit.hold') : word('dry-fit.put-together')}</button>
		<button class="on-mat" aria-label={word('dry-fit.step-on')} onclick={() => step(1)}>→</button>
		<span class="fig">{done ? steps.length : at + 1} / {steps.length}</span><span data-testid="step">{words}</span>
	</div>
{/if}

<style>
	.player {
		position: absolute;
		left: 16px;
		bottom: 14px;
		display: flex;
		gap: 10px;
		align-items: center;
		color: var(--mat-ink);
		background: rgba(18, 54, 47, 0.75);
		padding: 6px 10px;
		border-radius: 4px;
	}
</style>
