import { describe, expect, it } from 'vitest';
import type { Contour, Point, SheetPlan } from '../../api/types';
import { drawnStrokes, headAt, headOf, shareOf } from './burn';
import { along, boundsOf, contourPoints, inkOn, profilePath } from './outlines';

const line = (start: Point, end: Point) => ({ start, end, centre: null, radius: 0, ccw: true });
const square: Contour = {
	closed: true,
	segments: [line([0, 0], [10, 0]), line([10, 0], [10, 10]), line([10, 10], [0, 10]), line([0, 10], [0, 0])]
} as Contour;
const circle = {
	closed: true,
	segments: [{ start: [5, 0], end: [5, 0], centre: [0, 0], radius: 5, ccw: true }]
} as unknown as Contour;

describe('outlines', () => {
	it('follows a full circle once round, at its radius', () => {
		const points = contourPoints(circle);
		for (const [x, y] of points) expect(Math.hypot(x, y)).toBeCloseTo(5, 9);
		let length = 0;
		for (let i = 1; i < points.length; i++) length += Math.hypot(points[i]![0] - points[i - 1]![0], points[i]![1] - points[i - 1]![1]);
		expect(length).toBeCloseTo(2 * Math.PI * 5, 1);
		expect(points.length).toBeGreaterThan(40);
	});
	it('walks half of a square to its far corner', () => {
		expect(along(contourPoints(square), 0.5)).toEqual([10, 10]);
		expect(along([[1, 1]], 0.5)).toEqual([1, 1]);
	});
	it('draws holes beside the outline, for the even-odd rule', () => {
		const ring: Point[] = [
			[0, 0],
			[4, 0],
			[4, 4]
		];
		expect(profilePath({ outer: ring, holes: [ring], circles: [] }).match(/Z/g)).toHaveLength(2);
		expect(boundsOf(ring)).toEqual({ x0: 0, y0: 0, x1: 4, y1: 4 });
	});
	it('writes dark on light sheets and light on dark ones', () => {
		expect(inkOn('#e9d2a6')).not.toBe(inkOn('#8a5638'));
	});
});

describe('the head', () => {
	const stroke = (from: number, burn: number, end: number, contour: Contour, id: string) => ({
		path: { id, part: 'a', copy: 0, operation: 'outer', contour },
		travel_from: from,
		burn_from: burn,
		end,
		passes: 1,
		speed: 10,
		power: 50
	});
	const sheet = {
		strokes: [stroke(0, 1, 5, square, 'one'), stroke(5, 6, 8, circle, 'two')]
	} as unknown as SheetPlan;
	const drawn = drawnStrokes(sheet);

	it('is where the machine says, with as much burned as lies behind it', () => {
		expect(shareOf(contourPoints(square), [10, 5])).toBeCloseTo(0.375);
		expect(shareOf(contourPoints(square), [4, 0.01])).toBeCloseTo(0.1);
		const told = { x: 10, y: 5, burning: true, path: 'one' };
		expect(headOf(drawn, told, 7)).toMatchObject({ at: [10, 5], burning: true, stroke: 0, share: 0.375 });
		expect(headOf(drawn, { ...told, path: '' }, 5.5)).toMatchObject({ at: [10, 5], burning: false, stroke: 1, share: 0 });
	});
	it('is home before the first cut, on the line while it burns, and at the last end after it', () => {
		expect(headAt(drawn, 0)).toMatchObject({ at: [0, 0], burning: false, stroke: 0 });
		expect(headAt(drawn, 3)).toMatchObject({ at: [10, 10], burning: true, share: 0.5 });
		expect(headAt(drawn, 5.5)).toMatchObject({ at: [2.5, 0], from: [0, 0], burning: false });
		expect(headAt(drawn, 99)).toMatchObject({ at: [5, 0], burning: false, stroke: 2 });
	});
});
