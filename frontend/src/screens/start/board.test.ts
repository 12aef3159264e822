/** The shop board: what the shop must know, and where each project goes on. */
import { render, screen } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { families, picture, rackOf, row } from '../../../tests/samples';
import { Server } from '../../../tests/server';
import { written } from '../../../tests/written';
import Start from './Start.svelte';

const went = vi.hoisted(() => vi.fn());
vi.mock('../../app/router', () => ({ navigate: went, p: (path: string) => path }));

const daysAgo = (days: number) => new Date(Date.now() - days * 86_400_000).toISOString().slice(0, 10);
const project = {
	id: 3,
	name: 'Seed packet drawer',
	revision: 6,
	changed: '2026-11-24T10:00:00Z',
	deadline: null,
	pieces_cut: 7,
	face: {
		family: 'Box',
		parts: 10,
		next: { station: 'run', says: written('cut the next sheet') },
		picture,
		colours: { '1': '#e9d2a6', '2': '#8a5638' }
	}
};
let boards: object[][] = [];
let asides: object[][] = [];
let server: Server;
let stocks = [row('1')];
beforeEach(() => {
	went.mockClear();
	boards = [];
	asides = [];
	server = new Server((path) =>
		path === '/api/rack'
			? rackOf(stocks)
			: path === '/api/shop-board'
				? (boards.shift() ?? [project])
				: path === '/api/shop-board/aside' || path === '/api/projects/3/place'
					? (asides.shift() ?? [])
					: path === '/api/people'
						? []
						: path === '/api/families'
							? families
							: {}
	);
});

describe('the shop board', () => {
	it('goes to the station that comes next, or to the project', async () => {
		stocks = [row('1')];
		render(Start);
		await userEvent.click(await screen.findByRole('button', { name: /cut the next sheet/ }));
		expect(went).toHaveBeenLastCalledWith('/projects/:id/:station', { params: { id: '3', station: 'run' } });
		await userEvent.click(screen.getByRole('button', { name: /Seed packet drawer/ }));
		expect(went).toHaveBeenLastCalledWith('/projects/:id/:station', { params: { id: '3', station: 'build' } });
		expect(screen.getByText('Everything is measured and stocked.')).toBeInTheDocument();
	});
	it('shows what is there, and asks again for projects that are not built yet', async () => {
		boards = [[{ ...project, face: null }]];
		render(Start);
		expect(await screen.findByText('Seed packet drawer')).toBeInTheDocument();
		expect(await screen.findByRole('button', { name: /cut the next sheet/ })).toBeInTheDocument();
		expect(screen.getByText('Box · 10 parts · 7 cut')).toBeInTheDocument();
	});
	it('says what is a guess, what is old, and what runs out; but nothing of a stock that must not be cut', async () => {
		stocks = [
			row('1', 'plywood', { name: 'Never tested', kerf_guess: true }),
			row('2', 'plywood', { name: 'Tested long ago', kerf_on: daysAgo(200) }),
			row('3', 'plywood', { name: 'Tested lately', kerf_on: daysAgo(20) }),
			row('4', 'plywood', { name: 'Running out', whole: 1, offcuts: 0 }),
			row('5', 'plastic', { name: 'White vinyl', verdict: 'forbidden', kerf_guess: true })
		];
		render(Start);
		const note = async (name: string) => (await screen.findByText(name)).closest('.note')?.textContent;
		expect(await note('Never tested')).toContain('never measured here');
		expect(await note('Tested long ago')).toMatch(/measured (199|200) days ago/);
		expect(await note('Running out')).toContain('1 left on the shelf');
		expect(screen.queryByText('Tested lately')).toBeNull();
		expect(screen.queryByText('White vinyl')).toBeNull();
	});
	it('puts a project away, deletes it and brings it back', async () => {
		const away = { id: 3, name: 'Seed packet drawer', place: 'away', since: '2026-11-28T10:00:00Z', gone_on: null };
		const deleted = { ...away, place: 'deleted', gone_on: '2026-12-28T10:00:00Z' };
		asides = [[], [away], [deleted], []];
		boards = [[project], [], []];
		render(Start);
		await userEvent.click(await screen.findByRole('button', { name: 'put away' }));
		await userEvent.click(await screen.findByRole('button', { name: 'Delete' }));
		expect(await screen.findByText(/gone for good on/)).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Back on the board' }));
		expect(await screen.findByRole('button', { name: 'put away' })).toBeInTheDocument();
		expect(server.sent.map(([, , body]) => body)).toEqual([{ place: 'away' }, { place: 'deleted' }, { place: 'board' }]);
	});
});
