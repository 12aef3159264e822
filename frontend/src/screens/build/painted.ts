/** Which square of an inlaid board is of which kind, as it is painted: rows from the front, kinds from 0. */
export const MOST_KINDS = 4;
export type Painted = readonly (readonly number[])[];

/** A painted board of so many squares; those that nobody painted are chequered, as the core has them. */
export const asPainted = (painted: Painted, rows: number, columns: number): number[][] =>
	Array.from({ length: rows }, (_, r) => Array.from({ length: columns }, (_, c) => painted[r]?.[c] ?? (r + c) % 2));

/** The same board with one square of another kind; itself where it is of that kind already. */
export const painting = (board: number[][], row: number, column: number, kind: number): number[][] =>
	board[row]?.[column] === kind || board[row]?.[column] === undefined
		? board
		: board.map((line, r) => (r === row ? line.map((k, c) => (c === column ? kind : k)) : line));

/** Where the arrow keys lead from a square. */
export function stepped(at: readonly [number, number], key: string, rows: number, columns: number): [number, number] | null {
	const [dr, dc] = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[key] ?? [0, 0];
	if (!dr && !dc) return null;
	return [Math.min(Math.max(at[0] + dr!, 0), rows - 1), Math.min(Math.max(at[1] + dc!, 0), columns - 1)];
}
