/** A wished map of tiles: what stands and lies where, and what changing it makes of it. Edges are numbered from the front round to the right. */
export type Tile = readonly [number, number];
export type WallAt = readonly [number, number, number];
/** where it lies, in squares of the fields of all tiles; then columns, rows, kind from 0 */
export type PieceAt = readonly [number, number, number, number, number];
export type Sort = readonly [number, number, number, number];
export interface TileMap {
	tiles: readonly Tile[];
	walls: readonly WallAt[];
	pieces: readonly PieceAt[];
}
export const MOST_MAP = 16;

const same = (a: readonly number[], b: readonly number[]) => a.every((v, i) => v === b[i]);
const there = (map: TileMap, c: number, r: number) => map.tiles.some((t) => same(t, [c, r]));
const overlap = (a: PieceAt, b: PieceAt) => a[0] < b[0] + b[2] && b[0] < a[0] + a[2] && a[1] < b[1] + b[3] && b[1] < a[1] + a[3];

/** A map with a tile more, or with one less and without what stood and lay on it. */
export function withTile(map: TileMap, c: number, r: number, units: number): TileMap {
	if (c < 0 || r < 0 || c >= MOST_MAP || r >= MOST_MAP) return map;
	if (!there(map, c, r)) return { ...map, tiles: [...map.tiles, [c, r]] };
	const on = (x: number, y: number) => Math.floor(x / units) === c && Math.floor(y / units) === r;
	return {
		tiles: map.tiles.filter((t) => !same(t, [c, r])),
		walls: map.walls.filter((w) => !same([w[0], w[1]], [c, r])),
		pieces: map.pieces.filter((p) => !on(p[0], p[1]))
	};
}

/** A map with a wall more on an edge of a tile, or with one less. */
export function withWall(map: TileMap, wall: WallAt): TileMap {
	if (!there(map, wall[0], wall[1])) return map;
	const walls = map.walls.filter((w) => !same(w, wall));
	return { ...map, walls: walls.length < map.walls.length ? walls : [...walls, wall] };
}

/** Whether a piece lies in the field of one tile, on no other one. */
export function fits(map: TileMap, piece: PieceAt, units: number): boolean {
	const [x, y, columns, rows] = piece;
	const within = x >= 0 && y >= 0 && (x % units) + columns <= units && (y % units) + rows <= units;
	return within && there(map, Math.floor(x / units), Math.floor(y / units)) && !map.pieces.some((p) => overlap(p, piece));
}

/** A map with a piece more; itself where that does not fit. */
export const withPiece = (map: TileMap, piece: PieceAt, units: number): TileMap =>
	fits(map, piece, units) ? { ...map, pieces: [...map.pieces, piece] } : map;

export const withoutPiece = (map: TileMap, piece: PieceAt): TileMap => ({ ...map, pieces: map.pieces.filter((p) => !same(p, piece)) });

/** A map with a piece elsewhere: off the tiles it is taken away; where another lies, it stays. */
export function movedPiece(map: TileMap, piece: PieceAt, x: number, y: number, units: number): TileMap {
	const rest = withoutPiece(map, piece);
	if (!there(map, Math.floor(x / units), Math.floor(y / units))) return rest;
	const moved: PieceAt = [x, y, piece[2], piece[3], piece[4]];
	return fits(rest, moved, units) ? withPiece(rest, moved, units) : map;
}

export const pieceAt = (map: TileMap, x: number, y: number): PieceAt | null => map.pieces.find((p) => overlap(p, [x, y, 1, 1, 0])) ?? null;

/** The walls of a map with whether each is of corner length, as the core counts them: those left and right end before one ahead or behind. */
export function withLengths(walls: readonly WallAt[]): { wall: WallAt; short: boolean }[] {
	const ahead = new Set(walls.filter((w) => w[2] % 2 === 0).map((w) => `${w[0]} ${w[1]}`));
	return walls.map((wall) => ({ wall, short: wall[2] % 2 === 1 && ahead.has(`${wall[0]} ${wall[1]}`) }));
}

/** Where one square of a map is, in tiles: the rims of its tile are left out. */
export function placeOf(x: number, y: number, units: number, rim: number): [number, number] {
	const along = (v: number) => Math.floor(v / units) + rim + ((v % units) / units) * (1 - 2 * rim);
	return [along(x), along(y)];
}

/** The square of a map at a place in tiles; on a rim the nearest. */
export function squareAt(u: number, v: number, units: number, rim: number): [number, number] {
	const along = (w: number) => {
		const within = Math.floor(((w - Math.floor(w) - rim) / (1 - 2 * rim)) * units);
		return Math.floor(w) * units + Math.min(Math.max(within, 0), units - 1);
	};
	return [along(u), along(v)];
}

/** The edge of a tile that is nearest to a place in tiles. */
export function edgeAt(u: number, v: number): WallAt {
	const [c, r] = [Math.floor(u), Math.floor(v)];
	const away = [v - r, c + 1 - u, r + 1 - v, u - c];
	return [c, r, away.indexOf(Math.min(...away))];
}

/** How many rows and columns a map shows: one more than it has, so that it can grow. */
export function sizeOf(map: TileMap): [number, number] {
	const most = (k: 0 | 1, least: number) => Math.min(Math.max(least, ...map.tiles.map((t) => t[k] + 2)), MOST_MAP);
	return [most(0, 5), most(1, 3)];
}

/** The sorts of pieces with as many of each as a map takes; those that it has none of stay as they are. */
export const asMapped = (sorts: readonly Sort[], pieces: readonly PieceAt[]): Sort[] =>
	sorts.map(([columns, rows, kind, many]) => {
		const laid = pieces.filter((p) => same(p.slice(2), [columns, rows, kind])).length;
		return [columns, rows, kind, laid || many];
	});

/** What a drawing of a map goes by: squares of a field, the rim as a share of a tile, and how many columns and rows are shown. */
export interface Look {
	units: number;
	rim: number;
	size: readonly [number, number];
}

/** A piece as it is drawn, y down. */
export function boxOf([x, y, columns, rows]: PieceAt, { units, rim, size }: Look) {
	const [u, v] = placeOf(x, y, units, rim);
	const one = (1 - 2 * rim) / units;
	return { x: u + one * 0.06, y: size[1] - v - one * (rows - 0.06), width: one * (columns - 0.12), height: one * (rows - 0.12) };
}

/** A wall as it is drawn. */
export function lineOf([c, r, edge]: WallAt, short: boolean, { rim, size }: Look) {
	const [ends, away] = [short ? rim * 0.8 : 0.01, rim / 2];
	const lines = [
		[ends, away, 1 - ends, away],
		[1 - away, ends, 1 - away, 1 - ends],
		[ends, 1 - away, 1 - ends, 1 - away],
		[away, ends, away, 1 - ends]
	] as const;
	const [x0, y0, x1, y1] = lines[edge]!;
	return { x1: c + x0, y1: size[1] - r - y0, x2: c + x1, y2: size[1] - r - y1 };
}

/** The squares of a tile's field, as a path. */
export function gridOf(c: number, r: number, { units, rim, size }: Look): string {
	const [x, y, side] = [c + rim, size[1] - 1 - r + rim, 1 - 2 * rim];
	const at = Array.from({ length: units - 1 }, (_, i) => ((i + 1) * side) / units);
	return at.map((a) => `M${x + a} ${y}v${side}M${x} ${y + a}h${side}`).join('');
}

/** The middle of a square, in tiles. */
export function middleOf(x: number, y: number, units: number, rim: number): [number, number] {
	const half = (1 - 2 * rim) / units / 2;
	const [u, v] = placeOf(x, y, units, rim);
	return [u + half, v + half];
}

/** The square to which an arrow key leads: down, right, up, left, as edges are numbered. */
export function walked(
	at: readonly [number, number],
	side: number,
	step: number,
	size: readonly [number, number],
	units: number
): [number, number] {
	const [dx, dy] = [[0, -1], [1, 0], [0, 1], [-1, 0]][side] as [number, number]; // prettier-ignore
	const within = (v: number, most: number) => Math.min(Math.max(v, 0), most * units - 1);
	return [within(at[0] + dx * step, size[0]), within(at[1] + dy * step, size[1])];
}
