/** Paints are shared by what looks alike, and only by that. */
import { BackSide, FrontSide } from 'three';
import { expect, it } from 'vitest';
import { Paints } from './paints';

it('gives one material to all that look alike, lit or not', () => {
	const paints = new Paints();
	const plain = paints.body('#8a5638', false, false);
	expect(paints.body('#8a5638', false, false)).toBe(plain);
	const others = [paints.body('#8a5638', false, true), paints.body('#8a5638', true, false), paints.body('#e9d2a6', false, false)];
	expect(new Set([plain, ...others]).size).toBe(4);
	expect(others[1]!.opacity).toBeLessThan(plain.opacity);
	expect(Paints.seen(others[0]!).r).toBeGreaterThan(Paints.seen(plain).r);
	expect(paints.line('#8a5638', FrontSide)).not.toBe(paints.line('#8a5638', BackSide));
	expect(paints.area('#8a5638', BackSide).color.r).toBeLessThan(plain.color.r);
	paints.dispose();
	expect(paints.body('#8a5638', false, false)).not.toBe(plain);
});
