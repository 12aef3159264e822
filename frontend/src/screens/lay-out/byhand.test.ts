/** A part in the hand: where it may lie, what the core says, and what others did meanwhile. */
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { LayoutOut, SheetLayout } from '../../api/types';
import { ByHand } from './byhand.svelte';

const outer = [
	[0, 0],
	[40, 0],
	[40, 20],
	[0, 20]
];
const ring = [
	[0, 0],
	[200, 0],
	[200, 100],
	[0, 100]
];
const sheet = {
	sheet: 's',
	copy: 0,
	stock: '1',
	width: 200,
	height: 100,
	ring,
	placements: [
		{ part: 'a', copy: 0, turn: 0, x: 10, y: 10 },
		{ part: 'b', copy: 0, turn: 0, x: 60, y: 10 }
	]
} as unknown as SheetLayout;
const state = (version: string, locked: object[] = []) =>
	({
		version,
		locked,
		request: { margin_mm: 5, spacing_mm: 2 },
		parts: ['a', 'b'].map((id) => ({ id, stock: '1', turns: [0, 90], profile: { outer, holes: [] } }))
	}) as unknown as LayoutOut;

let now: LayoutOut;
let answer: [number, object];
const sent: { url: string; body: Record<string, unknown> }[] = [];
const hand = () =>
	new ByHand(
		3,
		() => now,
		() => [{ sheet, x: 1000, y: 0 }],
		(told) => (now = told)
	);

beforeEach(() => {
	[now, answer, sent.length] = [state('one'), [200, state('two')], 0];
	vi.stubGlobal('fetch', async (request: Request) => {
		sent.push({ url: request.url, body: await request.json() });
		return new Response(JSON.stringify(answer[1]), { status: answer[0], headers: { 'Content-Type': 'application/json' } });
	});
});

describe('by hand', () => {
	it('shows where a part may not lie, and puts it down on the sheet below it', async () => {
		const h = hand();
		h.lift('a.0');
		h.drag(9, 0); // one millimetre from the other
		expect(h.held?.bad).toBe(true);
		h.drag(-1.5, 0);
		expect(h.held?.bad).toBe(false);
		await h.drop();
		expect(sent[0]!.body).toMatchObject({
			version: 'one',
			part: 'a',
			number: 0,
			sheet: 's',
			sheet_copy: 0,
			turn: 0,
			x: 17.5,
			y: 10,
			settle: false
		});
		expect(h.held).toBeNull();
		expect(now.version).toBe('two');
	});
	it('turns about the middle of the part', () => {
		const h = hand();
		h.lift('a.0');
		h.drag(0, 40);
		h.turn();
		expect(h.held).toMatchObject({ turn: 90, x: 1040, y: 40 });
	});
	it('turns over, about its middle, only what may lie on its back', async () => {
		const h = hand();
		h.lift('a.0');
		h.turnOver();
		expect(h.held).toMatchObject({ mirrored: false });
		now.parts[0]!.backed = true;
		h.turn();
		h.turnOver();
		expect(h.held).toMatchObject({ turn: 270, mirrored: true, bad: true });
		h.back();
		await h.turnAt('a.0', true);
		expect(sent[0]!.body).toMatchObject({ turn: 0, mirrored: true, x: 50, y: 10 });
	});
	it('keeps what is refused in the hand, to settle or to put back', async () => {
		answer = [422, { code: 'nest.not_possible', message: 'It cannot lie there.', facts: {} }];
		const h = hand();
		await h.nudge('a.0', 9, 0);
		expect(h.problem).toBe('It cannot lie there.');
		expect(h.held?.refused).toBe(true);
		answer = [200, state('two')];
		await h.drop(true);
		expect(sent[1]!.body.settle).toBe(true);
		expect(h.held).toBeNull();
	});
	it('leaves a locked part alone', async () => {
		now = state('one', [{ part: 'a', number: 0 }]);
		const h = hand();
		await h.nudge('a.0', 1, 0);
		expect(h.lift('a.0')).toBeNull();
		expect(sent).toEqual([]);
	});
	it('shows the layout of somebody who was first', async () => {
		answer = [409, state('theirs')];
		const h = hand();
		await h.lock('a.0', true);
		expect(now.version).toBe('theirs');
		expect(h.problem).toContain('Somebody else');
	});
	it('takes another way, and lets go of what is held', async () => {
		const h = hand();
		h.lift('a.0');
		await h.takeWay('fewest sheets');
		expect(sent[0]).toMatchObject({ url: expect.stringContaining('/lay-out/way'), body: { version: 'one', name: 'fewest sheets' } });
		expect(h.held).toBeNull();
		expect(now.version).toBe('two');
	});
	it('does one change after the other, each on what the one before it left', async () => {
		const h = hand();
		await Promise.all([h.lock('a.0', true), h.lock('b.0', true)]);
		expect(sent.map((s) => s.body.version)).toEqual(['one', 'two']);
		expect(sent.map((s) => s.body.parts)).toEqual([[{ part: 'a', number: 0 }], [{ part: 'b', number: 0 }]]);
	});
	it('goes to the sheet that lies below its middle', async () => {
		const other = { ...sheet, sheet: 'o', placements: [] } as unknown as SheetLayout;
		const h = new ByHand(
			3,
			() => now,
			() => [
				{ sheet, x: 1000, y: 0 },
				{ sheet: other, x: 1240, y: 0 }
			],
			(told) => (now = told)
		);
		h.lift('a.0');
		h.drag(240, 20);
		expect(h.held?.bad).toBe(false);
		await h.drop();
		expect(sent[0]!.body).toMatchObject({ sheet: 'o', x: 10, y: 30 });
	});
});
