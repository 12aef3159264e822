<!-- A wished map of tiles: lay out tiles, the walls on their edges and the pieces in their fields, to see how many of each it takes. -->
<script lang="ts">
	import type { Values } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import { MapKept } from './mapkept.svelte';
	import MapTools from './MapTools.svelte';
	import TileDrawing from './TileDrawing.svelte';
	import {
		edgeAt,
		movedPiece,
		pieceAt,
		middleOf,
		sizeOf,
		squareAt,
		walked,
		withPiece,
		withTile,
		withWall,
		type PieceAt,
		type Sort,
		type TileMap
	} from './tilemap';

	let { build, values }: { build: BuildState; values: Values } = $props();
	const work = useProject();
	const attempt = new Attempt();
	const n = $derived(values as unknown as Record<string, unknown>);
	const units = $derived(Number(n.units));
	const rim = $derived(Number(n.rim) / Number(n.pitch));
	const sorts = $derived((n.pieces ?? []) as Sort[]);
	const kept = new MapKept(work);
	const map = $derived(kept.map);
	const size = $derived(sizeOf(map));
	let tool = $state('tile');
	let at = $state.raw<[number, number]>([0, 0]);
	let drag = $state.raw<{ piece: PieceAt; to: [number, number]; from: [number, number] } | null>(null);
	let svg: SVGSVGElement;

	const stockOf = (role: string) => build.colours[work.design.stocks[role] ?? ''] ?? '#ddd';
	const named = ([columns, rows, kind]: readonly number[]) =>
		word('build.piece-of-kind', { columns: columns!, rows: rows!, kind: kind! + 1 });
	const sort = $derived(sorts[Number(tool)] ?? null);
	/** what would be laid, or lies under the pointer */
	const ghost = $derived<PieceAt | null>(
		drag ? [...drag.to, drag.piece[2], drag.piece[3], drag.piece[4]] : sort ? [at[0], at[1], sort[0], sort[1], sort[2]] : null
	);
	const look = $derived({ units, rim, size, colourOf: stockOf });

	const keep = (change: (now: TileMap) => TileMap, words: string) => attempt.at(() => kept.keep(change, words));
	/** Where a pointer is, in tiles from the lower left corner. */
	function place(event: PointerEvent): [number, number] {
		const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
		return [p.x, size[1] - p.y];
	}
	function act(u: number, v: number) {
		if (tool === 'wall') return keep((m) => withWall(m, edgeAt(u, v)), word('build.map-wall'));
		if (!sort) return keep((m) => withTile(m, Math.floor(u), Math.floor(v), units), word('build.map-tile'));
		const [x, y] = squareAt(u, v, units, rim);
		const piece: PieceAt = [x, y, sort[0], sort[1], sort[2]];
		return keep((m) => withPiece(m, piece, units), named(sort));
	}
	function down(event: PointerEvent) {
		const [u, v] = place(event);
		const square = squareAt(u, v, units, rim);
		at = square;
		const piece = tool === 'wall' ? null : pieceAt(map, ...square);
		if (!piece) return void act(u, v);
		svg.setPointerCapture(event.pointerId);
		drag = { piece, to: [piece[0], piece[1]], from: square };
	}
	function over(event: PointerEvent) {
		const square = squareAt(...place(event), units, rim);
		at = square;
		if (drag) drag = { ...drag, to: [drag.piece[0] + square[0] - drag.from[0], drag.piece[1] + square[1] - drag.from[1]] };
	}
	function dropped() {
		const now = drag;
		drag = null;
		if (now && (now.to[0] !== now.piece[0] || now.to[1] !== now.piece[1]))
			void keep((m) => movedPiece(m, now.piece, ...now.to, units), named(now.piece.slice(2)));
	}
	const SIDES: Record<string, number> = { ArrowDown: 0, ArrowRight: 1, ArrowUp: 2, ArrowLeft: 3 };
	function key(event: KeyboardEvent) {
		const side = SIDES[event.key];
		const under = pieceAt(map, ...at);
		const [c, r] = [Math.floor(at[0] / units), Math.floor(at[1] / units)];
		if (side !== undefined && event.shiftKey) void keep((m) => withWall(m, [c, r, side]), word('build.map-wall'));
		else if (side !== undefined) at = walked(at, side, sort ? 1 : units, size, units);
		else if (event.key === 'Enter' || event.key === ' ') void act(...middleOf(at[0], at[1], units, rim));
		else if (event.key === 'Delete' && under) void keep((m) => movedPiece(m, under, -1, -1, units), word('build.map-taken-away'));
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<div class="map">
	<MapTools {sorts} walls={n.walls === 'loose'} {tool} problem={attempt.problem} onchoose={(t) => (tool = t)} />
	<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions (a map that is laid out) -->
	<svg
		bind:this={svg}
		viewBox="-0.05 -0.05 {size[0] + 0.1} {size[1] + 0.1}"
		role="application"
		tabindex="0"
		aria-label={word('build.map-of-tiles', {
			column: Math.floor(at[0] / units) + 1,
			row: Math.floor(at[1] / units) + 1,
			tiles: map.tiles.length
		})}
		onkeydown={key}
		onpointerdown={down}
		onpointermove={over}
		onpointerup={dropped}
		onpointercancel={() => (drag = null)}
	>
		<TileDrawing {map} {look} moving={drag?.piece ?? null} {ghost} {at} />
	</svg>
</div>

<style>
	.map {
		display: grid;
		grid-template-rows: auto minmax(0, 1fr);
		height: 100%;
		background: var(--color-mat);
		padding: 8px 12px 10px;
		gap: 6px;
	}
	svg {
		width: 100%;
		height: 100%;
		min-height: 0;
		touch-action: none;
		cursor: crosshair;
		outline: none; /* the square at the cursor shows where one is */
	}
	svg:focus-visible :global(.ghost) {
		stroke: #ffd27a;
		stroke-width: 0.022;
	}
</style>
