/** The rack: groups, the next spot for the caliper, and evidence that comes and goes. */
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Rack, StockOut } from '../../api/types';
import { RackState, SPOTS } from './rack.svelte';

const stock = (id: string, family: string, readings: { id: number; x: number; y: number }[] = []) =>
	({ value: { id, name: id, family }, family_label: family, readings, kerf_tests: [], sheets: [] }) as unknown as StockOut;
const families = [
	{ id: 'plywood', label: 'plywood', colour: '' },
	{ id: 'acrylic', label: 'acrylic', colour: '' }
];

let server: Rack;
let sent: [string, string, unknown][];
beforeEach(() => {
	sent = [];
	server = { stocks: [stock('2', 'acrylic'), stock('1', 'plywood')], families, machines: [] } as unknown as Rack;
	vi.stubGlobal('fetch', async (request: Request) => {
		const path = new URL(request.url).pathname;
		const body = request.method === 'GET' ? null : await request.json();
		sent.push([request.method, path, body]);
		const answer = path === '/api/rack' ? server : stock('1', 'plywood', [{ id: 5, ...SPOTS[0]! }]);
		return new Response(JSON.stringify(answer), { status: 200, headers: { 'Content-Type': 'application/json' } });
	});
});

async function loaded(changed = vi.fn()) {
	const rack = new RackState(changed);
	await rack.load();
	return rack;
}

describe('the rack', () => {
	it('groups stocks in the order of families and leaves empty families out', async () => {
		const rack = await loaded();
		expect(rack.groups.map(([family, stocks]) => [family, stocks.length])).toEqual([
			['plywood', 1],
			['acrylic', 1]
		]);
		server.stocks = [stock('1', 'plywood')];
		await rack.load();
		expect(rack.groups.map(([family]) => family)).toEqual(['plywood']);
	});
	it('shows where to put the caliper next: each spot once, then new ones inside the sheet', async () => {
		server.stocks = [stock('1', 'plywood')];
		const rack = await loaded();
		const seen: string[] = [];
		for (let i = 0; i < 12; i++) {
			const { x, y } = rack.spot;
			expect(x).toBeGreaterThan(0);
			expect(x).toBeLessThan(1);
			expect(y).toBeGreaterThan(0);
			expect(y).toBeLessThan(1);
			seen.push(`${x},${y}`);
			server.stocks = [stock('1', 'plywood', [...rack.stock!.readings, { id: i, x, y }])];
			await rack.load();
		}
		expect(seen.slice(0, SPOTS.length)).toEqual(SPOTS.map((s) => `${s.x},${s.y}`));
		expect(new Set(seen).size).toBe(seen.length);
	});
	it('keeps a reading at its spot and tells the strip', async () => {
		const changed = vi.fn();
		const rack = await loaded(changed);
		rack.chosen = '1';
		await rack.read(3.08);
		expect(sent.at(-1)).toEqual(['POST', '/api/stocks/1/readings', { thickness_mm: 3.08, ...SPOTS[0] }]);
		expect(rack.stock!.readings).toHaveLength(1);
		expect(changed).toHaveBeenCalledTimes(1);
	});
	it('remembers the reading withdrawn last until something else is done', async () => {
		const rack = await loaded();
		rack.chosen = '1';
		await rack.read(3.08);
		const reading = rack.stock!.readings[0]!;
		await rack.withdrawReading(reading, true);
		expect(sent.at(-1)).toEqual(['PUT', '/api/readings/5', { withdrawn: true }]);
		expect(rack.withdrawn).toEqual(reading);
		await rack.withdrawReading(reading, false);
		expect(sent.at(-1)).toEqual(['PUT', '/api/readings/5', { withdrawn: false }]);
		expect(rack.withdrawn).toBeNull();
	});
});
