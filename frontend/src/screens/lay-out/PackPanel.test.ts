/** How a packing is asked for, how it goes, and what came of it. */
import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { LayoutOut } from '../../api/types';
import PackPanel from './PackPanel.svelte';
import { written } from '../../../tests/written';

vi.mock('../../app/project.svelte', () => ({ useProject: () => ({ id: 3 }) }));
let needs: object[] = [];
const asked: { copies: number }[] = [];

beforeEach(() => {
	[needs, asked.length] = [[], 0];
	vi.stubGlobal('fetch', async (request: Request) => {
		if (request.url.endsWith('/lay-out/need')) {
			asked.push(await request.json());
			return new Response(JSON.stringify(needs), { status: 200, headers: { 'Content-Type': 'application/json' } });
		}
		const { text } = (await request.json()) as { text: string };
		const good = Number.isFinite(Number(text));
		const body = good ? { value: Number(text) } : { code: 'x', message: `“${text}” is not a number.`, facts: {} };
		return new Response(JSON.stringify(body), { status: good ? 200 : 422, headers: { 'Content-Type': 'application/json' } });
	});
});

const request = { margin_mm: 5, spacing_mm: 1.56, keep_grain: false, common: false, copies: 1, seconds: 4, seed: 1 };
const out = (more: object = {}) =>
	({
		fresh: true,
		revision: 6,
		nesting: null,
		request,
		parts: [
			{ id: 'front', label: 'Front', stock: '1', copies: 1, spares: 0, profile: { outer: [], holes: [], circles: [] } },
			{ id: 'back', label: 'Back', stock: '1', copies: 1, spares: 0, profile: { outer: [], holes: [], circles: [] } }
		],
		stocks: {},
		shelf: [
			{ id: '1', stock: '1', name: 'Birch ply 3', width: 600, height: 400, count: 5 },
			{ id: '2', stock: '1', name: 'Offcut 17', width: 310, height: 220, count: 0 }
		],
		bed_mm: [620, 420],
		job: null,
		ways: [],
		items: [],
		...more
	}) as unknown as LayoutOut;
const nesting = {
	sheets: [
		{ sheet: '1', copy: 0, stock: '1', name: 'Birch ply 3', utilisation: 0.5, placements: [1, 2] },
		{ sheet: '1', copy: 1, stock: '1', name: 'Birch ply 3', utilisation: 0.2, placements: [3] }
	],
	unplaced: [{ part: 'back', count: 2, why: written('the sheets on the shelf are full; add a sheet') }],
	utilisation: 0.427,
	price: 21.5
};

describe('the packing panel', () => {
	it('asks for what is typed, once every number is read', async () => {
		const onpack = vi.fn(async () => {});
		render(PackPanel, { out: out(), busy: false, onpack, onstop: vi.fn() });
		expect(screen.getByRole('heading', { name: '2 parts to lay out' })).toBeInTheDocument();
		const copies = screen.getByLabelText('Copies of everything');
		await userEvent.clear(copies);
		await userEvent.type(copies, '20');
		await userEvent.click(screen.getByLabelText(/Keep the grain/));
		await userEvent.click(screen.getByRole('button', { name: 'Pack the parts' }));
		await waitFor(() => expect(onpack).toHaveBeenCalledWith({ ...request, copies: 20, keep_grain: true, common: false, go_on: false }));
	});
	it('goes on from the layout that is there, with other chances', async () => {
		const onpack = vi.fn(async () => {});
		render(PackPanel, { out: out({ nesting }), busy: false, onpack, onstop: vi.fn() });
		for (const seed of [2, 3]) {
			await userEvent.click(screen.getByRole('button', { name: 'Go on from here' }));
			await waitFor(() => expect(onpack).toHaveBeenLastCalledWith({ ...request, seed, go_on: true }));
		}
	});
	it('does not pack with a number that makes no sense', async () => {
		const onpack = vi.fn(async () => {});
		render(PackPanel, { out: out(), busy: false, onpack, onstop: vi.fn() });
		const copies = screen.getByLabelText('Copies of everything');
		await userEvent.clear(copies);
		await userEvent.type(copies, 'many');
		await userEvent.click(screen.getByRole('button', { name: 'Pack the parts' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('not a number');
		expect(onpack).not.toHaveBeenCalled();
	});
	it('says how many, how full, how much, and what found no place and why', () => {
		render(PackPanel, { out: out({ nesting }), busy: false, onpack: vi.fn(), onstop: vi.fn() });
		expect(screen.getByRole('heading', { name: '2 sheets, 43 %' })).toBeInTheDocument();
		expect(screen.getByText(/3 parts placed · price 21.50/)).toBeInTheDocument();
		expect(screen.queryByLabelText('What each item takes')).not.toBeInTheDocument();
		expect(screen.getByText('2 × Back').closest('.note')).toHaveTextContent('the sheets on the shelf are full; add a sheet');
	});
	it('says what each item takes, where there are several', () => {
		const items = [
			{ label: 'Board', pieces: 1, sheets: 0.75, price: 16.125 },
			{ label: 'Piece', pieces: 24, sheets: 0.25, price: 5.375 }
		];
		render(PackPanel, { out: out({ nesting, items }), busy: false, onpack: vi.fn(), onstop: vi.fn() });
		expect(screen.getByLabelText('What each item takes')).toHaveTextContent(
			/Board 1 piece · 0.75 sheets · 16.13 ?Piece 24 pieces · 0.25 sheets · 5.38/
		);
	});
	it('counts many parts without a place by the reason, and names them when asked', async () => {
		const why = 'the sheets on the shelf are full; add a sheet';
		const unplaced = [...'abcde'].map((part, i) => ({ part, count: i + 1, why: written(part === 'e' ? 'larger than the bed' : why) }));
		render(PackPanel, { out: out({ nesting: { ...nesting, unplaced } }), busy: false, onpack: vi.fn(), onstop: vi.fn() });
		expect(screen.getByText('10 parts').parentElement).toHaveTextContent(`10 parts, of them a, b, c …: ${why}`);
		expect(screen.getByText('5 × e').parentElement).toHaveTextContent('5 × e: larger than the bed');
		await userEvent.click(screen.getByRole('button', { name: 'Name them all' }));
		expect(screen.getByText('4 × d').parentElement).toHaveTextContent(`1 × a, 2 × b, 3 × c, 4 × d: ${why}`);
	});
	it('keeps ways beside each other, and takes another on request', async () => {
		const way = (name: string, sheets: number, price: number, taken: boolean) => ({
			name,
			sheets,
			price,
			utilisation: 0.5,
			left_mm: [100, 50],
			taken
		});
		const onway = vi.fn(async () => {});
		render(PackPanel, {
			out: out({ nesting, ways: [way('cheapest', 3, 4, true), way('fewest sheets', 1, 9, false)] }),
			busy: false,
			onpack: vi.fn(),
			onway,
			onstop: vi.fn()
		});
		expect(screen.getByText(/3 sheets, 4.00, 50 %/)).toHaveTextContent('cheapest: 3 sheets, 4.00, 50 % leaves 100.0 × 50.0 whole');
		await userEvent.click(screen.getByRole('button', { name: 'Take it' }));
		expect(onway).toHaveBeenCalledWith('fewest sheets');
	});
	it('shows the best so far and can be stopped', async () => {
		const onstop = vi.fn(async () => {});
		const job = {
			state: 'running',
			says: null,
			progress: {
				trace: [
					[0.2, 0.4],
					[0.9, 0.515]
				],
				seconds: 4
			}
		};
		render(PackPanel, { out: out({ nesting, job }), busy: true, onpack: vi.fn(), onstop });
		expect(screen.getByText('Best so far 51.5 %')).toBeInTheDocument();
		expect(screen.getByRole('button', { name: 'Pack again' })).toBeDisabled();
		await userEvent.click(screen.getByRole('button', { name: 'Stop, keep the best' }));
		expect(onstop).toHaveBeenCalled();
	});
	it('says before packing what is needed, what is there and what to buy', async () => {
		needs = [{ stock: '1', sheet: '1', sheets: 7.24, there: 5, offcuts: 1, buy: 3, price: 22.5, sure: true }];
		const shown = render(PackPanel, { out: out(), busy: false, onpack: vi.fn(), onstop: vi.fn() });
		expect(await screen.findByText('The shelf has too few: buy 3, 22.50 in all')).toBeInTheDocument();
		expect(screen.getByText('5 there, 1 other')).toBeInTheDocument();
		await shown.rerender({ out: out() }); // as a job's progress comes in, twice a second: the same question is not asked again
		expect(asked.map((a) => a.copies)).toEqual([1]);
		needs = [];
		const copies = screen.getByLabelText('Copies of everything');
		await userEvent.clear(copies);
		await userEvent.type(copies, '4{Enter}');
		await waitFor(() => expect(screen.queryByText(/too few/)).toBeNull());
		expect(asked.map((a) => a.copies)).toEqual([1, 4]);
	});
	it('tells why a packing failed, and what to do without sheets', () => {
		const job = { state: 'failed', says: written('There are no parts to lay out. Mend the design on Build first.'), progress: {} };
		render(PackPanel, { out: out({ job, shelf: [] }), busy: false, onpack: vi.fn(), onstop: vi.fn() });
		expect(screen.getByRole('alert')).toHaveTextContent('Mend the design on Build first');
		expect(screen.getByText(/Put one on the shelf on Sheets/)).toBeInTheDocument();
	});
});
