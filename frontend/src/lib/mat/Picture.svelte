<!-- A drawn picture of an assembly, with the numbers of its family as lines; the one being changed is lit. -->
<script lang="ts">
	import type { PictureOut } from '../../api/types';
	import { fitted, paint } from './painted';

	let {
		picture,
		colours,
		fallback = '#d9c39a',
		height = 124,
		lit = '',
		lines = false
	}: {
		picture: PictureOut;
		colours: Record<string, string>;
		fallback?: string;
		height?: number;
		/** name of the number to light up */
		lit?: string;
		lines?: boolean;
	} = $props();

	const END_PX = 5;
	let width = $state(0);
	let canvas: HTMLCanvasElement;
	/** by content: a new revision brings the same colours again, and painting is not for nothing */
	const shades = $derived(JSON.stringify(colours));
	const fit = $derived(fitted(picture.bounds as unknown as number[], width, height));
	$effect(() => {
		// painted once: not worth a graphics card, which takes thousands of small faces one by one
		const fine = window.devicePixelRatio || 1;
		if (!width) return;
		[canvas.width, canvas.height] = [Math.round(width * fine), Math.round(height * fine)];
		const context = canvas.getContext('2d', { willReadFrequently: true });
		const of = JSON.parse(shades) as Record<string, string>;
		if (context) paint(context, picture, fit, (stock) => of[stock] || fallback, fine);
	});
	const at = (p: readonly number[]) => [fit.x + fit.scale * p[0]!, fit.y - fit.scale * p[1]!] as const;
	/** A dimension with its end strokes, square to it. */
	function stroke(s: readonly number[], e: readonly number[]) {
		const [a, b] = [at(s), at(e)];
		const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
		const [nx, ny] = [((b[1] - a[1]) / length) * END_PX, ((a[0] - b[0]) / length) * END_PX];
		const ends = [a, b].map(([x, y]) => `M${x - nx} ${y - ny}L${x + nx} ${y + ny}`).join('');
		return `M${a[0]} ${a[1]}L${b[0]} ${b[1]}${ends}`;
	}
</script>

<div class="picture" style:height="{height}px" bind:clientWidth={width} aria-hidden="true">
	<canvas bind:this={canvas}></canvas>
	{#if lines}
		<svg {width} {height}>
			{#each picture.lines as l (l.name)}
				<path class:lit={l.name === lit} data-number={l.name} d={stroke(l.start, l.end)} />
			{/each}
		</svg>
	{/if}
</div>

<style>
	.picture {
		position: relative;
		width: 100%;
		overflow: hidden;
	}
	canvas,
	svg {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
	}
	path {
		fill: none;
		stroke: none;
	}
	path.lit {
		stroke: #0f8a6c;
		stroke-width: 3;
	}
</style>
