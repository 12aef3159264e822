/** What is too near while a part is moved. */
import { describe, expect, it } from 'vitest';
import { keepsMargin, placedRing, tooNear } from './clash';

const square = (x: number, y: number, s = 20) => [
	[x, y],
	[x + s, y],
	[x + s, y + s],
	[x, y + s]
];
const part = (x: number, y: number, s = 20, holes: number[][][] = []) => ({ outer: square(x, y, s), holes });

describe('a part that is moved', () => {
	it.each([
		[22, 0, false],
		[21.9, 0, true],
		[21.5, 21.5, false], // corner to corner
		[21.2, 21.2, true],
		[5, 5, true]
	])('at %f, %f beside another is too near: %s', (x, y, near) => {
		expect(tooNear(part(0, 0), part(x, y), 2)).toBe(near);
		expect(tooNear(part(x, y), part(0, 0), 2)).toBe(near);
	});
	it('may lie in a hole, not across its edge, and sees what lies wholly in it', () => {
		const frame = part(0, 0, 60, [square(10, 10, 40)]);
		expect(tooNear(part(20, 20), frame, 2)).toBe(false);
		expect(tooNear(part(11, 20), frame, 2)).toBe(true);
		expect(tooNear(part(20, 20, 4), part(0, 0, 60), 2)).toBe(true);
	});
	it('keeps the margin of its sheet', () => {
		const sheet = square(0, 0, 100);
		expect(keepsMargin(part(5, 5), sheet, 5)).toBe(true);
		expect(keepsMargin(part(4.9, 5), sheet, 5)).toBe(false);
		expect(keepsMargin(part(-30, 5), sheet, 5)).toBe(false);
		expect(keepsMargin(part(0, 0), sheet, 0)).toBe(true);
	});
	it.each([
		[false, 14],
		[true, -6]
	])('is mirrored when on its back (%s), turned about its own origin, then moved', (mirrored, y) => {
		const ring = [
			[0, 0],
			[10, 0]
		];
		const [a, b] = placedRing(ring, { turn: 90, x: 3, y: 4, mirrored }) as [number[], number[]];
		expect(a[0]).toBeCloseTo(3);
		expect(a[1]).toBeCloseTo(4);
		expect(b[0]).toBeCloseTo(3);
		expect(b[1]).toBeCloseTo(y);
	});
});
