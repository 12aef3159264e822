<!-- The 3D view of an assembly on the mat. -->
<script lang="ts">
	import { onMount } from 'svelte';
	import type { PartOut } from '../../api/types';
	import type { AssemblyScene, Hit } from './scene';

	let {
		parts,
		colours,
		clear,
		spread = 0,
		offsets = new Map(),
		hidden = new Set(),
		lit = new Set(),
		features = new Map(),
		onpick,
		onhover
	}: {
		parts: PartOut[];
		colours: Record<string, string>;
		clear: (stock: string) => boolean;
		spread?: number;
		offsets?: Map<string, [number, number, number]>;
		hidden?: Set<string>;
		lit?: Set<string>;
		features?: Map<string, readonly (readonly number[])[][]>;
		onpick?: (hit: Hit | null) => void;
		onhover?: (hit: Hit | null) => void;
	} = $props();

	let canvas: HTMLCanvasElement;
	let holder: HTMLDivElement;
	let scene = $state.raw<AssemblyScene | null>(null);
	let problem = $state('');
	let down = { x: 0, y: 0 };

	onMount(() => {
		let gone = false;
		let made: AssemblyScene | null = null;
		const watch = new ResizeObserver(() => made?.resize(holder.clientWidth, holder.clientHeight));
		import('./scene')
			.then((module) => {
				if (gone) return;
				made = new module.AssemblyScene(canvas);
				made.resize(holder.clientWidth, holder.clientHeight);
				watch.observe(holder);
				scene = made;
			})
			.catch(() => (problem = 'This browser shows no 3D here. Everything else works: use the flat view below.'));
		return () => {
			gone = true;
			watch.disconnect();
			made?.dispose();
		};
	});

	$effect(() => scene?.setParts(parts, colours, clear));
	$effect(() => scene?.setSpread(spread));
	$effect(() => scene?.setOffsets(offsets, hidden));
	$effect(() => scene?.setLit(lit, features));

	function up(event: PointerEvent) {
		if (Math.hypot(event.clientX - down.x, event.clientY - down.y) < 4) onpick?.(scene?.pick(event.clientX, event.clientY) ?? null);
	}
	export function fit() {
		scene?.fit();
	}
</script>

<div class="mat holder" bind:this={holder}>
	<canvas
		bind:this={canvas}
		aria-label="Assembly in 3D: drag to turn, wheel to come nearer, click a part or slot"
		onpointerdown={(e) => (down = { x: e.clientX, y: e.clientY })}
		onpointerup={up}
		onpointermove={(e) => e.buttons === 0 && onhover?.(scene?.pick(e.clientX, e.clientY) ?? null)}
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
		display: block;
	}
	.problem {
		position: absolute;
		inset: 40% 20% auto;
		text-align: center;
	}
</style>
