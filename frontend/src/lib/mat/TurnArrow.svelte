<!-- How one part is turned over: the line it is turned about, and the way to its hole. -->
<script lang="ts">
	import type { PartTurn } from '../../api/types';
	import { turnAxis } from './runs';

	let {
		turn,
		scale,
		faint = false
	}: {
		turn: PartTurn;
		scale: number;
		/** once the beam is on its way the arrow is no longer in the way */
		faint?: boolean;
	} = $props();
	const axis = $derived(turnAxis(turn.move));
	const [start, end] = $derived([turn.start as unknown as number[], turn.end as unknown as number[]]);
	const away = $derived(Math.hypot(end[0]! - start[0]!, end[1]! - start[1]!) > 1);
	const degrees = $derived((Math.atan2(axis[1], axis[0]) * 180) / Math.PI);
</script>

<g class="turn" class:faint>
	{#if away}
		{@const bend = [(start[0]! + end[0]!) / 2 - (end[1]! - start[1]!) / 6, (start[1]! + end[1]!) / 2 + (end[0]! - start[0]!) / 6]}
		<path d="M{start.join(' ')}Q{bend.join(' ')} {end.join(' ')}" stroke-width={1.6 / scale} />
		<circle cx={start[0]} cy={start[1]} r={3 / scale} stroke-width={1.6 / scale} />
	{/if}
	<g transform="translate({end[0]} {end[1]}) rotate({degrees}) scale({1 / scale})">
		<path class="halo" d="M-7 -13C-18 -9 -18 9 -7 13M-12 13L-6 13.5L-8 8" />
		<path d="M-26 0H26" stroke-width="1.6" stroke-dasharray="5 4" />
		<path d="M-7 -13C-18 -9 -18 9 -7 13M-12 13L-6 13.5L-8 8" stroke-width="2" />
	</g>
</g>

<style>
	.halo {
		stroke: #fff;
		stroke-width: 6;
		stroke-linecap: round;
	}
	.faint {
		opacity: 0.3;
	}
	.turn {
		fill: none;
		stroke: #0b2b25;
	}
</style>
