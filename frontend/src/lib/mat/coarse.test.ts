/** A coarse outline fills notches, keeps the reach, and has few corners whatever it came from. */
import { describe, expect, it } from 'vitest';
import type { Point } from '../../api/types';
import { coarseOutline } from './coarse';

const area = (ring: Point[]) =>
	ring.reduce((sum, [x, y], i) => sum + (x * ring[(i + 1) % ring.length]![1] - ring[(i + 1) % ring.length]![0] * y) / 2, 0);
const reach = (ring: Point[]) => [0, 1].flatMap((i) => [Math.min(...ring.map((p) => p[i]!)), Math.max(...ring.map((p) => p[i]!))]);

describe('a coarse outline', () => {
	const rib: Point[] = [
		[0, 0],
		[400, 0]
	];
	for (let x = 390; x > 10; x -= 10) rib.push([x + 2, 60], [x + 2, 30], [x - 2, 30], [x - 2, 60]);
	rib.push([10, 60], [0, 60]);

	it.each([false, true])('fills the notches of a rib (standing: %s)', (standing) => {
		const ring = rib.map(([x, y]): Point => (standing ? [-y, x] : [x, y]));
		const coarse = coarseOutline(ring);
		expect(coarse.length).toBe(26);
		reach(coarse).forEach((v, i) => expect(v).toBeCloseTo(reach(ring)[i]!, 6));
		expect(Math.abs(area(coarse))).toBeCloseTo(400 * 60, 0);
	});
	it('follows a slope', () => {
		expect(
			Math.abs(
				area(
					coarseOutline([
						[0, 0],
						[100, 0],
						[100, 50],
						[0, 10]
					])
				)
			)
		).toBeCloseTo(3000, 6);
	});
});
