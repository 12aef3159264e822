<!-- The mat: a drawing surface in millimetres with a 10/50 grid, to pan and to zoom. y points up inside. -->
<script lang="ts">
	import type { Snippet } from 'svelte';
	import type { Bounds } from './outlines';

	let {
		bounds,
		pad = 24,
		label,
		inch = false,
		children,
		over
	}: {
		bounds: Bounds;
		pad?: number;
		label: string;
		inch?: boolean;
		children: Snippet<[number]>;
		over?: Snippet;
	} = $props();

	let width = $state(800);
	let height = $state(500);
	let view = $state<{ x: number; y: number; scale: number } | null>(null);
	let drag: { x: number; y: number; vx: number; vy: number } | null = null;
	const id = $props.id();

	const fit = $derived.by(() => {
		const w = Math.max(bounds.x1 - bounds.x0, 1);
		const h = Math.max(bounds.y1 - bounds.y0, 1);
		const scale = Math.min((width - 2 * pad) / w, (height - 2 * pad) / h);
		const s = Math.max(scale, 0.01);
		return {
			x: (bounds.x0 + bounds.x1) / 2 - width / 2 / s,
			y: -(bounds.y0 + bounds.y1) / 2 - height / 2 / s,
			scale: s
		};
	});
	const v = $derived(view ?? fit);
	const step = $derived(inch ? 25.4 / 4 : 10);
	const steps = $derived(inch ? 4 : 5);
	const small = $derived(step * v.scale > 5);

	$effect(() => {
		void [bounds.x0, bounds.y0, bounds.x1, bounds.y1];
		view = null;
	});

	function wheel(event: WheelEvent) {
		event.preventDefault();
		const k = Math.exp(-event.deltaY * 0.0015);
		zoom(k, event.offsetX, event.offsetY);
	}
	function zoom(k: number, px: number, py: number) {
		const scale = Math.min(Math.max(v.scale * k, fit.scale / 4), 80);
		view = { x: v.x + px / v.scale - px / scale, y: v.y + py / v.scale - py / scale, scale };
	}
	function down(event: PointerEvent) {
		if (event.button !== 0) return;
		drag = { x: event.clientX, y: event.clientY, vx: v.x, vy: v.y };
	}
	function move(event: PointerEvent) {
		if (!drag) return;
		const [dx, dy] = [event.clientX - drag.x, event.clientY - drag.y];
		if (Math.hypot(dx, dy) < 4 && !view) return;
		view = { x: drag.vx - dx / v.scale, y: drag.vy - dy / v.scale, scale: v.scale };
	}
	function key(event: KeyboardEvent) {
		const by = 40 / v.scale;
		const moves: Record<string, [number, number]> = {
			ArrowLeft: [-by, 0],
			ArrowRight: [by, 0],
			ArrowUp: [0, -by],
			ArrowDown: [0, by]
		};
		const m = moves[event.key];
		if (m) view = { x: v.x + m[0], y: v.y + m[1], scale: v.scale };
		else if (event.key === '+') zoom(1.25, width / 2, height / 2);
		else if (event.key === '-') zoom(0.8, width / 2, height / 2);
		else if (event.key === '0') view = null;
		else return;
		event.preventDefault();
	}
</script>

<div class="mat surface" bind:clientWidth={width} bind:clientHeight={height}>
	<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
	<svg
		role="group"
		aria-label={label}
		tabindex="0"
		{width}
		{height}
		viewBox="{v.x} {v.y} {width / v.scale} {height / v.scale}"
		onwheel={wheel}
		onpointerdown={down}
		onpointermove={move}
		onpointerup={() => (drag = null)}
		onpointerleave={() => (drag = null)}
		ondblclick={() => (view = null)}
		onkeydown={key}
	>
		<defs>
			<pattern id="{id}s" width={step} height={step} patternUnits="userSpaceOnUse">
				<path d="M{step} 0H0V{step}" fill="none" stroke="var(--mat-line)" stroke-width={1 / v.scale} />
			</pattern>
			<pattern id="{id}l" width={step * steps} height={step * steps} patternUnits="userSpaceOnUse">
				<path d="M{step * steps} 0H0V{step * steps}" fill="none" stroke="var(--mat-line-5)" stroke-width={1 / v.scale} />
			</pattern>
		</defs>
		{#each small ? ['s', 'l'] : ['l'] as which (which)}
			<rect x={v.x} y={v.y} width={width / v.scale} height={height / v.scale} fill="url(#{id}{which})" />
		{/each}
		<g transform="scale(1 -1)">{@render children(v.scale)}</g>
	</svg>
	{@render over?.()}
</div>

<style>
	.surface {
		position: relative;
		width: 100%;
		height: 100%;
		overflow: hidden;
	}
	svg {
		position: absolute;
		inset: 0;
		touch-action: none;
		cursor: grab;
	}
	svg:focus-visible {
		outline-offset: -3px;
	}
</style>
