/** Runs by name, and the line a part is turned about. */
import { describe, expect, it } from 'vitest';
import type { SheetPlan } from '../../api/types';
import { keptOf } from './burn';
import { runName, turnAxis, turnedBetween } from './runs';

describe('runs', () => {
	it('have the name of their sheet, and of their face where there are two', () => {
		expect(runName({ number: 2, run: '' })).toBe('Sheet 2');
		expect(runName({ number: 1, run: 'back' })).toBe('Sheet 1, back');
	});
	it('are turned between only on one sheet', () => {
		const [back, front] = [{ sheet: '1', copy: 0, side: 'back' } as SheetPlan, { sheet: '1', copy: 0, side: 'front' } as SheetPlan];
		expect(turnedBetween(back, front)).toBe(true);
		expect(turnedBetween(back, { ...front, copy: 1 })).toBe(false);
		expect(turnedBetween(undefined, front)).toBe(false);
	});
	it.each([0, 0.7, Math.PI / 2, -2.2])('the points of a part on its turning line stay where they are: turned by %f', (a) => {
		const [x, y] = turnAxis({ cos: Math.cos(a), sin: Math.sin(a) });
		// the move itself: x to -x, then turned by a
		expect(-x * Math.cos(a) - y * Math.sin(a)).toBeCloseTo(x, 9);
		expect(-x * Math.sin(a) + y * Math.cos(a)).toBeCloseTo(y, 9);
	});
});

describe('an edge that is shared with a neighbour', () => {
	it('loses the stretch that the neighbour burns, whichever way it is told', () => {
		expect(
			keptOf(
				[0, 0],
				[40, 0],
				[
					[
						[30, 0],
						[10, 0]
					]
				]
			)
		).toEqual([
			[0, 0.25],
			[0.75, 1]
		]);
		expect(
			keptOf(
				[40, 0],
				[0, 0],
				[
					[
						[0, 0.01],
						[40, 0]
					]
				]
			)
		).toEqual([]);
		expect(
			keptOf(
				[0, 0],
				[0, 40],
				[
					[
						[30, 0],
						[10, 0]
					]
				]
			)
		).toEqual([[0, 1]]);
		expect(
			keptOf(
				[0, 0],
				[40, 0],
				[
					[
						[0, 3],
						[40, 3]
					]
				]
			)
		).toEqual([[0, 1]]);
	});
});
