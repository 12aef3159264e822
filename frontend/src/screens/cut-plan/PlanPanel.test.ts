/** Files go out only when the plan is fresh, nothing stops them, and warnings are read. */
import { render, screen, within } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { PlanOut } from '../../api/types';
import { shownRange } from './order';
import PlanPanel from './PlanPanel.svelte';
import { written } from '../../../tests/written';

let status = 200;
let after: unknown;
const sent: { url: string; body: unknown }[] = [];
beforeEach(() => {
	[sent.length, status] = [0, 200];
	vi.stubGlobal('fetch', async (request: Request) => {
		const url = new URL(request.url).pathname;
		if (request.method !== 'GET') sent.push({ url, body: await request.json() });
		const answer = url.includes('/cut-plan/order/') ? RANGES : /\/cut-plan\/(move|accept|choices)$/.test(url) ? after : {};
		return new Response(JSON.stringify(answer), { status, headers: { 'Content-Type': 'application/json' } });
	});
});

const stroke = (operation: string, k: number) => ({
	path: { id: `lid.0/${operation}${k}`, part: 'lid', copy: 0, operation },
	burn_from: 10 * k,
	end: 10 * k + 9
});
const RANGES = [
	[0, 0],
	[1, 2],
	[1, 2],
	[3, 3]
];
const sheet = {
	sheet: '1',
	copy: 0,
	stock: '1',
	name: 'Birch ply 3',
	kerf: 0.158,
	travel: 1700,
	by_operation: { score: 6, inner: 70, outer: 335, travel: 9 },
	strokes: ['score', 'inner', 'inner', 'outer'].map(stroke)
};
const warning = { code: 'kerf_guess', severity: 'look', says: written('The kerf is a default. Cut a test first.') };
const stop = { code: 'cut_twice', severity: 'must', says: written('The same line would be cut twice.') };
const fine = { code: 'outside_bed', severity: 'fine', says: written('Everything lies inside the bed') };

function panel(findings: object[], more: object = {}) {
	const plan = { sheets: [sheet], findings, seconds: 817, band: 87, factor: 1.04, handling: 120, kerf_place: 'paths' };
	const out = {
		laid_out: true,
		layout_fresh: true,
		fresh: true,
		revision: 6,
		plan_print: 'x',
		version: 'one',
		accepted: null,
		plan,
		machine: { id: '3', kerf_place: 'paths' },
		settings: {
			'1': {
				cut: { power: 62, speed: 14, passes: 1 },
				score: { power: 12, speed: 120 },
				engrave: { power: 20, speed: 250 },
				source: 'power card'
			}
		},
		stocks: { '1': { name: 'Birch ply 3' } },
		choices: { second: 'auto', turn: 'sideways', thick: [], printed: [], skip: [], locate: false },
		has_backs: false,
		labels: { lid: 'Lid' },
		factor: 1.04,
		factor_runs: 1,
		job: null,
		...more
	} as unknown as PlanOut;
	after = { ...out, version: 'two', accepted: { by: 'alder', on: '2026-11-25T10:00:00Z' } };
	const onplan = vi.fn(async () => {});
	const onmachine = vi.fn(async () => {});
	const onchange = vi.fn((told: PlanOut) => rerender({ out: told }));
	const props = {
		sheet: (out.plan?.sheets[0] ?? sheet) as never,
		problem: '',
		busy: false,
		projectId: 9,
		number: 0,
		t: 12,
		onplan,
		onmachine,
		onchange
	};
	const { rerender } = render(PlanPanel, { out, ...props });
	return { onplan, onchange };
}
const files = () => screen.queryByRole('link', { name: 'Make the files' });

describe('the plan panel', () => {
	it('gives the files of a sound plan, sheet by sheet too', () => {
		panel([fine]);
		expect(files()).toHaveAttribute('href', '/api/projects/9/files/all.zip');
		expect(screen.getByRole('link', { name: 'SVG' })).toHaveAttribute('href', '/api/projects/9/files/sheet-1.svg');
		expect(screen.getByText('1 check passed')).toBeInTheDocument();
	});
	it('asks to read a warning first', async () => {
		panel([warning, fine]);
		expect(files()).toBeNull();
		await userEvent.click(screen.getByLabelText('I have read these and go on'));
		expect(sent).toEqual([{ url: '/api/projects/9/cut-plan/accept', body: { version: 'one' } }]);
		expect(await screen.findByText(/Read by alder, 25 Nov/)).toBeInTheDocument();
		expect(files()).not.toBeNull();
	});
	it('holds the files back when something must be mended', () => {
		panel([stop, warning]);
		expect(files()).toBeNull();
		expect(screen.queryByLabelText('I have read these and go on')).toBeNull();
		expect(screen.getByRole('button', { name: 'Make the files' })).toBeDisabled();
	});
	it('holds the files of a stale plan back and plans again', async () => {
		const { onplan } = panel([fine], { fresh: false });
		expect(files()).toBeNull();
		await userEvent.click(screen.getByRole('button', { name: 'Plan again' }));
		expect(onplan).toHaveBeenCalled();
	});
	it('sends back to Lay out when the parts have changed', () => {
		panel([fine], { fresh: false, layout_fresh: false });
		expect(screen.getByText(/the parts must be packed again first/)).toBeInTheDocument();
		expect(screen.getByRole('button', { name: 'Plan again' })).toBeDisabled();
	});
	it('counts times and paths by operation', () => {
		panel([fine]);
		const row = (name: RegExp) => within(screen.getByText(name).closest('tr')!);
		expect(row(/^Inner cuts/).getByText('1:10')).toBeInTheDocument();
		expect(row(/^Inner cuts/).getByText(/2 paths · 62 %/)).toBeInTheDocument();
		expect(row(/^Score/).getByText(/1 path · 12 %/)).toBeInTheDocument();
		expect(screen.getByText(/the log says × 1.04 \(1 run\)/)).toBeInTheDocument();
	});
	it('leaves an operation out, and takes it in again', async () => {
		panel([fine], { choices: { skip: ['engrave'] } });
		expect(screen.getByText(/left out of this job/)).toBeInTheDocument();
		await userEvent.click(screen.getByLabelText('Score'));
		await userEvent.click(screen.getByLabelText('Engrave'));
		const asked = sent.filter((s) => s.url.endsWith('/cut-plan/choices')).map((s) => s.body);
		expect(asked).toEqual([{ skip: ['engrave', 'score'] }, { skip: [] }]);
	});
	it('tells how the back is burned and why, and lets a person choose', async () => {
		const lay = {
			kind: 'turned',
			why: written('The whole sheet is turned over: it fits no hole.'),
			mismatch: 0.284,
			turn: 'sideways',
			marks: [],
			turns: []
		};
		const sheets = [
			{ ...sheet, number: 1, run: 'back', side: 'back', lay: { kind: 'fresh' } },
			{ ...sheet, number: 1, run: 'front', side: 'front', lay }
		];
		const plan = { sheets, findings: [fine], seconds: 900, band: 90, factor: 1, handling: 240, kerf_place: 'paths' };
		panel([fine], { plan, has_backs: true });
		expect(screen.getByText(/it fits no hole/)).toBeInTheDocument();
		expect(screen.getByText('0.28')).toBeInTheDocument();
		expect(screen.getByText(/1 sheet, 2 runs/)).toBeInTheDocument();
		expect(screen.getByText(/Sheet 1, back:/)).toBeInTheDocument();
		await userEvent.selectOptions(screen.getByLabelText('The sheet is turned over'), 'upwards');
		await userEvent.selectOptions(screen.getByLabelText('Backs'), 'none');
		await userEvent.click(screen.getByLabelText(/from both sides/));
		const asked = sent.filter((s) => s.url.endsWith('/cut-plan/choices')).map((s) => s.body);
		expect(asked).toEqual([{ turn: 'upwards' }, { second: 'none' }, { thick: ['1'] }]);
	});
	it('leaves kerf to the machine in one place', async () => {
		panel([fine]);
		await userEvent.click(screen.getByLabelText(/by the machine’s own software/));
		expect(sent).toEqual([{ url: '/api/machines/3', body: { kerf_place: 'machine' } }]);
	});
});

describe('the order of cuts', () => {
	const rows = () => screen.getByRole('list', { name: 'Order of cuts' });

	it('names each cut and marks the one that burns now', async () => {
		panel([fine]);
		const names = within(rows()).getAllByRole('button');
		expect(names.map((b) => b.textContent)).toEqual(['Lid, score1', 'Lid, opening 22', 'Lid, opening 33', 'Lid, outline4']);
		expect(names[1]).toHaveAttribute('aria-current', 'true');
	});
	it('moves a cut by the keyboard where the order holds, and nowhere else', async () => {
		const { onchange } = panel([fine]);
		await vi.waitFor(() => expect(rows()).toBeInTheDocument());
		await new Promise((r) => setTimeout(r, 20));
		within(rows()).getAllByRole('button')[1]!.focus();
		await userEvent.keyboard('{Alt>}{ArrowUp}{/Alt}');
		expect(sent).toEqual([]);
		expect(screen.getByRole('alert')).toHaveTextContent('cannot go farther');
		within(rows()).getAllByRole('button')[1]!.focus();
		await userEvent.keyboard('{Alt>}{ArrowDown}{/Alt}');
		expect(sent).toEqual([{ url: '/api/projects/9/cut-plan/move', body: { version: 'one', sheet: 0, path: 'lid.0/inner1', to: 2 } }]);
		expect(onchange).toHaveBeenCalledOnce();
	});
	it('shows the order of somebody who was first', async () => {
		const { onchange } = panel([fine]);
		await new Promise((r) => setTimeout(r, 20));
		status = 409;
		within(rows()).getAllByRole('button')[1]!.focus();
		await userEvent.keyboard('{Alt>}{ArrowDown}{/Alt}');
		expect(await screen.findByText(/Somebody else changed the plan/)).toBeInTheDocument();
		expect(onchange.mock.calls[0]![0].version).toBe('two');
	});
	it('shows only what is around the mark when there are many', () => {
		expect(shownRange(20, 3)).toEqual({ start: 0, end: 20 });
		expect(shownRange(1000, 500)).toEqual({ start: 470, end: 531 });
		expect(shownRange(1000, 999)).toEqual({ start: 939, end: 1000 });
	});
});
