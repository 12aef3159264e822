/** The shop board's forms: a new box, and the people of the shop. */
import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Server } from '../../../tests/server';
import { session } from '../../app/session.svelte';
import BoxPicture from './BoxPicture.svelte';
import NewProject from './NewProject.svelte';
import People from './People.svelte';

let server: Server;
const people = [
	{ id: 1, username: 'alder', role: 'owner' },
	{ id: 2, username: 'mossgate', role: 'designer' }
];
beforeEach(() => (server = new Server((path) => (path === '/api/projects' ? { id: 12 } : people))));

describe('a new box', () => {
	it('starts with the sizes as typed, Enter going from field to field', async () => {
		const onmade = vi.fn();
		render(NewProject, { onmade });
		await userEvent.type(screen.getByLabelText('Name'), 'Row label box');
		const width = screen.getByLabelText('Width');
		await userEvent.clear(width);
		await userEvent.type(width, '240{Enter}');
		await waitFor(() => expect(screen.getByLabelText('Depth')).toHaveFocus());
		expect(server.sent).toEqual([]); // Enter in a size starts nothing yet
		await userEvent.clear(screen.getByLabelText('Depth'));
		await userEvent.type(screen.getByLabelText('Depth'), '90');
		await userEvent.click(screen.getByRole('button', { name: 'Start building' }));
		await waitFor(() => expect(onmade).toHaveBeenCalledWith(12));
		expect(server.sent).toEqual([
			['POST', '/api/projects', { name: 'Row label box', feel: 'snug', width_mm: 240, depth_mm: 90, height_mm: 60 }]
		]);
	});
	it('does not start with a size that makes no sense, nor loses what is typed', async () => {
		const onmade = vi.fn();
		render(NewProject, { onmade });
		const height = screen.getByLabelText('Height');
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

describe('the picture of a box', () => {
	const design = (more: object) =>
		({ numbers: { columns: 3, rows: 2, top: 'open', ...more }, stocks: { walls: '1', base: '1', dividers: '2', lid: '1' } }) as never;
	const faces = (more: object) => {
		const { container, unmount } = render(BoxPicture, {
			size: [200, 100, 60],
			design: design(more),
			colours: { '1': '#e9d2a6', '2': '#8a5638' }
		});
		const found = [...container.querySelectorAll('polygon')].map((p) => p.getAttribute('fill'));
		unmount();
		return found;
	};
	it('shows each divider in its stock, and none below a closed top', () => {
		expect(faces({}).filter((f) => f === '#8a5638')).toHaveLength(3); // two across, one along
		expect(faces({ top: 'fixed' }).filter((f) => f === '#8a5638')).toHaveLength(0);
	});
});
