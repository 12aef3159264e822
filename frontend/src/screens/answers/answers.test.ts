/** Quick answers: the question is asked as it is typed, and the number is said in the reader's unit. */
import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { quantity, rackOf, row } from '../../../tests/samples';
import { Server } from '../../../tests/server';
import Answers from './Answers.svelte';
import { QUESTIONS } from './questions';
import { sentence, span, written } from '../../../tests/written';

const went = vi.hoisted(() => vi.fn());
vi.mock('../../app/router', () => ({ navigate: went, p: (path: string) => path }));

let server: Server;
const answer = {
	says: sentence(span('Draw the slot '), span('2.98 mm', { mm: [2.975], digits: 2 }), span(' wide.')),
	results: [
		{ label: written('Draw the slot'), value: 2.975, kind: 'mm' },
		{ label: written('It comes out'), value: 3.135, kind: 'mm' }
	],
	shapes: [
		{
			points: [
				[0, 0],
				[10, 0],
				[10, 5]
			],
			style: 'sheet',
			closed: true,
			label: 'Birch'
		}
	],
	ledger: quantity(2.975, 0.03),
	findings: []
};
const project = { id: 3, revision: 6, design: { stocks: { walls: '1', lid: '2' }, numbers: {}, feel: 'snug', choices: {} } };
beforeEach(() => {
	went.mockClear();
	server = new Server((path) => {
		if (path === '/api/rack') return rackOf([row('4'), row('5')]);
		if (path === '/api/shop-board') return [{ id: 3, name: 'Seed packet drawer' }];
		if (path === '/api/scales') return [{ n: 24, name: '1:24, half inch a foot' }];
		return path.startsWith('/api/projects') ? project : answer;
	});
});
const asked = () => server.sent.filter(([, path]) => path === '/api/answers').map(([, , body]) => body as Record<string, unknown>);

describe('quick answers', () => {
	it('says the number at once, in words and large', async () => {
		render(Answers);
		expect(await screen.findByTestId('answer')).toHaveTextContent('2.98 mm');
		expect(screen.getByText('Draw the slot 2.98 mm wide.')).toBeInTheDocument();
		expect(asked().at(-1)).toMatchObject({ kind: 'slot', sheet: 4, mate: 4, feel: 'snug' });
	});
	it('asks again when a choice or a number changes, and says what is refused', async () => {
		render(Answers);
		await screen.findByTestId('answer');
		await userEvent.click(screen.getByRole('button', { name: /Angled slot/ }));
		const angle = screen.getByLabelText('Angle');
		await userEvent.clear(angle);
		server.refuse = 'angle is 5 °; it must lie between 15 and 165 °.';
		await userEvent.type(angle, '5{Enter}');
		expect((await screen.findAllByRole('alert'))[0]).toHaveTextContent('between 15 and 165');
		expect(asked().at(-1)).toMatchObject({ kind: 'angled', angle: 5 });
	});
	it.each(QUESTIONS.map((q) => q.kind))('has a form for %s', async (kind) => {
		render(Answers);
		await screen.findByTestId('answer');
		await userEvent.click(screen.getByRole('button', { name: new RegExp(QUESTIONS.find((q) => q.kind === kind)!.asks.replace('?', '')) }));
		await waitFor(() => expect(asked().at(-1)).toMatchObject({ kind }));
		expect(screen.getByRole('heading', { level: 2 })).toHaveTextContent(QUESTIONS.find((q) => q.kind === kind)!.asks);
	});
	it('asks for a model length instead of a real one when that is typed', async () => {
		render(Answers);
		await screen.findByTestId('answer');
		await userEvent.click(screen.getByRole('button', { name: /^Scale/ }));
		await userEvent.type(screen.getByLabelText('or in the model'), '100{Enter}');
		await waitFor(() => expect(asked().at(-1)).toMatchObject({ model: 100, real: null, n: 24 }));
	});
	it('carries stock and feel into a project', async () => {
		render(Answers);
		await screen.findByTestId('answer');
		await userEvent.click(screen.getByRole('radio', { name: 'slides' }));
		await userEvent.click(screen.getByRole('button', { name: 'Carry it over' }));
		await waitFor(() => expect(went).toHaveBeenCalledWith('/projects/:id/:station', { params: { id: '3', station: 'build' } }));
		expect(server.sent.find(([method]) => method === 'PUT')?.[2]).toMatchObject({
			base: 6,
			design: { stocks: { walls: '4', lid: '4' }, feel: 'slides' }
		});
	});
});
