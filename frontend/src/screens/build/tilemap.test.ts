import { describe, expect, it } from 'vitest';
import {
	asMapped,
	edgeAt,
	fits,
	movedPiece,
	pieceAt,
	placeOf,
	sizeOf,
	squareAt,
	type TileMap,
	withLengths,
	withPiece,
	withTile,
	withWall
} from './tilemap';

const empty: TileMap = { tiles: [], walls: [], pieces: [] };
const two = withTile(withTile(empty, 0, 0, 4), 1, 0, 4);

describe('a map of tiles', () => {
	it('takes what stood and lay on a tile away with it', () => {
		const full = withPiece(withWall(withWall(two, [1, 0, 2]), [0, 0, 0]), [5, 1, 2, 2, 1], 4);
		expect(withTile(full, 1, 0, 4)).toEqual({ tiles: [[0, 0]], walls: [[0, 0, 0]], pieces: [] });
		expect(withTile(two, -1, 0, 4)).toBe(two);
		expect(withWall(two, [3, 0, 0])).toBe(two); // no tile there
		expect(withWall(withWall(two, [0, 0, 3]), [0, 0, 3]).walls).toEqual([]);
	});
	it('lays pieces in one field, on no other', () => {
		const laid = withPiece(two, [2, 0, 2, 2, 0], 4);
		expect(laid.pieces).toHaveLength(1);
		for (const wrong of [
			[3, 2, 2, 1, 0],
			[1, 1, 2, 1, 0],
			[0, 4, 1, 1, 0],
			[-1, 0, 1, 1, 0]
		] as const)
			expect(fits(laid, wrong, 4)).toBe(false);
		expect(pieceAt(laid, 3, 1)).toEqual([2, 0, 2, 2, 0]);
		expect(movedPiece(laid, [2, 0, 2, 2, 0], 4, 2, 4).pieces).toEqual([[4, 2, 2, 2, 0]]);
		expect(movedPiece(laid, [2, 0, 2, 2, 0], 3, 0, 4)).toBe(laid); // across a rim: it stays
		expect(movedPiece(laid, [2, 0, 2, 2, 0], 0, 9, 4).pieces).toEqual([]); // off the tiles
	});
	it('makes walls to the left and right short beside one ahead, as the core counts them', () => {
		const walls = [
			[0, 0, 0],
			[0, 0, 3],
			[1, 0, 1],
			[0, 1, 2]
		] as const;
		expect(withLengths(walls).map((w) => w.short)).toEqual([false, true, false, false]);
	});
	it('finds squares and edges where they are drawn', () => {
		for (const [x, y] of [
			[0, 0],
			[3, 3],
			[4, 0],
			[9, 6]
		] as const) {
			const [u, v] = placeOf(x, y, 4, 0.15);
			expect(squareAt(u + 0.01, v + 0.01, 4, 0.15)).toEqual([x, y]);
		}
		expect(squareAt(1.02, 0.99, 4, 0.15)).toEqual([4, 3]); // on the rim
		expect([edgeAt(0.5, 0.1), edgeAt(1.95, 0.5), edgeAt(0.5, 0.9), edgeAt(2.05, 1.5)].map((e) => e[2])).toEqual([0, 1, 2, 3]);
		expect(sizeOf(two)).toEqual([5, 3]);
		expect(sizeOf(withTile(two, 6, 0, 4))).toEqual([8, 3]);
	});
	it('gives the counts that it takes', () => {
		const laid = withPiece(withPiece(two, [0, 0, 1, 1, 0], 4), [1, 0, 1, 1, 0], 4);
		expect(asMapped([[1, 1, 0, 24], [2, 2, 1, 6]], laid.pieces)).toEqual([[1, 1, 0, 2], [2, 2, 1, 6]]); // prettier-ignore
	});
});
