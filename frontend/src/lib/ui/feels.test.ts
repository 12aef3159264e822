import { describe, expect, it } from 'vitest';
import type { Boundaries } from '../../api/types';
import { FEELS, chancesLine, onBand } from './feels';

const wood = { rattles: 0.25, slides: 0.08, snug: -0.05, mallet: -0.2 } as Boundaries;

describe('the band of feels', () => {
	it('has widths that fill it, snug the widest', () => {
		expect(FEELS.reduce((n, f) => n + f.width, 0)).toBeCloseTo(1);
		expect(Math.max(...FEELS.map((f) => f.width))).toBe(FEELS[2].width);
	});
	it('puts each boundary where two steps meet', () => {
		let at = 0;
		for (const [i, edge] of [wood.rattles, wood.slides, wood.snug, wood.mallet].entries()) {
			at += FEELS[i]!.width;
			expect(onBand(edge, wood)).toBeCloseTo(at);
		}
	});
	it('never leaves the band and only moves one way', () => {
		let last = -1;
		for (let c = 2; c > -2; c -= 0.01) {
			const x = onBand(c, wood);
			expect(x).toBeGreaterThanOrEqual(last);
			expect(x).toBeLessThanOrEqual(1);
			last = x;
		}
		expect(last).toBeCloseTo(1);
	});
	it('names what may happen and always what is wanted', () => {
		const chances = { rattles: 0, slides: 0.1, snug: 0.002, mallet: 0.898, wont_go: 0 };
		const line = chancesLine({ clearance: 0, sd: 0.1, ...chances }, 'snug');
		expect(line.map((o) => o.name)).toEqual(['slides', 'snug', 'mallet']);
		expect(line.find((o) => o.strong)?.name).toBe('snug');
	});
});
