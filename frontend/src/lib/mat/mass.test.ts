/** The mass holds what its parts hold, in their places, shaded as they face; a view keeps the sharpness that comes in time. */
import { Color, Matrix4, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import type { PartOut, Point } from '../../api/types';
import { shaded } from './lights';
import { massOf, stripsFor, type Piece } from './mass';
import { Pace } from './pace';

const tray: Point[] = [
	[0, 0],
	[40, 0],
	[40, 20],
	[0, 20]
];
const window: Point[] = [
	[5, 5],
	[5, 9],
	[12, 9],
	[12, 5]
];
const comb: Point[] = [[0, 0], [400, 0], ...Array.from({ length: 20 }, (_, k): Point[] => corners(400 - 20 * k)).flat()];
function corners(x: number): Point[] {
	return [
		[x, 60],
		[x - 9, 60],
		[x - 9, 30],
		[x - 11, 30],
		[x - 11, 60]
	];
}
const piece = (outer: Point[], holes: Point[][], matrix: Matrix4): Piece => ({
	part: { profile: { outer, holes, circles: [] }, low: -1, high: 2 } as unknown as PartOut,
	matrix,
	colour: new Color('#e9d2a6')
});

function volumeOf(pieces: Piece[]) {
	const made = massOf(pieces);
	const [at, index] = [made.getAttribute('position'), made.getIndex()!];
	const corner = (i: number) => new Vector3().fromBufferAttribute(at, index.getX(i));
	let volume = 0;
	for (let k = 0; k < index.count; k += 3) volume += corner(k).dot(corner(k + 1).cross(corner(k + 2))) / 6;
	return volume;
}

describe('a mass', () => {
	const turned = new Matrix4().makeRotationX(1.1).setPosition(30, -200, 7);
	it('is closed and holds what its parts hold, wherever they are', () => {
		expect(volumeOf([piece(tray, [window], turned)])).toBeCloseTo((800 - 28) * 3, 1);
		expect(volumeOf([piece(tray, [], turned), piece(tray, [window], new Matrix4())])).toBeCloseTo((1600 - 28) * 3, 1);
	});
	it('leaves out the notches of a part with many', () => {
		expect(comb.length).toBeGreaterThan(60);
		expect(volumeOf([piece(comb, [], turned)]) / (400 * 60 * 3)).toBeCloseTo(1, 3);
	});
	it('gives each face the colour of its light: the side to the sun is brightest, and none is dark', () => {
		const made = massOf([piece(tray, [], new Matrix4().makeRotationX(-Math.PI / 2))]); // its face looks up
		const colours = made.getAttribute('color');
		const bright = Array.from({ length: colours.count }, (_, i) => colours.getX(i));
		const up = shaded(new Color('#e9d2a6'), new Vector3(0, 1, 0), new Color()).r;
		expect(Math.max(...bright)).toBeCloseTo(up, 6);
		expect(Math.min(...bright)).toBeGreaterThan(up * 0.2);
	});
	it('is drawn with fewer strips the more parts there are', () => {
		expect([1, 100, 200, 2000].map(stripsFor)).toEqual([12, 12, 7, 4]);
	});
});

describe('a face in the light', () => {
	// by hand: ambient 0.7, the sky's 0.9 from above, the sun's 1.7 by its slope 5/√38, of a dull face 1/π comes back
	it('facing up has what the three lights give', () => {
		const seen = shaded(new Color(1, 1, 1), new Vector3(0, 1, 0), new Color());
		expect(seen.r).toBeCloseTo((0.7 + 0.9 + (1.7 * 5) / Math.sqrt(38)) / Math.PI, 6);
	});
});

describe('the pace of a view', () => {
	const turn = (pace: Pace, frames: number, ms: (pixels: number) => number) => {
		pace.begin();
		for (let i = 0; i < frames; i++) pace.frame(ms(pace.pixels));
		return pace.pixels;
	};
	it('comes down to what the machine can do, and stays there', () => {
		const pace = new Pace();
		const slow = (pixels: number) => 16 + 120 * pixels ** 2;
		for (let i = 0; i < 3; i++) expect(slow(turn(pace, 300, slow))).toBeLessThan(30);
	});
	it('grows as sharp as the screen where frames come in time, a step a turn', () => {
		const pace = new Pace();
		const seen = [1, 2, 3, 4, 5].map(() => turn(pace, 100, () => 16));
		expect(seen).toEqual([0.4, 0.55, 0.75, 1, 1]);
	});
	it('is not moved by a late frame now and then', () => {
		const pace = new Pace();
		pace.begin();
		const first = pace.pixels;
		pace.frame(200);
		for (let i = 0; i < 15; i++) pace.frame(16);
		pace.frame(80);
		expect(pace.pixels).toBe(first);
	});
});
