import { describe, expect, it } from 'vitest';
import { bareFigure, clock, said, show, showKerf, signed, unitName } from './units';

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

describe('a sentence of the server', () => {
	it.each([
		['A tab of 3.05 mm is narrow.', 'in', 'A tab of 0.1201 in is narrow.'],
		['Base is 609.6 × 304.8 mm: larger than the bed.', 'in', 'Base is 24.000 × 12.000 in: larger than the bed.'],
		['2 ribs leave 12.7 mm; use 7 or fewer.', 'in/64', '2 ribs leave 1/2 in; use 7 or fewer.'],
		['The marks should be near 12.7, 25.4; 50.8, 25.4 mm.', 'thou', 'The marks should be near 500, 1000; 2000, 1000 thou.'],
		['Its kerf is 0.160 ± 0.010 mm (3 tests).', 'in', 'Its kerf is 0.0063 ± 0.0004 in (3 tests).'],
		['A piece of 12.0 mm² falls off at 20 mm/s.', 'in', 'A piece of 0.0186 in² falls off at 0.7874 in/s.'],
		['They share 16.4 mm³; 62 % · 14 mm/s.', 'thou', 'They share 0.001 in³; 62 % · 0.5512 in/s.'],
		['A tab of 3.05 mm is narrow.', 'mm', 'A tab of 3.05 mm is narrow.']
	] as const)('%s in %s', (text, unit, told) => expect(said(text, unit)).toBe(told));
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
