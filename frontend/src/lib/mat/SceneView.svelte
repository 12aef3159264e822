<!-- The 3D view of an assembly on the mat. -->
<script module lang="ts">
	// begun before there is anything to draw: what is to be drawn is on its way meanwhile
	const early = import('./scene');
	early.catch(() => {}); // tried once more when it is wanted
</script>

<script lang="ts">
	import { onMount } from 'svelte';
	import type { PartOut } from '../../api/types';
	import type { Movable, Moved } from './handles';
	import type { PictureOf } from './facemarks';
	import type { Pull } from './pull';
	import type { AssemblyScene, Hit } from './scene';
	import { word } from '../../words/words';

	let {
		parts,
		colours,
		clear,
		spread = 0,
		offsets = new Map(),
		hidden = new Set(),
		lit = new Set(),
		features = new Map(),
		picture = () => '',
		movable = null,
		way = null,
		onpick,
		onhover,
		ondrag,
		onmove
	}: {
		parts: PartOut[];
		colours: Record<string, string>;
		clear: (stock: string) => boolean;
		spread?: number;
		offsets?: Map<string, Pull>;
		hidden?: Set<string>;
		lit?: Set<string>;
		features?: Map<string, readonly (readonly number[])[][]>;
		picture?: PictureOf;
		/** a part with handles, and where it may snap to along an axis */
		movable?: Movable | null;
		/** the parts of a step, and the way in which they go to their place */
		way?: { parts: readonly string[]; direction: readonly number[] } | null;
		onpick?: (hit: Hit | null) => void;
		onhover?: (hit: Hit | null) => void;
		ondrag?: (moved: Moved | null) => void;
		onmove?: (moved: Moved) => void;
	} = $props();

	let canvas: HTMLCanvasElement;
	let holder: HTMLDivElement;
	let scene = $state.raw<AssemblyScene | null>(null);
	let problem = $state('');

	onMount(() => {
		let gone = false;
		let made: AssemblyScene | null = null;
		const watch = new ResizeObserver(() => made?.resize(holder.clientWidth, holder.clientHeight));
		early
			.catch(() => import('./scene'))
			.then((module) => {
				if (gone) return;
				made = new module.AssemblyScene(canvas);
				made.resize(holder.clientWidth, holder.clientHeight);
				watch.observe(holder);
				scene = made;
			})
			.catch(() => (problem = word('common.this-browser-shows-no-3d-here')));
		return () => {
			gone = true;
			watch.disconnect();
			made?.dispose();
		};
	});

	$effect(() => scene?.setParts(parts, colours, clear, picture));
	$effect(() => scene?.setSpread(spread));
	$effect(() => scene?.setOffsets(offsets, hidden));
	$effect(() => scene?.setLit(lit, features));
	$effect(() => scene?.setMovable(movable));
	$effect(() => {
		void parts;
		scene?.setWay(way?.parts ?? [], way?.direction ?? [0, 0, 1]);
	});

	let [holds, down] = [false, { x: 0, y: 0 }];
	function start(event: PointerEvent) {
		down = { x: event.clientX, y: event.clientY };
		holds = event.button === 0 && (scene?.grab(event.clientX, event.clientY) ?? false);
		if (holds) canvas.setPointerCapture(event.pointerId);
	}
	function moving(event: PointerEvent) {
		if (holds) ondrag?.(scene?.drag(event.clientX, event.clientY) ?? null);
		else if (event.buttons === 0) onhover?.(scene?.pick(event.clientX, event.clientY) ?? null);
	}
	/** Let go; `keep` false: nothing has been moved. */
	function letGo(keep: boolean) {
		holds = false;
		const moved = scene?.drop() ?? null;
		ondrag?.(null);
		if (moved && keep) onmove?.(moved);
	}
	function up(event: PointerEvent) {
		if (holds) letGo(true);
		else if (Math.hypot(event.clientX - down.x, event.clientY - down.y) < 4) onpick?.(scene?.pick(event.clientX, event.clientY) ?? null);
	}
	export function fit() {
		scene?.fit();
	}
</script>

<svelte:window onkeydown={(e) => e.key === 'Escape' && holds && letGo(false)} />
<div class="mat holder" bind:this={holder}>
	<canvas
		bind:this={canvas}
		aria-label={word('common.assembly-in-3d-drag-to-turn')}
		onpointerdowncapture={start}
		onpointerup={up}
		onpointercancel={() => holds && letGo(false)}
		onpointermove={moving}
	></canvas>
	{#if problem}<p class="problem">{problem}</p>{/if}
</div>

<style>
	.holder {
		position: relative;
		width: 100%;
		height: 100%;
		overflow: hidden;
	}
	canvas {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
	}
	/* black before its first picture: the mat behind it is seen instead */
	canvas:not([data-drawn]) {
		visibility: hidden;
	}
	.problem {
		position: absolute;
		inset: 40% 20% auto;
		text-align: center;
	}
</style>
