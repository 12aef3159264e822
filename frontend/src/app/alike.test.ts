import { describe, expect, it } from 'vitest';
import { rowsOf, runsOf } from './alike';

const things = ['a1', 'b1', 'a2', 'a3', 'c1', 'a4', 'b2'];
const like = (t: string) => t[0]!;
const told = (open: boolean) =>
	rowsOf(things, like, () => open).map((r) => `${r.within ? '-' : ''}${r.first}${r.all.length > 1 ? `x${r.all.length}` : ''}`);

describe('things that are alike', () => {
	it('are one row at the place of the first, once there are many', () => {
		expect(told(false)).toEqual(['a1x4', 'b1', 'c1', 'b2']);
		expect(told(true)).toEqual(['a1x4', '-a1', '-a2', '-a3', '-a4', 'b1', 'c1', 'b2']);
	});
	it('are one step only where they follow each other', () => {
		expect(runsOf(things, like)).toEqual(things.map((t) => [t])); // no four in a row
		expect(runsOf(['a1', 'a2', 'a3', 'a4', 'b1', 'a5'], like)).toEqual([['a1', 'a2', 'a3', 'a4'], ['b1'], ['a5']]);
		expect(runsOf(['', '', '', '', ''], (t) => t)).toHaveLength(5); // what is like nothing
	});
});
