<!-- A map of tiles as it is drawn: places, tiles with their fields, pieces, walls, and what would be laid. -->
<script lang="ts">
	import { boxOf, fits, gridOf, lineOf, type Look, type PieceAt, type TileMap, withLengths } from './tilemap';

	let {
		map,
		look,
		moving,
		ghost,
		at
	}: {
		map: TileMap;
		look: Look & { colourOf: (role: string) => string };
		moving: PieceAt | null;
		ghost: PieceAt | null;
		at: [number, number];
	} = $props();
	const { units, rim, size } = $derived(look);
	const places = $derived(Array.from({ length: size[0] * size[1] }, (_, i) => [i % size[0], Math.floor(i / size[0])] as const));
	const misfit = $derived(ghost !== null && !moving && !fits(map, ghost, units));
</script>

{#each places as [c, r] (`${c} ${r}`)}
	<rect class="free" x={c + 0.02} y={size[1] - 1 - r + 0.02} width="0.96" height="0.96" />
{/each}
{#each map.tiles as [c, r] (`${c} ${r}`)}
	<rect x={c + 0.01} y={size[1] - 1 - r + 0.01} width="0.98" height="0.98" rx="0.02" fill={look.colourOf('frame')} />
	<rect x={c + rim} y={size[1] - 1 - r + rim} width={1 - 2 * rim} height={1 - 2 * rim} fill={look.colourOf('middle')} class="field" />
	<path class="grid" d={gridOf(c, r, look)} />
{/each}
{#each map.pieces as p (p.join())}
	<rect class="piece" {...boxOf(p, look)} class:pulled={moving === p} fill={look.colourOf(`pieces_${p[4] + 1}`)} />
{/each}
{#each withLengths(map.walls) as { wall, short } (wall.join())}
	<line class="wall" {...lineOf(wall, short, look)} stroke={look.colourOf('walls')} /><line class="core" {...lineOf(wall, short, look)} />
{/each}
{#if ghost}<rect class="ghost" class:bad={misfit} {...boxOf(ghost, look)} />
{:else}<rect
		class="ghost"
		x={Math.floor(at[0] / units) + 0.02}
		y={size[1] - 1 - Math.floor(at[1] / units) + 0.02}
		width="0.96"
		height="0.96"
	/>{/if}

<style>
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
</style>
