/** The shop board's forms: a new box, and the people of the shop. */
import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { families, picture } from '../../../tests/samples';
import { Server } from '../../../tests/server';
import { session } from '../../app/session.svelte';
import { fitted, paint } from '../../lib/mat/painted';
import Picture from '../../lib/mat/Picture.svelte';
import NewProject from './NewProject.svelte';
import People from './People.svelte';

let server: Server;
const people = [
	{ id: 1, username: 'alder', role: 'owner' },
	{ id: 2, username: 'mossgate', role: 'designer' }
];
beforeEach(() => (server = new Server((path) => (path === '/api/projects' ? { id: 12 } : path === '/api/families' ? families : people))));

describe('a new project', () => {
	it('starts with the sizes as typed, Enter going from field to field', async () => {
		const onmade = vi.fn();
		render(NewProject, { onmade });
		await userEvent.type(screen.getByLabelText('Name'), 'Row label box');
		const width = await screen.findByLabelText('Width');
		await userEvent.clear(width);
		await userEvent.type(width, '240{Enter}');
		await waitFor(() => expect(screen.getByLabelText('Depth')).toHaveFocus());
		expect(server.sent).toEqual([]); // Enter in a size starts nothing yet
		await userEvent.clear(screen.getByLabelText('Depth'));
		await userEvent.type(screen.getByLabelText('Depth'), '90');
		await userEvent.click(screen.getByRole('button', { name: 'Start building' }));
		await waitFor(() => expect(onmade).toHaveBeenCalledWith(12));
		const numbers = { ...families[0]!.defaults, width: 240, depth: 90 };
		expect(server.sent).toEqual([['POST', '/api/projects', { name: 'Row label box', feel: 'snug', numbers }]]);
	});
	it('begins with another family when that is chosen', async () => {
		const onmade = vi.fn();
		render(NewProject, { onmade });
		await userEvent.click(await screen.findByRole('radio', { name: 'Stand' }));
		expect(screen.queryByLabelText('Depth')).toBeNull();
		expect(screen.getByText('Figures that stand in a base.')).toBeInTheDocument();
		await userEvent.type(screen.getByLabelText('Name'), 'Stall name board');
		await userEvent.click(screen.getByRole('button', { name: 'Start building' }));
		await waitFor(() => expect(onmade).toHaveBeenCalled());
		expect(server.sent[0]![2]).toMatchObject({ numbers: { family: 'stand', width: 160 } });
	});
	it('does not start with a size that makes no sense, nor loses what is typed', async () => {
		const onmade = vi.fn();
		render(NewProject, { onmade });
		const height = await screen.findByLabelText('Height');
		await userEvent.clear(height);
		await userEvent.type(height, 'tall');
		await userEvent.click(screen.getByRole('button', { name: 'Start building' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('not a length');
		expect(height).toHaveValue('tall');
		expect(server.sent).toEqual([]);
	});
	it('tells what the server refuses', async () => {
		server.refuse = 'Give the project a name.';
		render(NewProject, { onmade: vi.fn() });
		await screen.findByLabelText('Width');
		await userEvent.click(screen.getByRole('button', { name: 'Start building' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('Give the project a name');
	});
});

describe('the people of the shop', () => {
	const as = (role: string) => (session.me = { username: 'alder', shop: 'Alder Row Workshop', role, unit: 'mm' });

	it('are only read by those who do not own it', async () => {
		as('designer');
		render(People);
		expect(await screen.findByText('mossgate')).toBeInTheDocument();
		expect(screen.queryByRole('combobox')).toBeNull();
		expect(screen.queryByRole('button', { name: 'Add a person' })).toBeNull();
	});
	it('get another role, or none, from an owner', async () => {
		as('owner');
		render(People);
		const role = await screen.findByLabelText('Role of mossgate');
		await userEvent.selectOptions(role, 'viewer');
		expect(server.sent.at(-1)).toEqual(['PUT', '/api/people/2', { role: 'viewer' }]);
		await userEvent.selectOptions(await screen.findByLabelText('Role of mossgate'), 'take out of the shop');
		expect(server.sent.at(-1)).toEqual(['PUT', '/api/people/2', { role: null }]);
	});
	it('keep their owner: a refused choice springs back and is told', async () => {
		as('owner');
		server.refuse = 'A shop needs an owner. Make somebody else owner first.';
		render(People);
		await userEvent.selectOptions(await screen.findByLabelText('Role of alder'), 'viewer');
		expect(await screen.findByRole('alert')).toHaveTextContent('A shop needs an owner');
		expect(screen.getByLabelText('Role of alder')).toHaveValue('owner');
	});
	it('are joined by somebody new', async () => {
		as('owner');
		render(People);
		await userEvent.click(await screen.findByRole('button', { name: 'Add a person' }));
		await userEvent.type(screen.getByLabelText('Name to sign in with'), 'hazel');
		await userEvent.type(screen.getByLabelText('First password'), 'a-long-password');
		await userEvent.click(screen.getByRole('button', { name: 'Add as designer' }));
		await waitFor(() =>
			expect(server.sent).toEqual([['POST', '/api/people', { username: 'hazel', password: 'a-long-password', role: 'designer' }]])
		);
	});
});

describe('the picture of a project', () => {
	it('lights up the number being changed', () => {
		const { container } = render(Picture, { picture: picture as never, colours: { '4': '#8a5638' }, lines: true, lit: 'width' });
		expect(container.querySelector('[data-number="width"]')).toHaveClass('lit');
	});
	it('paints each face in its stock, as light as it is lit, inside its room', () => {
		const calls: [string, ...unknown[]][] = [];
		const context = new Proxy({ canvas: { width: 200, height: 100 } } as never as CanvasRenderingContext2D, {
			get: (own, name) => Reflect.get(own, name) ?? ((...given: unknown[]) => calls.push([String(name), ...given])),
			set: (own, name, value) => calls.push([String(name), value]) > 0
		});
		const square = [[0, 0], [100, 0], [100, 50], [0, 50]]; // prettier-ignore
		const one = { faces: [{ part: 'a', stock: '4', ring: square, light: 0.5 }], lines: [], bounds: [0, 0, 100, 50] };
		paint(context, one as never, fitted(one.bounds, 200, 100), () => '#8a5638', 1);
		expect(calls).toContainEqual(['fillStyle', 'rgb(87 55 33)']); // half of it and half of 35, 24, 10
		expect(calls).toContainEqual(['fill', 'evenodd']);
		const corners = calls.filter(([name]) => name.endsWith('To')).map(([, x, y]) => [x, y] as [number, number]);
		const [xs, ys] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
		expect([Math.min(...xs) + Math.max(...xs), Math.min(...ys) + Math.max(...ys)].map(Math.round)).toEqual([200, 100]);
		expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(100 * (50 / 60), 6); // a twentieth of its longer side is air
	});
});
