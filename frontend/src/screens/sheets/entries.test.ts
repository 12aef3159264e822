/** Typing what the caliper says: readings, kerf tests, sheets for the shelf. */
import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Server } from '../../../tests/server';
import { card, machine, rackOf, row, stock } from '../../../tests/samples';
import AddStock from './AddStock.svelte';
import CardTable from './cards/CardTable.svelte';
import Contrast from './Contrast.svelte';
import FilesInOut from './FilesInOut.svelte';
import KerfEntry from './KerfEntry.svelte';
import MachineProfile from './MachineProfile.svelte';
import MoreReadings from './MoreReadings.svelte';
import { RackState } from './rack.svelte';
import Record from './Record.svelte';
import SettingsEntry from './SettingsEntry.svelte';
import SheetFace from './SheetFace.svelte';
import ShelfEntry from './ShelfEntry.svelte';
import StockDetails from './StockDetails.svelte';
import StockGives from './StockGives.svelte';
import { written } from '../../../tests/written';

let server: Server;
let caliper: { seq: number; mm: number }[] = [];
const pairs = [{ a: '4', b: '5', difference: 3.1, hard_to_tell: true }];
beforeEach(() => {
	caliper = [];
	server = new Server((path) => {
		if (path === '/api/rack') return rackOf([row('4'), row('5')]);
		if (path === '/api/contrast') return { pairs, measured: { '4': true }, lab: { '4': [84, 4, 23], '5': [82, 5, 26] } };
		if (path === '/api/exchange') return { kept: { readings: 2, stocks: 0 } };
		if (path.endsWith('/caliper')) return { readings: caliper };
		if (path.endsWith('/cards')) return [];
		if (path.startsWith('/api/cards/')) return card('gauge', 'slot').found;
		if (path.startsWith('/api/machines')) return machine;
		return stock();
	});
});
async function rackWith(one = stock()) {
	const rack = new RackState(() => {});
	rack.rack = rackOf([row('4'), row('5')]);
	rack.stock = one;
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
		render(KerfEntry, { rack: await rackWith(), ondone });
		return ondone;
	};
	it('shows what strips come to before they are kept', async () => {
		const ondone = await entry();
		await put('The stack measures', '98.4');
		expect(await screen.findByText('0.160', { selector: 'b' })).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Keep this test' }));
		await waitFor(() => expect(ondone).toHaveBeenCalled());
		expect(server.sent[0]).toEqual([
			'POST',
			'/api/stocks/4/kerf-tests',
			{ kind: 'strips', drawn_mm: 10, measured_mm: 98.4, below_mm: null, count: 10 }
		]);
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
	it('takes both faces of a gap and shows their mean', async () => {
		await entry();
		await userEvent.click(screen.getByRole('radio', { name: 'gap' }));
		await put('It measures', '5.20');
		await put('On the far face, if measured', '5.12');
		expect(await screen.findByText('0.160', { selector: 'b' })).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Keep this test' }));
		await waitFor(() => expect(server.sent[0]?.[2]).toMatchObject({ measured_mm: 5.2, below_mm: 5.12 }));
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
		await waitFor(() => expect(server.sent[0]).toEqual(['PATCH', '/api/sheets/3', { count: 4 }]));
	});
	it('keeps settings as tried here, or says which is out of range', async () => {
		const ondone = vi.fn();
		render(SettingsEntry, { rack: await rackWith(), stock: stock(), ondone });
		server.refuse = 'power is 400 %; it must lie between 1 and 100 %.';
		await put('Power', '400');
		await userEvent.click(screen.getByRole('button', { name: 'Keep cut as tried here' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('between 1 and 100');
		expect(ondone).not.toHaveBeenCalled();
		server.refuse = null;
		await put('Power', '70');
		await userEvent.click(screen.getByRole('button', { name: 'Keep cut as tried here' }));
		await waitFor(() => expect(ondone).toHaveBeenCalled());
		expect(server.sent.at(-1)?.[2]).toMatchObject({ settings: { cut: { power: 70, speed: 14 }, score: { power: 12 } }, tried: ['cut'] });
	});
	it('forgets a measured depth when the beam that made it changes, but not for more passes', async () => {
		const of = stock();
		of.settings = { ...of.settings, engrave: { ...of.settings.engrave, depth: 0.3 } };
		render(SettingsEntry, { rack: await rackWith(of), stock: of, ondone: vi.fn() });
		await userEvent.click(screen.getByRole('radio', { name: 'engrave' }));
		await put('Passes', '3');
		await waitFor(() => expect(screen.getByLabelText(/One pass engraves/)).toHaveValue('0.30'));
		await put('Speed', '180');
		await waitFor(() => expect(screen.getByLabelText(/One pass engraves/)).toHaveValue('0.00'));
		await userEvent.click(screen.getByRole('button', { name: 'Keep engrave as tried here' }));
		await waitFor(() =>
			expect(server.sent.at(-1)?.[2]).toMatchObject({ settings: { engrave: { passes: 3, speed: 180, depth: 0 } }, tried: ['engrave'] })
		);
	});
});

describe('ways for readings to come', () => {
	it('takes five from the caliper, spot by spot, and puts it down', async () => {
		const rack = await rackWith();
		caliper = [3.07, 3.08, 3.09, 3.1, 3.11, 3.12].map((mm, i) => ({ seq: i + 1, mm }));
		render(MoreReadings, { rack, stockId: '4' });
		await userEvent.click(screen.getByRole('button', { name: 'Take from the caliper' }));
		expect(await screen.findByText('5 readings taken over the sheet.')).toBeInTheDocument();
		const taken = server.sent
			.filter(([, path]) => path.endsWith('/readings'))
			.map(([, , body]) => (body as { thickness_mm: number }).thickness_mm);
		expect(taken).toEqual([3.07, 3.08, 3.09, 3.1, 3.11]);
	});
	it('keeps a pasted list typed until it is understood', async () => {
		const rack = await rackWith();
		render(MoreReadings, { rack, stockId: '4' });
		await userEvent.click(screen.getByRole('button', { name: 'Paste a list' }));
		await userEvent.type(screen.getByLabelText('Readings, one on a line'), '3.05{Enter}soft');
		server.refuse = 'Line 2: “soft” is not a length.';
		await userEvent.click(screen.getByRole('button', { name: 'Keep them all' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('Line 2');
		expect(screen.getByLabelText('Readings, one on a line')).toHaveValue('3.05\nsoft');
		server.refuse = null;
		await userEvent.click(screen.getByRole('button', { name: 'Keep them all' }));
		await waitFor(() => expect(server.sent.at(-1)).toEqual(['POST', '/api/stocks/4/readings/pasted', { text: '3.05\nsoft', unit: 'mm' }]));
	});
});

describe('cautions stand at the action', () => {
	it('where a forbidden stock is chosen', async () => {
		render(AddStock, { rack: await rackWith(), open: true });
		await userEvent.selectOptions(await screen.findByLabelText('Material'), 'plastic');
		expect(await screen.findByRole('alert')).toHaveTextContent('it gives off chlorine');
		await userEvent.selectOptions(screen.getByLabelText('Made of'), 'plastic.abs');
		expect(screen.getByText(/Not without its maker’s data/)).toBeInTheDocument();
	});
	it('where settings of a stock that flares, with film on, are opened', async () => {
		render(SettingsEntry, { rack: await rackWith(), stock: stock({ film: 'both' }), ondone: vi.fn() });
		expect(screen.getByText(/This stock flares/)).toBeInTheDocument();
		expect(screen.getByText(/Film on both faces/)).toBeInTheDocument();
	});
	it('and a person confirms the maker’s data by name', async () => {
		const abs = { id: 'plastic.abs', material: 'plastic', label: 'ABS', verdict: 'needs_data', why: 'it melts' };
		const of = stock({ substance: abs });
		of.value = { ...of.value, material: 'plastic' };
		render(StockDetails, { rack: await rackWith(of), stock: of });
		const button = screen.getByRole('button', { name: /have read it/ });
		expect(button).toBeDisabled();
		await userEvent.type(screen.getByLabelText(/Which data sheet/), 'sheet 7: may be cut');
		await userEvent.click(button);
		await waitFor(() => expect(server.sent.at(-1)).toEqual(['PUT', '/api/stocks/4/makers-data', { data: 'sheet 7: may be cut' }]));
	});
	it('asks once more before a stock is taken off the rack, and says where it is in use', async () => {
		render(StockDetails, { rack: await rackWith(), stock: stock() });
		await userEvent.click(screen.getByRole('button', { name: 'Take it off the rack' }));
		server.refuse = 'Birch ply 3 is in use: Seed packet drawer.';
		await userEvent.click(screen.getByRole('button', { name: 'Yes, take it off' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('in use: Seed packet drawer');
	});
});

describe('entering a card', () => {
	async function table(kind: string, what: string) {
		const rack = await rackWith();
		rack.card = card(kind, what);
		render(CardTable, { rack, card: rack.card });
		return rack;
	}
	it('by the keyboard: a number says how it is and goes on', async () => {
		const rack = await table('gauge', 'slot');
		await userEvent.click(screen.getByRole('button', { name: /slot 2.90/ }));
		await userEvent.keyboard('5');
		expect(screen.getByRole('button', { name: /slot 2.91/ })).toHaveFocus();
		await userEvent.keyboard('{ArrowRight}3');
		const entries = () => server.sent.flatMap(([, , body]) => (body as { entries: object[] }).entries);
		await waitFor(() => expect(entries()).toHaveLength(2));
		expect(entries()).toEqual([
			{ cell: 'c0', value: { feel: 'wont_go' } },
			{ cell: 'c2', value: { feel: 'snug' } }
		]);
		expect(rack.card!.id).toBe(7);
	});
	it('by measuring: the number is kept and the next cell is asked for', async () => {
		await table('gaps', 'slot');
		expect(screen.getByText('How wide is the slot that was drawn 2.90?')).toBeInTheDocument();
		await put('It measures', '3.05');
		expect(await screen.findByText('How wide is the slot that was drawn 2.91?')).toBeInTheDocument();
		expect(server.sent[0]?.[2]).toEqual({ entries: [{ cell: 'c0', value: { measured_mm: 3.05 } }] });
	});
	it('says why an entry is refused', async () => {
		await table('power', 'square');
		server.refuse = 'This card has no such cell.';
		await userEvent.click(screen.getByRole('radio', { name: /burnt/ }));
		expect(await screen.findByRole('alert')).toHaveTextContent('no such cell');
	});
});

describe('what a stock gives', () => {
	it('says what is a guess, what would help, and makes the card that helps', async () => {
		const gauge = {
			what: written('Gauge strip'),
			why: written('Snug with itself is a guess.'),
			action: 'gauge',
			minutes: 4.3,
			size_mm: [126.8, 57.4]
		};
		const rack = await rackWith(stock({ advice: [gauge] }));
		const made = vi.spyOn(rack, 'makeCard').mockResolvedValue();
		render(StockGives, { rack, stock: stock() });
		expect(screen.getByText('+0.01 ?')).toBeInTheDocument();
		expect(screen.getByText(/4 min, 126.8 × 57.4 mm/)).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Make one' }));
		expect(made).toHaveBeenCalledWith('gauge');
	});
	it('keeps the record of everything, and takes back or puts back one by one', async () => {
		const rack = await rackWith();
		render(Record, { rack, stock: stock({ readings: [{ ...stock().readings[0], withdrawn: true }] }) });
		expect(screen.getByText(/2 entries/)).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'put back' }));
		await waitFor(() => expect(server.sent[0]).toEqual(['PUT', '/api/readings/1', { withdrawn: false }]));
		await userEvent.click(screen.getByRole('button', { name: 'withdraw' }));
		await waitFor(() => expect(server.sent[1]).toEqual(['PUT', '/api/kerf-tests/9', { withdrawn: true }]));
	});
});

describe('tools of the shop', () => {
	it('warns of stocks that are hard to tell apart', async () => {
		render(Contrast, { rack: await rackWith() });
		expect(await screen.findByRole('note')).toHaveTextContent('Stock 4 and Stock 5 are hard to tell apart (3.1)');
		await userEvent.click(screen.getByRole('button', { name: /Stock 5/ }));
		await waitFor(() => expect(server.sent.at(-1)?.[2]).toEqual({ stocks: [4], finished: false }));
	});
	it('takes a table in, or says what is wrong with it and keeps the text', async () => {
		render(FilesInOut, { rack: await rackWith() });
		const text = screen.getByLabelText('or its text');
		await userEvent.type(text, 'stock,thickness_mm');
		server.refuse = 'readings, row 1: There is no stock. Nothing was kept.';
		await userEvent.click(screen.getByRole('button', { name: 'Take it in' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('Nothing was kept');
		expect(text).toHaveValue('stock,thickness_mm');
		server.refuse = null;
		await userEvent.click(screen.getByRole('button', { name: 'Take it in' }));
		expect(await screen.findByText('Kept 2 readings.')).toBeInTheDocument();
	});
	it('changes the lens, a number, and a layer of the machine', async () => {
		const rack = await rackWith();
		render(MachineProfile, { rack, machine: rack.machine! });
		await userEvent.click(screen.getByLabelText('4 in lens'));
		await put('Bed, width', '800');
		const layer = screen.getByLabelText('Score, layer');
		await userEvent.clear(layer);
		await userEvent.type(layer, 'lines{Tab}');
		await waitFor(() => expect(server.sent).toHaveLength(3));
		expect(server.sent.map(([, path, body]) => [path, body])).toEqual([
			['/api/machines/1', { lens: 'four_inch' }],
			['/api/machines/1', { bed_width: 800 }],
			['/api/machines/1', { score: { colour: '#1f6fb2', line_width: 0.1, layer: 'lines' } }]
		]);
	});
});
