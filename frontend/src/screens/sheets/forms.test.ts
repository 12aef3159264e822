/** The forms beside the sheet: making cards, borrowing, what is said about a stock. */
import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it } from 'vitest';
import { card, machine, rackOf, row, stock, wood } from '../../../tests/samples';
import { Server } from '../../../tests/server';
import type { CardRow, StockOut } from '../../api/types';
import BorrowEvidence from './BorrowEvidence.svelte';
import CardShows from './cards/CardShows.svelte';
import { chosen, measureOf, neighbour, optionsFor } from './cards/entry';
import FeelsLine from './FeelsLine.svelte';
import RackList from './RackList.svelte';
import { RackState } from './rack.svelte';
import ReadingsLine from './ReadingsLine.svelte';
import StockDetails from './StockDetails.svelte';
import StockGives from './StockGives.svelte';
import TestCards from './TestCards.svelte';
import { written } from '../../../tests/written';

let server: Server;
beforeEach(() => {
	server = new Server((path) => {
		if (path === '/api/rack') return rackOf([row('4'), row('5')]);
		if (path.endsWith('/cards')) return path.includes('/stocks/4') ? card('gauge', 'slot') : [];
		return path.startsWith('/api/cards/') ? card('gauge', 'slot') : stock();
	});
});
function rackWith(one = stock()) {
	const rack = new RackState(() => {});
	rack.rack = rackOf([
		row('4'),
		row('5', 'plywood', { name: 'Walnut 3' }),
		row('6', 'plastic', { name: 'White vinyl', verdict: 'forbidden', guess: true })
	]);
	rack.stock = one;
	return rack;
}

describe('the rack list', () => {
	it('filters as one types, goes by arrows, and lays the first on the mat with Enter', async () => {
		const rack = rackWith();
		render(RackList, { rack, used: new Set(['5']), onproblem: () => {} });
		expect(screen.getByText('in this project')).toBeInTheDocument();
		expect(screen.getByText('must not be cut')).toBeInTheDocument();
		expect(screen.getByText('3.08 ?')).toBeInTheDocument();
		const stocks = () => screen.getAllByRole('button').filter((b) => b.classList.contains('stock'));
		stocks()[0]!.focus();
		await userEvent.keyboard('{ArrowDown}');
		expect(stocks()[1]).toHaveFocus();
		await userEvent.type(screen.getByLabelText('Filter by name, material or thickness'), 'vinyl');
		expect(stocks()).toHaveLength(1);
		await userEvent.type(screen.getByLabelText('Filter by name, material or thickness'), 'x');
		expect(screen.getByText(/Nothing on the rack is called/)).toBeInTheDocument();
	});
	it('opens a tool and closes it again', async () => {
		const rack = rackWith();
		render(RackList, { rack, used: new Set<string>(), onproblem: () => {} });
		const tool = screen.getByRole('button', { name: 'Machine' });
		await userEvent.click(tool);
		expect(rack.pane).toBe('machine');
		expect(tool).toHaveAttribute('aria-pressed', 'true');
		await userEvent.click(tool);
		expect(rack.pane).toBe('sheet');
	});
});

describe('test cards', () => {
	it('are made with a tongue of another stock where two stocks shall fit', async () => {
		const rack = rackWith();
		render(TestCards, { rack, stock: stock() });
		await userEvent.selectOptions(screen.getByLabelText('Tongue of'), '5');
		await userEvent.click(screen.getByRole('button', { name: 'Make it' }));
		await waitFor(() => expect(rack.pane).toBe('card'));
		expect(server.sent).toEqual([['POST', '/api/stocks/4/cards', { kind: 'gauge', tongue: 5 }]]);
	});
	it('that judge one stock ask for no tongue; a refusal is told', async () => {
		render(TestCards, { rack: rackWith(), stock: stock() });
		await userEvent.selectOptions(screen.getByLabelText('Make a new'), 'power');
		expect(screen.queryByLabelText('Tongue of')).toBeNull();
		expect(screen.getByText('Stay with the machine.')).toBeInTheDocument();
		server.refuse = 'White vinyl must not be cut.';
		await userEvent.click(screen.getByRole('button', { name: 'Make it' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('must not be cut');
	});
	it('are listed with what is still to be entered, and opened again', async () => {
		const rack = rackWith();
		rack.cards = [{ ...card('gauge', 'slot'), entered: 2 } as CardRow];
		render(TestCards, { rack, stock: stock() });
		expect(screen.getByText('2/3')).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: /Test card/ }));
		await waitFor(() => expect(rack.card?.id).toBe(7));
	});
});

describe('what a card shows', () => {
	const found = (more: object) => ({ ...card('power', 'square').found, entered: 1, ...more });
	it.each([
		['power', { best_by_char: [null, { power: 72, speed: 15.8, through: true, char: 1 }, null] }, 'Fastest clean square: 72 %, 15.8 mm/s'],
		['power', { why_not: written('No square cut through.') }, 'No square cut through.'],
		['steps', { depth: { per_pass: 0.2, sd: 0.01, squares: 3 } }, '0.200 ± 0.010 mm a pass'],
		['legibility', { least_text_mm: 2, least_web_mm: null }, 'Least text 2.0, least web ? mm'],
		['strips', {}, 'Kerf 0.158 ± 0.010 mm']
	])('%s', (kind, more, words) => {
		render(CardShows, { rack: rackWith(), card: card(kind, 'square', { found: found(more) }) });
		expect(screen.getByText(words)).toBeInTheDocument();
	});
	it('names the slots that cannot both be right', () => {
		render(CardShows, { rack: rackWith(), card: card('gauge', 'slot', { found: found({ contradicting: ['2.90', '2.95'] }) }) });
		expect(screen.getByRole('note')).toHaveTextContent('2.90, 2.95: a wider slot felt tighter');
	});
	it('shows the best square for the char that is accepted, and keeps that one', async () => {
		const square = (power: number) => ({ power, speed: 14, through: true, char: 0 });
		const rack = rackWith();
		rack.card = card('power', 'square', { found: found({ best_by_char: [null, square(60), square(48)] }) });
		render(CardShows, { rack, card: rack.card });
		expect(screen.getByText('Fastest clean square: 60 %, 14 mm/s')).toBeInTheDocument();
		await userEvent.click(screen.getByRole('radio', { name: 'some' }));
		expect(screen.getByText('Fastest clean square: 48 %, 14 mm/s')).toBeInTheDocument();
		server.refuse = 'No square cut through.';
		await userEvent.click(screen.getByRole('button', { name: 'Keep the best' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('No square cut through.');
		expect(server.sent).toEqual([['POST', '/api/cards/7/settings', { cell: null, accepted_char: 2 }]]);
	});
});

describe('cells of a card', () => {
	const cells = card('gauge', 'slot').cells;
	it('are walked along the row and end at its ends', () => {
		expect(neighbour(cells, 0, 'ArrowRight')).toBe(1);
		expect(neighbour(cells, 2, 'ArrowRight')).toBe(2);
		expect(neighbour(cells, 0, 'ArrowLeft')).toBe(0);
		expect(neighbour(cells, 1, 'ArrowLeft')).toBe(0);
	});
	it('of a grid are walked up and down too', () => {
		const grid = [0, 1, 2, 3].map((i) => ({
			...cells[0]!,
			id: `g${i}`,
			box: [10 * (i % 2), 10 * Math.floor(i / 2), 10 * (i % 2) + 5, 10 * Math.floor(i / 2) + 5]
		}));
		expect(neighbour(grid, 0, 'ArrowUp')).toBe(2);
		expect(neighbour(grid, 3, 'ArrowDown')).toBe(1);
		expect(neighbour(grid, 2, 'ArrowRight')).toBe(3);
	});
	it('have words of their own on each kind of card, and a number on the others', () => {
		expect(optionsFor('gauge').map((o) => o.value.feel)).toEqual(['rattles', 'slides', 'snug', 'mallet', 'wont_go']);
		expect(optionsFor('power')).toHaveLength(5);
		expect(chosen(optionsFor('power'), { through: true, char: 2 })?.name).toBe('charred');
		expect(chosen(optionsFor('power'), undefined)).toBeUndefined();
		expect(optionsFor('strips')).toEqual([]);
		expect(measureOf(card('steps', 'square'), { ...cells[0]!, label: '1' }).ask).toBe('How deep is the square of 1 pass?');
	});
});

describe('readings on a line', () => {
	it('show the one that lies far from the others', () => {
		const reading = (id: number, thickness_mm: number, more: object = {}) => ({
			id,
			thickness_mm,
			x: 0,
			y: 0,
			on: '2026-11-25',
			by: 'alder',
			withdrawn: false,
			borrowed: '',
			...more
		});
		const of = stock({
			readings: [reading(1, 3.2, { withdrawn: true }), reading(2, 3.01), reading(3, 3.02), reading(4, 3.6), reading(5, 3.0)]
		});
		of.value = {
			...of.value,
			findings: [
				{
					code: 'reading_odd',
					severity: 'look',
					says: written(''),
					parts: [],
					meeting: null,
					place: null,
					places: [],
					field: null,
					facts: { reading: 2 },
					repairs: [],
					item: ''
				}
			]
		} as typeof of.value;
		render(ReadingsLine, { stock: of });
		expect(screen.getByText('3.60, far from the others')).toBeInTheDocument();
		expect(screen.queryByText('3.02, far from the others')).toBeNull();
	});
});

describe('about a stock', () => {
	it('borrows from the likeliest stock unless told otherwise', async () => {
		let done = false;
		const rack = rackWith();
		render(BorrowEvidence, { rack, stock: stock(), ondone: () => (done = true) });
		await userEvent.click(screen.getByRole('button', { name: 'Borrow' }));
		await waitFor(() => expect(done).toBe(true));
		expect(server.sent).toEqual([['POST', '/api/stocks/4/borrow', { stock: 5, machine: 1 }]]);
		expect(machine.id).toBe('1');
	});
	it('keeps each thing as it is said', async () => {
		render(StockDetails, { rack: rackWith(), stock: stock() });
		const finish = screen.getByLabelText('Finish');
		await userEvent.type(finish, 'oiled{Tab}');
		await userEvent.selectOptions(screen.getByLabelText('Film'), 'both');
		const light = screen.getAllByLabelText('L')[0]!;
		await userEvent.type(light, '84.6{Enter}');
		await waitFor(() => expect(server.sent).toHaveLength(3));
		expect(server.sent.map(([, , body]) => body)).toEqual([{ finish: 'oiled' }, { film: 'both' }, { lab: [84.6, 0, 0] }]);
	});
	it('says at the machine what film, warp and a mirror ask for', () => {
		render(StockGives, { rack: rackWith(), stock: stock({ film: 'front', warp: 'bows 4 mm', look: 'mirrored' }) });
		expect(screen.getByText(/Film on the front/)).toBeInTheDocument();
		expect(screen.getByText(/the head can strike/)).toBeInTheDocument();
		expect(screen.getByText(/goes face down/)).toBeInTheDocument();
	});
	it('draws feels over the boundaries they taught, without those withdrawn', () => {
		const feel = (id: number, clearance_mm: number, feel: string, withdrawn = false) => ({
			id,
			opening: '4',
			entering: '4',
			feel,
			drawn_mm: 2.9,
			clearance_mm,
			on: '2026-11-25',
			by: 'alder',
			withdrawn,
			borrowed: ''
		});
		const of = stock({ feels: [feel(1, 0.2, 'slides'), feel(2, 0, 'snug'), feel(3, -0.1, 'mallet', true)] });
		const fit = { ...of.fits[0]!, boundaries: { ...wood, answers: 2, source: written('2 feels') } } as StockOut['fits'][number];
		const { container } = render(FeelsLine, { stock: of, fit });
		expect(container.querySelectorAll('circle')).toHaveLength(2);
		expect(screen.getByText('Feels with itself')).toBeInTheDocument();
		expect(screen.getByText('+0.25')).toBeInTheDocument();
	});
});
