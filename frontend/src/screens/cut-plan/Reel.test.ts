/** The reel: strokes true to time, jumped through by the keyboard, played and held. */
import { render, screen } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { SheetPlan, Stroke } from '../../api/types';
import { freedAt } from './order';
import Reel from './Reel.svelte';

const stroke = (id: string, part: string, operation: string, from: number, end: number) => ({
	path: { id, part, copy: 0, operation, contour: { segments: [], closed: true }, beam: null },
	travel_from: from - 1,
	burn_from: from,
	end,
	passes: 1,
	speed: 14,
	power: 60
});
const sheet = (
	strokes = [stroke('a/score0', 'a', 'score', 1, 5), stroke('a/inner0', 'a', 'inner', 6, 20), stroke('a/outer0', 'a', 'outer', 21, 60)]
) => ({ seconds: 60, strokes }) as unknown as SheetPlan;
const moment = () => screen.getByTestId('moment').textContent;

beforeEach(() => vi.unstubAllGlobals());

describe('the reel', () => {
	it('draws a strip for each stroke and marks what is done', async () => {
		const { container } = render(Reel, { sheet: sheet(), labels: { a: 'Front' }, t: 20 });
		const strips = [...container.querySelectorAll('rect')];
		expect(strips.map((r) => r.getAttribute('class')?.split(' ')[0])).toEqual(['score', 'inner', 'outer']);
		expect(strips.map((r) => r.classList.contains('done'))).toEqual([true, true, false]);
		expect(screen.getByText('Front comes free')).toBeInTheDocument();
		expect(screen.queryByText(/engrave/)).toBeNull();
	});
	it('names engraving only where there is some', () => {
		render(Reel, { sheet: sheet([stroke('a/engrave0', 'a', 'engrave', 1, 30)]), labels: {}, t: 0 });
		expect(screen.getByText(/engrave/)).toBeInTheDocument();
	});
	it('goes from stroke to stroke with the arrows, and stays inside the job', async () => {
		render(Reel, { sheet: sheet(), labels: {}, t: 0 });
		const seen = [];
		for (const key of ['ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowLeft', 'ArrowLeft', 'ArrowLeft', 'ArrowLeft']) {
			await userEvent.keyboard(`{${key}}`);
			seen.push(moment()?.split(' ')[0]);
		}
		expect(seen).toEqual(['0:05', '0:20', '1:00', '1:00', '0:20', '0:05', '0:00', '0:00']);
	});
	it('leaves the arrows alone while somebody types', async () => {
		render(Reel, { sheet: sheet(), labels: {}, t: 0 });
		const field = document.body.appendChild(document.createElement('input'));
		field.focus();
		await userEvent.keyboard('{ArrowRight} ');
		expect(moment()).toContain('0:00 of 1:00');
		field.remove();
	});
	it('plays to the end, holds on a press, and begins again from the start', async () => {
		let frames: FrameRequestCallback[] = [];
		vi.stubGlobal('requestAnimationFrame', (f: FrameRequestCallback) => frames.push(f));
		vi.stubGlobal('cancelAnimationFrame', () => (frames = []));
		const tick = async (ms: number) => {
			const now = performance.now() + ms;
			const waiting = frames;
			frames = [];
			waiting.forEach((f) => f(now));
			await Promise.resolve();
		};
		render(Reel, { sheet: sheet(), labels: {}, t: 0 });
		await userEvent.click(screen.getByRole('button', { name: 'Play' }));
		await tick(12_000);
		await vi.waitFor(() => expect(moment()).toMatch(/^0:(29|30|31)/));
		await userEvent.click(screen.getByRole('button', { name: 'Hold' }));
		expect(screen.getByRole('button', { name: 'Play' })).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Play' }));
		await tick(60_000);
		await vi.waitFor(() => expect(moment()).toContain('1:00 of 1:00'));
		await userEvent.click(screen.getByRole('button', { name: 'Play' }));
		await vi.waitFor(() => expect(moment()).toContain('0:00 of 1:00'));
	});
	it('says the moment to those who cannot see it, and takes it from the slider', async () => {
		render(Reel, { sheet: sheet(), labels: {}, t: 20 });
		const slider = screen.getByLabelText('Moment of the cut');
		expect(slider).toHaveAttribute('aria-valuetext', '0:20');
		slider.focus();
		(slider as HTMLInputElement).value = '42';
		slider.dispatchEvent(new Event('input', { bubbles: true }));
		await vi.waitFor(() => expect(moment()).toContain('0:42'));
	});
});

describe('a part that shares a line', () => {
	const line = (id: string, x: number, end: number, left_out: number[][][] = []) =>
		({
			end,
			path: { id, operation: 'outer', left_out, contour: { segments: [{ start: [x, 0], end: [x, 40], centre: null }] } }
		}) as unknown as Stroke;
	it('is free when the neighbour that burns the line is cut too', () => {
		const first = line('a', 10, 20, [
			[
				[50, 5],
				[50, 35]
			]
		]);
		const strokes = [first, line('b', 50, 90), line('c', 70, 120)];
		expect(freedAt(first, strokes)).toBe(90);
		expect(freedAt(strokes[1]!, strokes)).toBe(90);
	});
	it('is free with its own outline when the neighbour was cut before', () => {
		const last = line('a', 10, 200, [
			[
				[50, 5],
				[50, 35]
			]
		]);
		expect(freedAt(last, [line('b', 50, 90), last])).toBe(200);
	});
});
