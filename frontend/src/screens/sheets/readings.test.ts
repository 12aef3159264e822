/** No reading is lost or changed, whatever the server's delays: shown at once, sent in order, each to its own stock; what fails is told. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { freshColour } from './colours';
import { ReadingQueue } from './readings.svelte';

/** A small generator, so that a failure comes again. */
function chance(seed: number) {
	let s = seed;
	return () => (s = (s * 1664525 + 1013904223) % 4294967296) / 4294967296;
}

beforeEach(() => {
	vi.useFakeTimers();
});
afterEach(() => {
	vi.useRealTimers();
});

it.each([1, 2, 3, 4])('keeps a thousand readings in order on their stocks, with delays of up to 3 s (%i)', async (seed) => {
	const r = chance(seed);
	const kept: { stock: string; mm: number }[] = [];
	const late = <T>(value: T) => new Promise<T>((done) => setTimeout(() => done(value), r() * 3000));
	const queue = new ReadingQueue(async (mm, _, stock) => {
		await late(null);
		if (mm === 9.99) throw new Error('The line broke.');
		kept.push({ stock, mm });
	});
	const typed: { stock: string; mm: number }[] = [];
	let broken = 0;
	let stock = Promise.resolve('s0');
	let name = 's0';
	for (let k = 0; k < 1000; k++) {
		if (r() < 0.02) {
			name = `s${k}`;
			stock = late(name); // a stock that is only being put on the rack
		}
		const mm = r() < 0.02 ? 9.99 : Math.round((1 + r() * 8) * 100) / 100;
		if (mm === 9.99) broken++;
		else typed.push({ stock: name, mm });
		queue.enter(String(mm), 'mm', { x: 0.5, y: 0.5 }, stock);
		expect(queue.waiting.some((t) => t.text === String(mm))).toBe(true);
		if (r() < 0.3) await vi.advanceTimersByTimeAsync(r() * 4000);
	}
	await vi.runAllTimersAsync();
	await queue.settled();
	expect(kept).toEqual(typed);
	expect(queue.failed).toHaveLength(broken);
	expect(queue.waiting).toHaveLength(broken);
	expect(queue.failed.every((t) => t.text === '9.99' && t.wrong === 'The line broke.')).toBe(true);
});

it('sends a reading again that a person mended, and forgets one that is dropped', async () => {
	const kept: number[] = [];
	const queue = new ReadingQueue(async (mm) => {
		if (mm > 50) throw new Error('Too thick.');
		kept.push(mm);
	});
	queue.enter('305', 'mm', { x: 0, y: 0 }, Promise.resolve('1'));
	queue.enter('  ', 'mm', { x: 0, y: 0 }, Promise.resolve('1'));
	await queue.settled();
	const [failed] = queue.failed;
	queue.again(failed!.key, '3.05');
	await queue.settled();
	expect([kept, queue.waiting.length]).toEqual([[3.05], 0]);
});

it('gives each new stock of a material a colour of its own', () => {
	const taken: string[] = [];
	for (let k = 0; k < 12; k++) taken.push(freshColour('#8a5a3b', taken));
	expect(new Set(taken).size).toBe(12);
	expect(taken[0]).toBe('#8a5a3b');
});
