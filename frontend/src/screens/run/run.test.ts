/** Nothing burns before the list is ticked; what happened is written down once. */
import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { RunOut, RunsOut, SheetPlan } from '../../api/types';
import Interrupted from './Interrupted.svelte';
import LogForm from './LogForm.svelte';
import RunLive from './RunLive.svelte';
import RunLog from './RunLog.svelte';
import StartRun from './StartRun.svelte';
import StillMissing from './StillMissing.svelte';
import { written } from '../../../tests/written';

const gone = vi.hoisted(() => [] as unknown[]);
vi.mock('../../app/router', () => ({ navigate: (...to: unknown[]) => gone.push(to) }));
vi.mock('../../app/project.svelte', () => ({ useProject: () => ({ id: 3, version: 0, touched: async () => {} }) }));

let sent: { url: string; body: unknown }[] = [];
let answers: Record<string, [number, unknown]> = {};

beforeEach(() => {
	sent = [];
	answers = {};
	vi.stubGlobal('fetch', async (request: Request) => {
		const text = request.method === 'GET' ? '' : await request.text();
		const body = text ? JSON.parse(text) : null;
		const path = new URL(request.url).pathname;
		sent.push({ url: path, body });
		if (path === '/api/numbers') return reply(200, { value: Number((body as { text: string }).text) });
		const [status, answer] = answers[path] ?? [200, {}];
		return reply(status, answer);
	});
});
const reply = (status: number, body: unknown) =>
	new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });

const sheet = {
	name: 'Walnut 3, 450 × 300',
	seconds: 157,
	number: 1,
	strokes: [{ path: { operation: 'outer', through: true } }]
} as unknown as SheetPlan;
const run = (more: object = {}) =>
	({
		id: 7,
		sheet: 2,
		sheet_name: 'Walnut 3',
		revision: 6,
		plan_print: 'x',
		state: 'done',
		says: null,
		progress: { clock: 163, seconds: 163 },
		at_part: '',
		expected_s: 150,
		parts: ['a.0', 'b.0', 'c.0'],
		by: 'alder',
		created: '2026-11-24T10:00:00Z',
		logged: null,
		log: null,
		last: true,
		going_on: [],
		remains: [],
		...more
	}) as RunOut;

describe('before a run', () => {
	const checklist = ['The right sheet lies on the bed', 'Extraction is on', 'An extinguisher is at hand'];
	const start = (more: object = {}) =>
		render(StartRun, {
			number: 2,
			of: 2,
			sheet,
			checklist: checklist.map(written),
			fresh: true,
			done: false,
			projectId: 1,
			onstarted: vi.fn(async () => {}),
			...more
		});
	const button = () => screen.getByRole('button', { name: 'Start the simulated laser' });

	it('the beam waits for every tick', async () => {
		start();
		for (const line of checklist) {
			expect(button()).toBeDisabled();
			await userEvent.click(screen.getByLabelText(line));
		}
		expect(button()).toBeEnabled();
		await userEvent.click(button());
		expect(sent).toEqual([{ url: '/api/projects/1/runs', body: { sheet: 2, ticked: checklist, fault: '', found: [] } }]);
	});
	it('a sheet that was turned over waits until its marks tell that it lies right', async () => {
		const lay = {
			kind: 'turned',
			words: written('Turn the sheet over.'),
			marks: [
				[10, 10],
				[290, 14],
				[30, 180]
			]
		};
		start({ sheet: { ...sheet, run: 'front', lay } });
		for (const line of checklist) await userEvent.click(screen.getByLabelText(line));
		expect(button()).toBeDisabled();
		const found = [
			[10, 11],
			[290, 15],
			[30, 181]
		];
		const read = {
			move: { cos: 1, sin: 0, x: 0, y: 1, mirrored: false },
			off: 0.04,
			scale: 1,
			problem: written('The sheet was not turned over.')
		};
		answers['/api/projects/1/runs/registration'] = [200, { found, read }];
		await userEvent.click(screen.getByRole('button', { name: /with the camera/ }));
		expect(await screen.findByText('The sheet was not turned over.')).toBeInTheDocument();
		expect(button()).toBeDisabled();
		answers['/api/projects/1/runs/registration'] = [200, { found, read: { ...read, problem: null } }];
		await userEvent.click(screen.getByText('type what the pointer shows'));
		const x = screen.getByLabelText('Mark 1, x');
		await userEvent.clear(x);
		await userEvent.type(x, '12{enter}');
		await userEvent.click(screen.getByRole('button', { name: 'These are the marks' }));
		expect(await screen.findByText(/lies 1.00 mm off and 0.00° askew/)).toBeInTheDocument();
		expect(sent.at(-1)!.body).toEqual({
			sheet: 2,
			found: [
				[12, 10],
				[290, 14],
				[30, 180]
			],
			practise: ''
		});
		await userEvent.click(button());
		expect((sent.at(-1)!.body as { found: number[][] }).found).toEqual(found);
	});
	it('a plan that something changed under never starts', async () => {
		start({ fresh: false });
		for (const line of checklist) await userEvent.click(screen.getByLabelText(line));
		expect(button()).toBeDisabled();
		expect(screen.getByText(/Plan again on Cut plan/)).toBeInTheDocument();
	});
	it('a refusal is told and nothing is lost', async () => {
		answers['/api/projects/1/runs'] = [422, { code: 'x', message: 'The machine is busy with another sheet.', facts: {} }];
		start();
		for (const line of checklist) await userEvent.click(screen.getByLabelText(line));
		await userEvent.click(button());
		expect(await screen.findByRole('alert')).toHaveTextContent('busy with another sheet');
		for (const line of checklist) expect(screen.getByLabelText(line)).toBeChecked();
	});
	it('a fault can be practised', async () => {
		start();
		for (const line of checklist) await userEvent.click(screen.getByLabelText(line));
		await userEvent.click(screen.getByLabelText('lid opened'));
		await userEvent.click(button());
		expect(sent[0]!.body).toMatchObject({ fault: 'lid' });
	});
});

describe('during a run', () => {
	it.each([
		['running', ['Pause', 'Stop for good']],
		['paused', ['Resume the beam', 'Stop for good']],
		['fault', ['Resume the beam', 'Stop for good']],
		['waiting', ['Stop for good']]
	])('a %s machine offers what makes sense', (state, names) => {
		render(RunLive, {
			run: run({ state, progress: { clock: 40, seconds: 163, path: 'a.0/outer0' }, at_part: 'a' }),
			labels: { a: 'Row divider 1' },
			onchange: vi.fn()
		});
		expect(screen.getAllByRole('button').map((b) => b.textContent)).toEqual(names);
		expect(screen.getByText('2:03')).toBeInTheDocument();
		expect(screen.getByText(/Row divider 1/)).toBeInTheDocument();
		expect(screen.getByText('Never leave a running machine.')).toBeInTheDocument();
	});
	it('a fault says what to do', () => {
		render(RunLive, {
			run: run({ state: 'fault', says: written('The lid was opened. Close it, look, then resume.') }),
			labels: {},
			onchange: vi.fn()
		});
		expect(screen.getByRole('alert')).toHaveTextContent('Close it, look, then resume');
	});
});

describe('after a run', () => {
	it('most is filled in from what the machine said', async () => {
		const onlogged = vi.fn(async () => {});
		render(LogForm, { run: run(), onlogged });
		expect(screen.getByLabelText('It took')).toHaveValue('2.72');
		expect(screen.getByLabelText('Good pieces of 3')).toHaveValue('3');
		await userEvent.click(screen.getByText('snug'));
		await userEvent.click(screen.getByRole('button', { name: 'Write it in the log' }));
		await waitFor(() => expect(onlogged).toHaveBeenCalled());
		expect(sent.at(-1)).toMatchObject({ url: '/api/runs/7/log', body: { good: 3, spoiled: 0, cut_through: 100, feel: 'snug' } });
	});
	it('a stopped run claims no good pieces', () => {
		render(LogForm, { run: run({ state: 'stopped' }), onlogged: vi.fn() });
		expect(screen.getByLabelText('Good pieces of 3')).toHaveValue('0');
		expect(screen.getByText('Stopped. What happened?')).toBeInTheDocument();
	});
	it('a number that was typed last is in what is written', async () => {
		render(LogForm, { run: run(), onlogged: vi.fn(async () => {}) }, { baseElement: document.body });
		const box = screen.getByLabelText('Spoiled');
		await userEvent.clear(box);
		await userEvent.type(box, '1');
		await userEvent.click(screen.getByRole('button', { name: 'Write it in the log' }));
		await waitFor(() => expect(sent.at(-1)).toMatchObject({ body: { spoiled: 1 } }));
	});
	it('the log tells what was learned', () => {
		const log = { actual_s: 437, good: 7, spoiled: 1, cut_through: 100, feel: 'snug' as const, note: 'Clean edges.' };
		const runs = {
			runs: [run({ log, logged: '2026-11-24T11:00:00Z' }), run({ id: 8 })],
			checklists: {},
			factor: 1.04,
			factor_runs: 1
		} as RunsOut;
		render(RunLog, { runs });
		expect(screen.getByText('7:17')).toBeInTheDocument();
		expect(screen.getByText(/7 good, 1 spoiled · snug/)).toBeInTheDocument();
		expect(screen.getByText('1.04')).toBeInTheDocument();
	});
	it('lets the fits learn from a feel when a person asks for it, once', async () => {
		const log = { actual_s: 437, good: 7, spoiled: 0, cut_through: 100, feel: 'snug' as const, note: '', learned: false };
		const runs = (learned: boolean) =>
			({ runs: [run({ log: { ...log, learned } })], checklists: {}, factor: 1, factor_runs: 1 }) as unknown as RunsOut;
		const onlearned = vi.fn();
		const { rerender } = render(RunLog, { runs: runs(false), onlearned });
		await userEvent.click(screen.getByRole('button', { name: 'Let the fits learn that it was snug' }));
		await waitFor(() => expect(onlearned).toHaveBeenCalled());
		expect(sent.at(-1)).toMatchObject({ url: '/api/runs/7/learn' });
		await rerender({ runs: runs(true), onlearned });
		expect(screen.getByText('the fits have learned from it')).toBeInTheDocument();
	});
	it('an empty log says what the first run brings', () => {
		render(RunLog, { runs: { runs: [], checklists: {}, factor: 1, factor_runs: 0 } as unknown as RunsOut });
		expect(screen.getByText(/teaches the machine’s true times/)).toBeInTheDocument();
	});
});

describe('a run whose line was lost', () => {
	const lost = (path = 'front.0/outer0') =>
		run({
			state: 'interrupted',
			says: written('The line broke.'),
			going_on: ['It lies flat', 'I have looked'].map(written),
			progress: { path } as never,
			at_part: path.split('.')[0]
		});

	it('says so when all of it would be burned again', () => {
		render(Interrupted, { run: lost(''), labels: {}, onchange: vi.fn() });
		expect(screen.getByRole('button', { name: 'Burn all of it again' })).toBeDisabled();
	});

	it('goes on only when a person has looked and ticked all of it anew', async () => {
		answers['/api/runs/7/go-on'] = [201, run({ id: 8, state: 'waiting' })];
		const onchange = vi.fn().mockResolvedValue(undefined);
		render(Interrupted, { run: lost(), labels: {}, onchange });
		const go = screen.getByRole('button', { name: 'Go on from where it stood' });
		expect(go).toBeDisabled();
		await userEvent.click(screen.getByLabelText('It lies flat'));
		expect(go).toBeDisabled();
		await userEvent.click(screen.getByLabelText('I have looked'));
		await userEvent.click(go);
		await waitFor(() => expect(onchange).toHaveBeenCalled());
		expect(sent.at(-1)).toEqual({ url: '/api/runs/7/go-on', body: { ticked: ['It lies flat', 'I have looked'] } });
	});
	it('is given up by a button', async () => {
		render(Interrupted, { run: lost(), labels: {}, onchange: vi.fn().mockResolvedValue(undefined) });
		await userEvent.click(screen.getByRole('button', { name: 'Give it up, and log it' }));
		expect(sent.at(-1)).toEqual({ url: '/api/runs/7/command', body: { command: 'stop' } });
	});
	it('can be logged as a sheet that is spoiled altogether', async () => {
		render(LogForm, { run: run({ last: false, parts: [] }), onlogged: vi.fn().mockResolvedValue(undefined) });
		await userEvent.click(screen.getByLabelText('The whole sheet is spoiled'));
		await userEvent.click(screen.getByRole('button', { name: 'Write it in the log' }));
		await waitFor(() => expect(sent.at(-1)).toMatchObject({ url: '/api/runs/7/log', body: { sheet_spoiled: true, keep: [] } }));
	});
});

describe('once all sheets are cut', () => {
	const row = (part: string, wanted: number, good: number) => ({ part, label: part, fate: 'good', wanted, good });

	it('tells what was spoiled, and packs just that', async () => {
		answers['/api/projects/3/recut'] = [200, { rows: [row('floor', 2, 0), row('wall', 2, 1), row('lid', 1, 1)], left_over: [] }];
		answers['/api/projects/3/lay-out'] = [200, { request: { copies: 2 } }];
		render(StillMissing);
		expect(await screen.findByText('3 pieces are still missing')).toBeInTheDocument();
		expect(screen.getByText('2 × floor, 1 × wall')).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Pack only what is missing' }));
		await waitFor(() => expect(gone).toHaveLength(1));
		expect(sent.at(-1)).toEqual({ url: '/api/projects/3/lay-out/pack', body: { copies: 2, only: { floor: 2, wall: 1 } } });
	});

	it('says that nothing is missing', async () => {
		answers['/api/projects/3/recut'] = [200, { rows: [row('lid', 1, 1)], left_over: [] }];
		render(StillMissing);
		expect(await screen.findByText('Every piece that is wanted was cut.')).toBeInTheDocument();
	});
});
