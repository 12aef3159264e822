/** The rack: groups, the filter, the next spot for the caliper, and evidence that comes and goes. */
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { card, rackOf, row, stock } from '../../../tests/samples';
import { Server } from '../../../tests/server';
import { RackState, SPOTS } from './rack.svelte';

let server: Server;
let rows = [row('2', 'plastic', { thickness_mm: 2.87 }), row('4'), row('5', 'plywood', { name: 'Poplar', shelf: 'rack 2' })];
let readings: object[] = [];
beforeEach(() => {
	readings = [];
	rows = [row('2', 'plastic', { thickness_mm: 2.87 }), row('4'), row('5', 'plywood', { name: 'Poplar', shelf: 'rack 2', thickness_mm: 4 })];
	server = new Server((path) => {
		if (path === '/api/rack') return rackOf(rows);
		if (path.endsWith('/cards')) return [];
		if (path.startsWith('/api/cards/')) return path.endsWith('/results') ? card('gauge', 'slot').found : card('gauge', 'slot');
		const id = path.split('/')[3]!;
		const of = stock({ readings });
		return { ...of, value: { ...of.value, id: path.includes('/stocks/') ? id : '4' } };
	});
});
async function loaded(changed = vi.fn()) {
	const rack = new RackState(changed, () => ['4', '2']);
	await rack.load();
	await rack.choose('4');
	return rack;
}

describe('the rack', () => {
	it('groups stocks in the order of materials and leaves empty materials out', async () => {
		const rack = await loaded();
		expect(rack.groups.map(([material, stocks]) => [material, stocks.length])).toEqual([
			['plywood', 2],
			['plastic', 1]
		]);
	});
	it.each([
		['poplar', ['5']],
		['rack 2', ['5']],
		['plywood', ['4', '5']],
		['2.9', ['2']],
		['3', ['2', '4', '5']],
		['4', ['4', '5']],
		['nothing', []]
	])('filters by “%s”: name, place, material, or thickness', async (text, ids) => {
		const rack = await loaded();
		rack.filter = text;
		const wanted = text === '3' ? ['2', '4', '5'] : text === '4' ? ['4', '5'] : ids;
		expect(rack.found.map((s) => s.id).sort()).toEqual(wanted);
	});
	it('shows where to put the caliper next: each spot once, then new ones inside the sheet', async () => {
		const rack = await loaded();
		const seen: string[] = [];
		for (let i = 0; i < 12; i++) {
			const { x, y } = rack.spot;
			expect(Math.min(x, y, 1 - x, 1 - y)).toBeGreaterThan(0);
			seen.push(`${x},${y}`);
			readings = [...readings, { id: i, x, y, thickness_mm: 3, withdrawn: false, borrowed: '' }];
			await rack.choose('4');
		}
		expect(seen.slice(0, SPOTS.length)).toEqual(SPOTS.map((s) => `${s.x},${s.y}`));
		expect(new Set(seen).size).toBe(seen.length);
	});
	it('counts neither withdrawn nor borrowed readings', async () => {
		readings = [{ withdrawn: true }, { borrowed: 'batch 9' }, {}].map((r, id) => ({
			id,
			x: 0,
			y: 0,
			withdrawn: false,
			borrowed: '',
			...r
		}));
		expect((await loaded()).readings.map((r) => r.id)).toEqual([2]);
	});
	it('asks again when two changes were on their way at once: neither answer need know of the other', async () => {
		const both = [0, 1].map((id) => ({ id, x: 0, y: 0, thickness_mm: 3, withdrawn: false, borrowed: '' }));
		const rack = await loaded(vi.fn(() => void (readings = both)));
		await Promise.all([rack.read(3), rack.read(3.1)]);
		expect(rack.readings).toHaveLength(2);
	});
	it('keeps a reading at its spot, tells the strip, and remembers the one withdrawn last', async () => {
		const changed = vi.fn();
		const rack = await loaded(changed);
		await rack.read(3.08);
		expect(server.sent).toEqual([['POST', '/api/stocks/4/readings', { thickness_mm: 3.08, ...SPOTS[0] }]]);
		expect(changed).toHaveBeenCalledTimes(1);
		const reading = { ...stock().readings[0]! };
		await rack.withdrawReading(reading, true);
		expect(server.sent.at(-1)).toEqual(['PUT', '/api/readings/1', { withdrawn: true }]);
		expect(rack.withdrawn).toEqual(reading);
		await rack.withdrawReading(reading, false);
		expect(rack.withdrawn).toBeNull();
	});
	it('does not lay a stock back on the mat that was left while its change was on the way', async () => {
		const rack = await loaded();
		const change = rack.read(3.1);
		await rack.choose('5');
		await change;
		expect(rack.stock!.value.id).toBe('5');
	});
});

describe('entries on a card', () => {
	it('show at once, go to the server in turn, and are taken back when refused', async () => {
		const rack = await loaded();
		await rack.openCard(7);
		const first = rack.enter('c0', { feel: 'snug' });
		const second = rack.enter('c1', { feel: 'slides' });
		const standing = rack.card!.found.results.filter((r) => !r.withdrawn).map((r) => r.cell);
		expect(standing).toEqual(['c0', 'c1']);
		await Promise.all([first, second]);
		expect(server.sent.flatMap(([, , body]) => (body as { entries: { cell: string }[] }).entries.map((e) => e.cell))).toEqual(['c0', 'c1']);
		server.refuse = 'This card has no such cell.';
		await expect(rack.enter('c9', { feel: 'snug' })).rejects.toThrow('no such cell');
		expect(rack.card!.found.results).toEqual([]);
	});
});
