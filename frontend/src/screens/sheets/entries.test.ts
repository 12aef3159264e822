/** Typing what the caliper says: readings, kerf tests, sheets for the shelf. */
import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Server } from '../../../tests/server';
import type { Rack, StockOut } from '../../api/types';
import KerfEntry from './KerfEntry.svelte';
import { RackState } from './rack.svelte';
import SettingsEntry from './SettingsEntry.svelte';
import SheetFace from './SheetFace.svelte';
import ShelfEntry from './ShelfEntry.svelte';

const quantity = (value: number, sd: number, trust = 'measured') => ({
	value,
	sd,
	terms: [{ kind: 'measured', label: '', value, sd, source: '', on: null, trust }]
});
const stock = (more: object = {}) =>
	({
		value: {
			id: '4',
			name: 'Birch ply 3, batch 12',
			family: 'plywood',
			label: 3,
			colour: '#e9d2a6',
			thickness: quantity(3.08, 0.03),
			kerf: quantity(0.158, 0.01),
			findings: []
		},
		shelf: 'shelf B',
		family_label: 'Plywood',
		caution: '',
		readings: [{ id: 1, thickness_mm: 3.08, x: 0.5, y: 0.5, on: '2026-11-20', by: 'alder' }],
		kerf_tests: [
			{
				id: 9,
				kind: 'gap',
				drawn_mm: 5,
				measured_mm: 5.16,
				count: 1,
				kerf_mm: 0.16,
				pooled_mm: 0.16,
				pooled_sd_mm: 0.02,
				on: '2026-11-20',
				by: 'alder'
			}
		],
		sheets: [{ id: 3, name: 'Birch ply 3, 600 × 400', width_mm: 600, height_mm: 400, count: 6, price: 7.5, is_offcut: false, outline: [] }],
		settings: { cut_power: 62, cut_speed: 14, passes: 1, score_power: 12, score_speed: 120, air: true, source: 'power card' },
		fit_with_itself: { rattles: 0.25, slides: 0.08, snug: -0.05, mallet: -0.2, source: '' },
		snug_mm: 0.015,
		default_kerf_mm: 0.18,
		...more
	}) as unknown as StockOut;

let server: Server;
beforeEach(() => (server = new Server((path) => (path === '/api/rack' ? { stocks: [stock()], families: [], machines: [] } : stock()))));
async function rackWith(one = stock()) {
	const rack = new RackState(() => {});
	rack.rack = { stocks: [one], families: [], machines: [] } as unknown as Rack;
	return rack;
}
async function put(label: string, text: string) {
	const box = screen.getByLabelText(label);
	await userEvent.clear(box);
	await userEvent.type(box, `${text}{Enter}`);
}

describe('the sheet', () => {
	it('takes a reading with Enter, at the spot the ring shows, and is ready for the next', async () => {
		const rack = await rackWith();
		render(SheetFace, { rack, stock: stock() });
		const field = screen.getByLabelText('Thickness reading');
		expect(field).toHaveFocus();
		await userEvent.type(field, '3.11{Enter}');
		await waitFor(() => expect(field).toHaveValue(''));
		expect(server.sent).toEqual([['POST', '/api/stocks/4/readings', { thickness_mm: 3.11, x: 0.06, y: 0.9 }]]);
		expect(field).toHaveFocus();
	});
	it('keeps what makes no sense in the field and says why', async () => {
		render(SheetFace, { rack: await rackWith(), stock: stock() });
		const field = screen.getByLabelText('Thickness reading');
		await userEvent.type(field, 'thin{Enter}');
		expect(await screen.findByRole('alert')).toHaveTextContent('not a length');
		expect(field).toHaveValue('thin');
		await userEvent.type(field, '{Escape}');
		expect(field).toHaveValue('');
		await userEvent.type(field, '{Escape}');
		expect(field).not.toHaveFocus();
	});
	it('takes a reading back when it is pressed', async () => {
		const rack = await rackWith();
		render(SheetFace, { rack, stock: stock() });
		await userEvent.click(screen.getByRole('button', { name: 'Reading 3.08, withdraw' }));
		expect(server.sent).toEqual([['PUT', '/api/readings/1', { withdrawn: true }]]);
		await userEvent.click(await screen.findByRole('button', { name: 'Put it back' }));
		expect(server.sent[1]).toEqual(['PUT', '/api/readings/1', { withdrawn: false }]);
	});
	it('says how many sheets there are and where', async () => {
		render(SheetFace, { rack: await rackWith(), stock: stock() });
		expect(screen.getByText('6 whole sheets · shelf B')).toBeInTheDocument();
		expect(screen.getByTestId('thickness')).toHaveTextContent('3.08');
	});
});

describe('a kerf test', () => {
	const entry = async () => {
		const ondone = vi.fn();
		render(KerfEntry, { rack: await rackWith(), stock: stock(), ondone });
		return ondone;
	};
	it('shows what strips come to before they are kept', async () => {
		const ondone = await entry();
		await put('The stack measures', '98.4');
		expect(await screen.findByText('0.160', { selector: 'b' })).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Keep this test' }));
		await waitFor(() => expect(ondone).toHaveBeenCalled());
		expect(server.sent[0]).toEqual(['POST', '/api/stocks/4/kerf-tests', { kind: 'strips', drawn_mm: 10, measured_mm: 98.4, count: 10 }]);
	});
	it.each([
		['gap', '5.16'],
		['peg', '4.84']
	])('reads a %s', async (kind, text) => {
		await entry();
		await userEvent.click(screen.getByRole('radio', { name: kind }));
		await put('It measures', text);
		expect(await screen.findByText('0.160', { selector: 'b' })).toBeInTheDocument();
	});
	it('asks for the measurement, and tells why one is refused', async () => {
		const ondone = await entry();
		await userEvent.click(screen.getByRole('button', { name: 'Keep this test' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('Type what the caliper says first');
		server.refuse = 'Check that drawn and measured are not swapped, and their unit.';
		await put('The stack measures', '120');
		await userEvent.click(screen.getByRole('button', { name: 'Keep this test' }));
		expect(await screen.findByText(/not swapped/)).toBeInTheDocument();
		expect(ondone).not.toHaveBeenCalled();
	});
	it('can be withdrawn', async () => {
		await entry();
		await userEvent.click(screen.getByRole('button', { name: 'withdraw' }));
		expect(server.sent[0]).toEqual(['PUT', '/api/kerf-tests/9', { withdrawn: true }]);
	});
});

describe('the shelf and the settings', () => {
	it('puts an offcut on the shelf with the size that was typed last', async () => {
		render(ShelfEntry, { rack: await rackWith(), stock: stock() });
		await put('Width', '310');
		await userEvent.click(screen.getByLabelText('an offcut'));
		const height = screen.getByLabelText('Height');
		await userEvent.clear(height);
		await userEvent.type(height, '220');
		await userEvent.click(screen.getByRole('button', { name: 'Put on the shelf' }));
		await waitFor(() =>
			expect(server.sent[0]?.[2]).toMatchObject({ name: 'Offcut, 310.0 × 220.0', width_mm: 310, height_mm: 220, is_offcut: true })
		);
	});
	it('counts sheets where they stand', async () => {
		render(ShelfEntry, { rack: await rackWith(), stock: stock() });
		await put('Birch ply 3, 600 × 400', '4');
		await waitFor(() => expect(server.sent[0]).toEqual(['PUT', '/api/sheets/3/count', { count: 4 }]));
	});
	it('keeps settings as tried here, or says which is out of range', async () => {
		const ondone = vi.fn();
		render(SettingsEntry, { rack: await rackWith(), stock: stock(), ondone });
		server.refuse = 'cut power is 400 %; it must lie between 1 and 100 %.';
		await put('Cut power', '400');
		await userEvent.click(screen.getByRole('button', { name: 'Keep as tried here' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('between 1 and 100');
		expect(ondone).not.toHaveBeenCalled();
		server.refuse = null;
		await put('Cut power', '70');
		await userEvent.click(screen.getByRole('button', { name: 'Keep as tried here' }));
		await waitFor(() => expect(ondone).toHaveBeenCalled());
		expect(server.sent.at(-1)?.[2]).toMatchObject({ settings: { cut_power: 70, cut_speed: 14 } });
	});
});
