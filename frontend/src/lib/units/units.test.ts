import { describe, expect, it } from 'vitest';
import { bareFigure, clock, plainly, show, showKerf, signed, sized, unitName, type Figures } from './units';

describe('showing lengths', () => {
	it.each([
		[12.7, 'in/64', '1/2'],
		[57.15, 'in/64', '2 1/4'],
		[-6.35, 'in/64', '-1/4'],
		[0.1, 'in/64', '0'],
		[25.4, 'in', '1.000'],
		[3.048, 'thou', '120'],
		[3.084, 'mm', '3.1']
	] as const)('%f mm in %s is %s', (mm, unit, text) => expect(show(mm, unit)).toBe(text));

	it('gives widths of joints their hundredths', () => {
		expect(show(2.974, 'mm', true)).toBe('2.97');
		expect(show(2.974, 'in', true)).toBe('0.1171');
		expect(show(2.974, 'in/64', true)).toBe('0.1171'); // a sixty-fourth is far too coarse for a fit
		expect(showKerf(0.158, 'mm')).toBe('0.158');
	});
	it('signs the lines of a ledger with a true minus', () => {
		expect(signed(-0.158, 'mm')).toBe('−0.16');
		expect(signed(0.05, 'mm')).toBe('+0.05');
	});
	it('names the unit once', () => {
		expect(['mm', 'in', 'in/64', 'thou'].map((u) => unitName(u as 'mm'))).toEqual(['mm', 'in', 'in', 'thou']);
	});
});

describe('a sentence of the program', () => {
	const of = (mm: number[], digits: number | null, of: Figures = 'length') => ({ text: 'in mm', mm, digits, of });
	const said = (text: string) => ({ text, mm: [], digits: 0, of: 'length' as const });
	it.each([
		[[said('A tab of '), of([3.05], 2), said(' is narrow.')], 'in', 'A tab of 0.1201 in is narrow.'],
		[[said('Base is '), of([609.6, 304.8], 0)], 'in', 'Base is 24.000 × 12.000 in'],
		[[said('2 ribs leave '), of([12.7], 1)], 'in/64', '2 ribs leave 1/2 in'],
		[[of([500.38], null)], 'thou', '19700 thou'],
		[[of([12], 1, 'area'), said(' falls off at '), of([20], 0, 'speed')], 'in', '0.0186 in² falls off at 0.7874 in/s'],
		[[of([16.4], 1, 'volume')], 'thou', '0.001 in³'],
		[[said('A tab of '), of([3.05], 2)], 'mm', 'A tab of in mm']
	] as const)('is told in %3$s', (spans, unit, told) => expect(plainly(spans, unit)).toBe(told));
	it('has sizes in mm with the digits that it wants', () => {
		expect([sized([3.05], 'mm', 2), sized([20, 12], 'mm', 0), sized([0.5], 'mm', null), sized([3], 'mm', 1, 'area')]).toEqual([
			'3.05 mm',
			'20 × 12 mm',
			'0.5 mm',
			'3.0 mm²'
		]);
	});
});

describe('a clock', () => {
	it.each([
		[0, '0:00'],
		[59.6, '1:00'],
		[754, '12:34'],
		[3600, '1 h 00'],
		[-3, '0:00']
	])('%d s reads %s', (seconds, text) => expect(clock(seconds)).toBe(text));
});

describe('a bare figure', () => {
	it.each([
		['12', 12],
		[' 0,5 ', 0.5],
		['003.250', 3.25]
	])('%s needs no reading', (text, number) => expect(bareFigure(text)).toBe(number));
	it.each(['', '1/8', '3in', '2+3', '1.', '.5', '-1', '1e3', '12345', '1,000,0'])('“%s” is for the server to read', (text) =>
		expect(bareFigure(text)).toBeNull()
	);
});
