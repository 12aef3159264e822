<!-- A wished map of tiles: lay out tiles, the walls on their edges and the pieces in their fields, to see how many of each it takes. -->
<script lang="ts">
	import type { Values } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import {
		edgeAt,
		fits,
		movedPiece,
		pieceAt,
		placeOf,
		sizeOf,
		squareAt,
		withLengths,
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
	const mapOf = (numbers: unknown): TileMap => {
		const v = numbers as { tiles_at?: TileMap['tiles']; walls_at?: TileMap['walls']; pieces_at?: TileMap['pieces'] };
		return { tiles: v.tiles_at ?? [], walls: v.walls_at ?? [], pieces: v.pieces_at ?? [] };
	};
	/** what is changed and on its way, and how many changes are */
	let draft = $state.raw<TileMap | null>(null);
	let underway = 0;
	const map = $derived(draft ?? mapOf(work.design.numbers));
	const size = $derived(sizeOf(map));
	const places = $derived(Array.from({ length: size[0] * size[1] }, (_, i) => [i % size[0], Math.floor(i / size[0])] as const));
	let tool = $state('tile');
	let at = $state.raw<[number, number]>([0, 0]);
	let drag = $state.raw<{ piece: PieceAt; to: [number, number]; from: [number, number] } | null>(null);
	let svg: SVGSVGElement;

	const stockOf = (role: string) => build.colours[work.design.stocks[role] ?? ''] ?? '#ddd';
	const named = ([columns, rows, kind]: readonly number[]) =>
		word('build.piece-of-kind', { columns: columns!, rows: rows!, kind: kind! + 1 });
	const tools = $derived([
		{ value: 'tile', name: word('build.map-tile') },
		...(n.walls === 'loose' ? [{ value: 'wall', name: word('build.map-wall') }] : []),
		...sorts.map((s, i) => ({ value: `${i}`, name: word('build.map-sort', { columns: s[0], rows: s[1], kind: s[2] + 1 }) }))
	]);
	const sort = $derived(sorts[Number(tool)] ?? null);
	const ghost = $derived<PieceAt | null>(sort && !drag ? [at[0], at[1], sort[0], sort[1], sort[2]] : null);

	/** Show a change at once, and make it of what the map has become when its turn comes. */
	async function keep(change: (now: TileMap) => TileMap, words: string) {
		const next = change(map);
		if (next === map) return;
		draft = next;
		underway += 1;
		await attempt.at(() =>
			work.save((d) => {
				const { tiles, walls, pieces } = change(mapOf(d.numbers));
				return { ...d, numbers: { ...d.numbers, tiles_at: tiles, walls_at: walls, pieces_at: pieces } as never };
			}, words)
		);
		underway -= 1;
		if (!underway) draft = null;
	}
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
		const step = sort ? 1 : units;
		const under = pieceAt(map, ...at);
		const [c, r] = [Math.floor(at[0] / units), Math.floor(at[1] / units)];
		if (side !== undefined && event.shiftKey) void keep((m) => withWall(m, [c, r, side]), word('build.map-wall'));
		else if (side !== undefined) {
			const [dx, dy] = [[0, -1], [1, 0], [0, 1], [-1, 0]][side] as [number, number]; // prettier-ignore
			at = [Math.min(Math.max(at[0] + dx * step, 0), size[0] * units - 1), Math.min(Math.max(at[1] + dy * step, 0), size[1] * units - 1)];
		} else if (event.key === 'Enter' || event.key === ' ') void act(...middle());
		else if (event.key === 'Delete' && under) void keep((m) => movedPiece(m, under, -1, -1, units), word('build.map-taken-away'));
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
	function middle(): [number, number] {
		const [u, v] = placeOf(at[0], at[1], units, rim);
		return [u + (1 - 2 * rim) / units / 2, v + (1 - 2 * rim) / units / 2];
	}
	/** A piece as it is drawn. */
	function box([x, y, columns, rows]: PieceAt) {
		const [u, v] = placeOf(x, y, units, rim);
		const one = (1 - 2 * rim) / units;
		return { x: u + one * 0.06, y: size[1] - v - one * (rows - 0.06), width: one * (columns - 0.12), height: one * (rows - 0.12) };
	}
	/** The squares of a tile's field. */
	function gridOf(c: number, r: number) {
		const [x, y, side] = [c + rim, size[1] - 1 - r + rim, 1 - 2 * rim];
		const at = Array.from({ length: units - 1 }, (_, i) => ((i + 1) * side) / units);
		return at.map((a) => `M${x + a} ${y}v${side}M${x} ${y + a}h${side}`).join('');
	}
	function lineOf([c, r, edge]: readonly number[], short: boolean) {
		const ends = short ? rim * 0.8 : 0.01;
		const away = rim / 2;
		const [x0, y0, x1, y1] = [
			[ends, away, 1 - ends, away],
			[1 - away, ends, 1 - away, 1 - ends],
			[ends, 1 - away, 1 - ends, 1 - away],
			[away, ends, away, 1 - ends]
		][edge!]!;
		return { x1: c! + x0!, y1: size[1] - r! - y0!, x2: c! + x1!, y2: size[1] - r! - y1! };
	}
</script>

<div class="map">
	<div class="tools">
		<Choice label={word('build.lay-on-the-map')} options={tools} value={tool} onchoose={(t) => (tool = t)} />
		<p>{tool === 'wall' ? word('build.map-click-an-edge') : sort ? word('build.map-click-a-field') : word('build.map-click-a-place')}</p>
		{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
	</div>
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
		{#each places as [c, r] (`${c} ${r}`)}
			<rect class="free" x={c + 0.02} y={size[1] - 1 - r + 0.02} width="0.96" height="0.96" />
		{/each}
		{#each map.tiles as [c, r] (`${c} ${r}`)}
			<rect x={c + 0.01} y={size[1] - 1 - r + 0.01} width="0.98" height="0.98" rx="0.02" fill={stockOf('frame')} />
			<rect x={c + rim} y={size[1] - 1 - r + rim} width={1 - 2 * rim} height={1 - 2 * rim} fill={stockOf('middle')} class="field" />
			<path class="grid" d={gridOf(c, r)} />
		{/each}
		{#each map.pieces as p (p.join())}
			<rect class="piece" {...box(p)} class:pulled={drag?.piece === p} fill={stockOf(`pieces_${p[4] + 1}`)} />
		{/each}
		{#each withLengths(map.walls) as { wall, short } (wall.join())}
			<line class="wall" {...lineOf(wall, short)} stroke={stockOf('walls')} /><line class="core" {...lineOf(wall, short)} />
		{/each}
		{#if drag}
			<rect class="ghost" {...box([...drag.to, drag.piece[2], drag.piece[3], drag.piece[4]])} />
		{:else if ghost}<rect class="ghost" class:bad={!fits(map, ghost, units)} {...box(ghost)} />
		{:else}<rect
				class="ghost"
				x={Math.floor(at[0] / units) + 0.02}
				y={size[1] - 1 - Math.floor(at[1] / units) + 0.02}
				width="0.96"
				height="0.96"
			/>{/if}
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
	.tools {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 12px;
	}
	.tools :global(.choice) {
		background: var(--bench);
		min-width: 260px;
	}
	.tools p {
		color: #e8f3ef;
		font-size: 13px;
		margin: 0;
	}
	svg {
		width: 100%;
		height: 100%;
		min-height: 0;
		touch-action: none;
		cursor: crosshair;
		outline: none; /* the square at the cursor shows where one is */
	}
	.free {
		fill: none;
		stroke: #6fa396;
		stroke-width: 0.008;
		stroke-dasharray: 0.04 0.04;
	}
	.field {
		stroke: rgba(0, 0, 0, 0.35);
		stroke-width: 0.008;
	}
	.grid {
		fill: none;
		stroke: rgba(0, 0, 0, 0.22);
		stroke-width: 0.005;
	}
	.piece {
		stroke: rgba(0, 0, 0, 0.5);
		stroke-width: 0.008;
		cursor: grab;
	}
	.pulled {
		opacity: 0.35;
	}
	.wall {
		stroke-width: 0.055;
		stroke-linecap: butt;
		paint-order: stroke;
		filter: drop-shadow(0 0 0.02px #000);
	}
	.core {
		stroke: #12362f;
		stroke-width: 0.014;
	}
	.ghost {
		fill: rgba(255, 255, 255, 0.18);
		stroke: #fff;
		stroke-width: 0.012;
		pointer-events: none;
	}
	.ghost.bad {
		stroke: #ffb199;
		stroke-dasharray: 0.03 0.03;
	}
	svg:focus-visible .ghost {
		stroke: #ffd27a;
		stroke-width: 0.022;
	}
</style>
