<!-- A sheet with its paths: what is burned is ember, what is still to come is ink; the head where it is. -->
<script lang="ts">
	import type { SheetPlan } from '../../api/types';
	import { copyId } from '../ids';
	import { headAt, headOf, type Drawn } from './burn';
	import { contourPoints, inkOn, pictureFrame, ringPath } from './outlines';
	import SheetTurn from './SheetTurn.svelte';
	import TurnArrow from './TurnArrow.svelte';

	let {
		sheet,
		drawn,
		t,
		colour,
		scale,
		picture = () => '',
		squeeze = 1,
		head
	}: {
		sheet: SheetPlan;
		drawn: Drawn[];
		t: number;
		colour: string;
		scale: number;
		/** where the dots of a part's picture are to be had */
		picture?: (part: string, mark: number) => string;
		/** how wide the sheet is seen while it is turned over, 0..1 */
		squeeze?: number;
		head?: { x: number; y: number; burning: boolean; path: string };
	} = $props();
	const now = $derived(head ? headOf(drawn, head, t) : headAt(drawn, t));
	const hatch = $props.id();
	const strokePath = (contour: SheetPlan['strokes'][number]['path']['contour']) => ringPath(contourPoints(contour), contour.closed);
	/** Squeezed towards the line about which the sheet is turned. */
	const seen = $derived.by(() => {
		if (squeeze === 1) return undefined;
		const [w, h] = [sheet.width / 2, sheet.height / 2];
		return sheet.lay?.turn === 'upwards'
			? `translate(0 ${h * (1 - squeeze)}) scale(1 ${squeeze})`
			: `translate(${w * (1 - squeeze)} 0) scale(${squeeze} 1)`;
	});
	const ink = $derived(inkOn(colour));
	const freed = $derived(
		new Set(
			drawn
				.filter(
					(d, i) =>
						i < now.stroke && d.stroke.path.operation === 'outer' && d.stroke.path.through !== false && !d.stroke.path.bridges?.length
				)
				.map((d) => d.stroke.path.id)
		)
	);
</script>

<defs>
	<pattern id={hatch} width={5 / scale} height={5 / scale} patternUnits="userSpaceOnUse">
		<path d="M0 {2.5 / scale}H{5 / scale}" stroke={ink} stroke-width={0.8 / scale} />
	</pattern>
</defs>
<g transform={seen}>
	<path d={ringPath(sheet.ring as number[][])} fill={colour} stroke="#5a4422" stroke-width={1 / scale} style:filter="brightness(0.87)" />
	{#each sheet.outlines ?? [] as o, i (i)}<path
			d={ringPath(o as number[][])}
			fill={colour}
			style:filter={sheet.lay?.kind === 'swapped' ? 'brightness(1.09)' : 'brightness(0.95)'}
			stroke={ink}
			stroke-width={0.7 / scale}
		/>{/each}
	{#each drawn as d (d.stroke.path.id)}
		{#if d.stroke.path.operation === 'outer'}<path
				d={d.d}
				fill={colour}
				style:filter={freed.has(d.stroke.path.id) ? 'brightness(1.09)' : 'brightness(0.98)'}
			/>{/if}
	{/each}
	{#each sheet.printed ?? [] as p (p.id)}<path d={strokePath(p.contour)} fill={ink} fill-opacity="0.55" />{/each}
	{#each drawn as d, i (d.stroke.path.id)}
		{@const done = i < now.stroke}
		{@const score = d.stroke.path.operation === 'score'}
		{@const engrave = d.stroke.path.operation === 'engrave'}
		{#if d.stroke.path.operation === 'inner'}<path d={d.d} fill={done ? '#245349' : 'none'} fill-opacity="0.9" />{/if}
		{#if d.stroke.path.photo}{@const frame = pictureFrame(d.stroke.path.frame as unknown as number[][])}<image
				href={picture(d.stroke.path.part, d.stroke.path.mark ?? 0)}
				width={frame.width}
				height={frame.height}
				transform={frame.transform}
				preserveAspectRatio="none"
				opacity={done ? 1 : 0.35}
			/>{/if}
		<path
			d={d.line}
			fill={d.stroke.path.photo ? 'none' : engrave ? (done ? '#6b4a2b' : `url(#${hatch})`) : 'none'}
			stroke={done ? 'var(--color-ember)' : ink}
			stroke-width={(done ? 1.7 : 1) / scale}
			stroke-dasharray={score ? `${5 / scale} ${4 / scale}` : undefined}
		/>
		{#if i === now.stroke && now.share > 0}<path
				d={d.d}
				fill="none"
				stroke="var(--color-ember)"
				stroke-width={2 / scale}
				pathLength="1"
				stroke-dasharray="{now.share} 1"
			/>{/if}
		{#each d.stroke.path.bridges ?? [] as b, k (k)}<circle
				cx={b[0]}
				cy={b[1]}
				r={3.2 / scale}
				fill={colour}
				stroke={ink}
				stroke-width={1.2 / scale}
			/>{/each}
	{/each}
	{#each sheet.lay?.marks ?? [] as m, i (i)}<g class="mark" transform="translate({m[0]} {m[1]}) scale({1 / scale})"
			><circle r="7" /><path d="M-11 0H11M0 -11V11" /></g
		>{/each}
	{#each sheet.lay?.turns ?? [] as turn (copyId(turn))}<TurnArrow {turn} {scale} faint={t > 0} />{/each}
</g>
{#if sheet.lay?.kind === 'turned'}<SheetTurn {sheet} {scale} />{/if}
{#if now.from && !head}<path
		d="M{now.from.join(' ')}L{now.at.join(' ')}"
		stroke="#fff"
		stroke-width={1 / scale}
		stroke-dasharray="{2 / scale} {4 / scale}"
	/>{/if}
<g transform="translate({now.at[0]} {now.at[1]}) scale({1 / scale})">
	<circle r="12" fill="none" stroke="var(--color-ember)" stroke-width="2" />
	<path d="M-18 0H18M0 -18V18" stroke="var(--color-ember)" />
	{#if now.burning}<circle r="4" fill="var(--color-ember)" />{/if}
</g>

<style>
	.mark {
		fill: none;
		stroke: #fff;
		stroke-width: 4;
		paint-order: stroke;
	}
	.mark circle,
	.mark path {
		stroke: #0b2b25;
		stroke-width: 1.6;
	}
</style>
