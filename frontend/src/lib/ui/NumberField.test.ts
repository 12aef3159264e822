import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import NumberField from './NumberField.svelte';
import { settled } from './pending.svelte';

/** The server's answer to what is typed: numbers are read, letters refused. */
function server(delayMs = 0) {
	vi.stubGlobal('fetch', async (request: Request) => {
		const { text } = (await request.json()) as { text: string };
		await new Promise((done) => setTimeout(done, delayMs));
		const number = Number(text);
		const body = Number.isFinite(number) ? { value: number } : { code: 'x', message: `“${text}” is not a length.`, facts: {} };
		return new Response(JSON.stringify(body), {
			status: Number.isFinite(number) ? 200 : 422,
			headers: { 'Content-Type': 'application/json' }
		});
	});
}

describe('a number field', () => {
	beforeEach(() => server());

	it('keeps what was typed with Enter', async () => {
		const oncommit = vi.fn();
		render(NumberField, { label: 'Width', value: 62, oncommit });
		const box = screen.getByLabelText('Width');
		await userEvent.clear(box);
		await userEvent.type(box, '75{Enter}');
		await waitFor(() => expect(oncommit).toHaveBeenCalledWith(75));
	});
	it('tells what makes no sense beside it, leaves it typed, and puts the old back on Escape', async () => {
		const oncommit = vi.fn();
		render(NumberField, { label: 'Width', value: 62, oncommit });
		const box = screen.getByLabelText<HTMLInputElement>('Width');
		await userEvent.clear(box);
		await userEvent.type(box, 'wide{Enter}');
		expect(await screen.findByRole('alert')).toHaveTextContent('is not a length');
		expect(box).toHaveValue('wide');
		expect(oncommit).not.toHaveBeenCalled();
		await userEvent.type(box, '{Escape}');
		expect(box).toHaveValue('62.0');
	});
	it('takes whole numbers only where things are counted', async () => {
		render(NumberField, { label: 'Tabs', kind: 'count', value: 2, oncommit: vi.fn() });
		const box = screen.getByLabelText('Tabs');
		await userEvent.clear(box);
		await userEvent.type(box, '2.5{Enter}');
		expect(await screen.findByRole('alert')).toHaveTextContent('whole number');
	});
	it('is read before a button beside it acts', async () => {
		server(60);
		const kept: number[] = [];
		const { container } = render(NumberField, {
			label: 'Width',
			value: 62,
			oncommit: (mm: number) => void kept.push(mm)
		});
		const section = document.createElement('section');
		const button = document.createElement('button');
		container.before(section);
		section.append(container, button);
		const pressed = new Promise<boolean>((done) => button.addEventListener('click', (e) => void settled(e).then(done)));
		const box = screen.getByLabelText('Width');
		await userEvent.clear(box);
		await userEvent.type(box, '80');
		await userEvent.click(button);
		expect(await pressed).toBe(true);
		expect(kept).toEqual([80]);
	});
});
