<!-- An offcut drawn over its measurements: corners by clicking, bad spots by dragging. Typed corners do the same without a pointer. -->
<script lang="ts">
	import type { Point } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import { show } from '../../lib/units/units';
	import { boxRing, cornerAt, sidesOf, snapped } from './offcut';
	import { word } from '../../words/words';

	let {
		width,
		height,
		corners,
		bad,
		oncorners,
		onbad
	}: {
		/** measured over everything [mm] */
		width: number;
		height: number;
		corners: readonly Point[];
		bad: readonly Point[][];
		oncorners: (corners: Point[]) => void;
		onbad: (bad: Point[][]) => void;
	} = $props();
	let mode = $state<'outline' | 'bad'>('outline');
	let svg: SVGSVGElement;
	let held = $state(-1);
	let box = $state.raw<[Point, Point] | null>(null);
	const step = $derived(session.unit === 'mm' ? 5 : 25.4 / 8);
	const pad = $derived(Math.max(width, height) * 0.06);
	const px = $derived(Math.max(width, height) / 270);
	const path = $derived(corners.map((p, i) => `${i ? 'L' : 'M'}${p[0]} ${height - p[1]}`).join('') + (corners.length > 2 ? 'Z' : ''));

	function at(event: PointerEvent): Point {
		const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
		return snapped([p.x, height - p.y], step, width, height);
	}
	function down(event: PointerEvent) {
		if (event.button !== 0) return;
		svg.setPointerCapture?.(event.pointerId);
		const p = at(event);
		if (mode === 'bad') box = [p, p];
		else {
			held = cornerAt(corners, p, 9 * px);
			if (held === corners.length) oncorners([...corners, p]);
		}
	}
	function move(event: PointerEvent) {
		if (box) box = [box[0], at(event)];
		else if (held >= 0) oncorners(corners.map((c, i) => (i === held ? at(event) : c)));
	}
	function up() {
		const ring = box && boxRing(box[0], box[1]);
		if (ring) onbad([...bad, ring]);
		[held, box] = [-1, null];
	}
	const flat = (ring: readonly Point[]) => ring.map((p) => `${p[0]},${height - p[1]}`).join(' ');
	const sides = $derived(sidesOf(corners));
</script>

<div class="pad">
	<Choice
		label={word('sheets.draw')}
		options={[
			{ value: 'outline', name: word('sheets.outline') },
			{ value: 'bad', name: word('sheets.bad-spots') }
		]}
		value={mode}
		onchoose={(v) => (mode = v as typeof mode)}
	/>
	<svg
		bind:this={svg}
		viewBox="{-pad} {-pad} {width + 2 * pad} {height + 2 * pad}"
		role="img"
		aria-label={word('sheets.offcut-corners-bad-spots', { corners: corners.length, bad: bad.length })}
		onpointerdown={down}
		onpointermove={move}
		onpointerup={up}
	>
		<rect {width} {height} class="over" stroke-width={px} stroke-dasharray="{4 * px} {4 * px}" />
		{#if corners.length}<path d={path} class="piece" stroke-width={1.5 * px} />{/if}
		{#each bad as ring, k (k)}<polygon points={flat(ring)} class="spot" stroke-width={px} />{/each}
		{#if box}<polygon points={flat(boxRing(box[0], box[1]) ?? [])} class="spot" stroke-width={px} />{/if}
		{#each sides as s, k (k)}
			<text x={(s.p[0] + s.q[0]) / 2} y={height - (s.p[1] + s.q[1]) / 2} font-size={11 * px}
				>{show(Math.hypot(s.p[0] - s.q[0], s.p[1] - s.q[1]), session.unit)}</text
			>
		{/each}
		{#each corners as p, k (k)}<circle cx={p[0]} cy={height - p[1]} r={6 * px} stroke-width={px} class:held={held === k} />{/each}
	</svg>
	<div class="flex gap-1.5">
		<button class="btn" disabled={!corners.length} onclick={() => oncorners(corners.slice(0, -1))}>{word('sheets.last-corner-off')}</button>
		<button class="btn" disabled={!bad.length} onclick={() => onbad(bad.slice(0, -1))}>{word('sheets.last-spot-off')}</button>
	</div>
	<p class="quiet">
		{word('sheets.one-step-is', {
			mode: mode === 'outline' ? word('sheets.click-corner-after-corner-around-the') : word('sheets.drag-a-box-around-a-knot'),
			step: show(step, session.unit)
		})}
	</p>
</div>

<style>
	.pad {
		display: grid;
		gap: 6px;
		margin: 6px 0;
	}
	svg {
		width: 100%;
		max-height: 260px;
		background: var(--color-mat);
		border-radius: 4px;
		cursor: crosshair;
		touch-action: none;
		user-select: none;
	}
	.over {
		fill: none;
		stroke: var(--mat-ink-2);
	}
	.piece,
	.spot {
		fill: rgb(226 196 140 / 0.85);
		stroke: #fff;
	}
	.spot {
		fill: rgb(150 40 15 / 0.55);
	}
	circle {
		fill: #fff;
		stroke: #12362f;
		cursor: grab;
	}
	circle.held {
		fill: var(--warn);
	}
	text {
		font-family: var(--font-mono);
		fill: #fff;
		stroke: #12362f;
		stroke-width: 0.25em;
		paint-order: stroke;
		text-anchor: middle;
		pointer-events: none;
	}
</style>
