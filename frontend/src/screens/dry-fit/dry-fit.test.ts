/** Dry fit: findings mend themselves on request, steps take an own order and notes, trials are noted, pieces are told apart. */
import { render, screen, waitFor, within } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { rackOf, row } from '../../../tests/samples';
import { Server } from '../../../tests/server';
import type { BuildOut, CheckOut, Design, GuideStep } from '../../api/types';
import { session } from '../../app/session.svelte';
import Findings from './Findings.svelte';
import Joints from './Joints.svelte';
import Pieces from './Pieces.svelte';
import { firstOfItsOwn, notThere } from './scope';
import Steps from './Steps.svelte';
import Trial from './Trial.svelte';
import WhatIf from './WhatIf.svelte';
import { sentence, span, written } from '../../../tests/written';

const gone = vi.hoisted(() => [] as unknown[]);
vi.mock('../../app/router', () => ({ navigate: (...to: unknown[]) => gone.push(to) }));
const work = vi.hoisted(() => ({
	id: 3,
	version: 0,
	project: null as { design: Design; revision: number; machine: string } | null,
	saved: [] as { label: string; design: Design }[],
	mended: [] as unknown[],
	fail: '',
	touched: vi.fn(async () => {}),
	async save(change: (d: Design) => Design, label: string) {
		work.saved.push({ label, design: change(work.project!.design) });
	},
	saveWhole(change: (d: Design) => Design, label: string) {
		return work.save(change, label);
	},
	async repair(f: { code: string }, r: { says: { spans: { text: string }[] } }) {
		if (work.fail) throw new Error(work.fail);
		work.mended.push([f.code, r.says.spans[0]!.text]);
	}
}));
vi.mock('../../app/project.svelte', () => ({ useProject: () => work }));

const finding = (code: string, severity: string, message: string, repairs: string[] = [], more = {}) => ({
	code,
	severity,
	says: written(message),
	parts: ['front'],
	meeting: null,
	place: null,
	places: [],
	field: null,
	facts: {},
	repairs: repairs.map((label) => ({ says: written(label), kind: 'panel', targets: ['front'], values: {} })),
	...more
});
const result = (...findings: object[]) =>
	({ findings, cautions: [], chances: [], expected_rework: 0, order: { steps: [], locked: [] } }) as unknown as NonNullable<
		CheckOut['result']
	>;
const names = new Map([
	['base', 'Base'],
	['front', 'Front'],
	['lid', 'Lid']
]);
const build = {
	built_from: 'x',
	parts: [
		{ id: 'front', label: 'Front' },
		{ id: 'base', label: 'Base' }
	],
	items: [],
	rooms: [],
	meetings: [{ id: 'base+front', a: 'base', b: 'front', feel: 'snug' }],
	stocks: { '4': { name: 'Birch ply 3, batch 12' } }
} as unknown as BuildOut;

let server: Server;
const answers: Record<string, unknown> = {};
beforeEach(() => {
	[work.saved, work.mended, work.fail, gone.length] = [[], [], '', 0];
	work.project = { design: { numbers: {}, order: [], notes: {}, prototype: null } as unknown as Design, revision: 9, machine: '1' };
	server = new Server((path) => {
		if (path === '/api/rack') return rackOf([row('4'), row('6', 'plastic', { name: 'White vinyl', verdict: 'forbidden' })]);
		return answers[path.split('/').slice(4).join('/')] ?? [];
	});
});

describe('findings', () => {
	it('are in groups, and a repair is one click', async () => {
		const onshow = vi.fn();
		const must = finding('collision', 'must', 'Front and base share 3 mm³.', ['Remove twice']);
		const look = finding('thin_web', 'look', 'Front is only 1 mm wide.');
		render(Findings, { result: result(must, look, finding('x', 'fine', 'All tabs are wide')), steps: 4, onshow });
		expect(screen.getByRole('heading', { name: '1 to fix' })).toBeInTheDocument();
		await userEvent.click(screen.getAllByRole('button', { name: 'Show it' })[1]!);
		expect(onshow).toHaveBeenCalledWith(look);
		await userEvent.click(screen.getByRole('button', { name: 'Remove twice' }));
		expect(work.mended).toEqual([['collision', 'Remove twice']]);
		await userEvent.click(screen.getAllByRole('button', { name: 'Go there' })[1]!);
		expect(gone).toHaveLength(1);
	});
	it('tell lengths in the reader’s unit, and lead where their names lead', async () => {
		const says = sentence(
			span('Back of chest', { ref: { kind: 'part', id: 'back', label: 'Back of chest' } }),
			span(' is '),
			span('508 × 254 mm', { mm: [508, 254] }),
			span(': larger than any sheet of '),
			span('Walnut 3', { ref: { kind: 'stock', id: '5', label: 'Walnut 3' } })
		);
		session.me = { ...session.me!, unit: 'in' };
		render(Findings, { result: result(finding('larger_than_sheet', 'look', 'in mm', [], { says })), steps: 4, onshow: vi.fn() });
		expect(document.querySelector('.text')).toHaveTextContent('Back of chest is 20.000 × 10.000 in: larger than any sheet of Walnut 3');
		gone.length = 0;
		await userEvent.click(screen.getByRole('button', { name: 'Back of chest' }));
		await userEvent.click(screen.getByRole('button', { name: 'Walnut 3' }));
		expect(gone).toMatchObject([
			['/projects/:id/:station', { params: { station: 'build' }, search: { panel: 'back' } }],
			['/projects/:id/:station', { params: { station: 'sheets' }, search: { stock: '5' } }]
		]);
	});
	it('say when a repair was tried and does not help, and wait for a newer dry fit', async () => {
		work.fail = '“Turn it over” was tried and does not cure it here.';
		const one = result(finding('wrong_face', 'look', 'Nobody will see it.', ['Turn it over']));
		const { rerender } = render(Findings, { result: one, steps: 4, onshow: vi.fn() });
		await userEvent.click(screen.getByRole('button', { name: 'Turn it over' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('does not cure it');
		await rerender({ result: one, steps: 4, waiting: true, onshow: vi.fn() });
		expect(screen.getByRole('button', { name: 'Turn it over' })).toBeDisabled();
	});
	it('show cautions without calling them mistakes', () => {
		const some = result(finding('x', 'fine', 'All fine'));
		some.cautions = [finding('caution_sags', 'look', 'Board 1 spans 320 mm.', ['Add a doubler below'])] as never;
		render(Findings, { result: some, steps: 4, onshow: vi.fn() });
		expect(screen.getByRole('heading', { name: 'It fits' })).toBeInTheDocument();
		expect(screen.getByText('Have it looked at')).toBeInTheDocument();
	});
});

describe('steps', () => {
	const steps = ['base', 'front', 'lid'].map((key) => ({
		key,
		label: key[0]!.toUpperCase() + key.slice(1),
		whole: false,
		parts: [key],
		direction: [0, 0, -1],
		hints: [],
		note: '',
		problem: null,
		before: ''
	}));
	const some = () =>
		[
			{ ...steps[0]!, note: 'Show face down' },
			{ ...steps[1]!, hints: [{ kind: 'glue', says: written('Wood glue to Base'), minutes: 30 }], before: 'Lid' },
			{ ...steps[2]!, problem: written('Front is in the way by now.') }
		] as unknown as GuideStep[];
	it('can be put in an own order, which is kept by name', async () => {
		const onpick = vi.fn();
		render(Steps, { steps: some(), names, at: 1, onpick });
		expect(screen.getByText(/about 30 min under clamps/)).toBeInTheDocument();
		expect(screen.getByText('In before Lid.')).toBeInTheDocument();
		expect(screen.getByText('Front is in the way by now.')).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Lid earlier' }));
		expect(work.saved.map((s) => [s.label, s.design.order])).toEqual([['Lid earlier', ['base', 'lid', 'front']]]);
		await userEvent.click(screen.getByRole('button', { name: 'Front', exact: true } as never));
		expect(onpick).toHaveBeenCalledWith(1);
		expect(screen.getByRole('link', { name: 'Assembly guide, PDF' })).toHaveAttribute('href', '/api/projects/3/guide.pdf');
	});
	it('take a note in own words, and let go of it', async () => {
		render(Steps, { steps: some(), names, at: 1, onpick: vi.fn() });
		await userEvent.click(screen.getByRole('button', { name: 'Add a note …' }));
		await userEvent.type(screen.getByLabelText('Note on Front'), 'Clamp with tape{Enter}');
		expect(work.saved.at(-1)!.design.notes).toEqual({ front: 'Clamp with tape' });
		await userEvent.click(screen.getByRole('button', { name: 'Show face down' }));
		await userEvent.clear(screen.getByLabelText('Note on Base'));
		await userEvent.keyboard('{Enter}');
		expect(work.saved.at(-1)!.design.notes).toEqual({});
	});
	it('are ticked for a sub-assembly, which can be taken apart into single steps again', async () => {
		const { rerender } = render(Steps, { steps: some(), names, at: 1, onpick: vi.fn() });
		await userEvent.click(screen.getByRole('button', { name: 'Sub-assembly …' }));
		const make = screen.getByRole('button', { name: 'Put together apart' });
		expect(make).toBeDisabled();
		for (const name of ['Lid', 'Base']) await userEvent.click(screen.getByLabelText(name));
		await userEvent.click(make);
		expect(work.saved.at(-1)!.design).toMatchObject({ apart: [['base', 'lid']], order: ['front', 'base', 'lid'] });
		const made = [
			steps[1]!,
			{ ...steps[0]!, within: 'base+lid', first: true },
			{ ...steps[2]!, within: 'base+lid' },
			{ ...steps[0]!, key: 'base+lid', label: 'Base + Lid', parts: ['base', 'lid'], by_hand: true }
		] as unknown as GuideStep[];
		expect([...notThere(made, 2)]).toEqual(['front']);
		expect([...notThere(made, 3)]).toEqual([]);
		expect([0, 1, 2, 3].map((k) => firstOfItsOwn(made, k))).toEqual([true, true, false, false]);
		work.project!.design = { ...work.project!.design, apart: [['base', 'lid']] };
		await rerender({ steps: made, names, at: 3, onpick: vi.fn() });
		await userEvent.click(screen.getByRole('button', { name: 'One by one again' }));
		expect(work.saved.at(-1)!.design.apart).toEqual([]);
	});
});

describe('the trial', () => {
	it('swaps to scrap that may be cut, and writes down what was felt', async () => {
		answers.trial = [
			{
				id: 1,
				about: 'base+front',
				feel: 'mallet',
				text: 'too tight',
				photo: false,
				revision: 8,
				author: 'alder',
				created: '2026-11-24T10:00:00Z'
			}
		];
		render(Trial, { build });
		expect(await screen.findByText('too tight')).toBeInTheDocument();
		const scrap = await screen.findByLabelText('Cut it from');
		await within(scrap).findByText('Stock 4');
		expect(within(scrap).queryByText('White vinyl')).toBeNull();
		await userEvent.selectOptions(scrap, '4');
		expect(work.saved.at(-1)!.design.prototype).toBe('4');
		const send = screen.getByRole('button', { name: 'Write it down' });
		expect(send).toBeDisabled();
		await userEvent.type(screen.getByLabelText('In words'), 'Notch lower');
		expect(send).toBeEnabled();
	});
});

describe('pieces', () => {
	it('say what serves and what is cut again, and light what changed between two revisions', async () => {
		const r = (part: string, fate: string, good: number) => ({ part, label: part, fate, wanted: 1, good });
		answers.recut = { rows: [r('front', 'recut', 0), r('left', 'good', 1)], left_over: [{ label: 'old front', count: 1 }] };
		answers.revisions = [9, 8].map((number) => ({ number, label: `rev ${number}`, author: 'alder', created: '2026-11-24T10:00:00Z' }));
		const square = { outer: [[0, 0], [9, 0], [9, 9], [0, 9]], holes: [], circles: [] }; // prettier-ignore
		const part = { part: 'front', label: 'Front', change: 'changed', then: square, now: square, edges_then: [], edges_now: [[[0, 0], [9, 0]]], stock_changed: true }; // prettier-ignore
		answers['compare/8'] = { revision: 8, label: 'rev 8', parts: [part] };
		const { container } = render(Pieces);
		expect(await screen.findByRole('heading', { name: 'cut again' })).toBeInTheDocument();
		expect(screen.getByRole('heading', { name: 'no longer needed' })).toBeInTheDocument();
		await within(screen.getByLabelText('Now, against')).findByText('8: rev 8');
		await userEvent.selectOptions(screen.getByLabelText('Now, against'), '8');
		expect(await screen.findByText(/1 of 1 parts are others now/)).toBeInTheDocument();
		expect(container.querySelectorAll('path.edge')).toHaveLength(1);
		answers['lay-out'] = { request: { margin_mm: 5, copies: 1 } };
		await userEvent.click(screen.getByRole('button', { name: 'Pack only what is missing' }));
		await waitFor(() =>
			expect(server.sent.at(-1)).toEqual(['POST', '/api/projects/3/lay-out/pack', { margin_mm: 5, copies: 1, only: { front: 1 } }])
		);
	});
});

describe('what if', () => {
	it('asks for other chances while a slider stands elsewhere, and lets go of them', async () => {
		answers['test-worth'] = [{ stock: '4', kind: 'readings', saves: 1.4 }];
		answers[''] = { advice: [{ what: '2 more readings', why: '', action: 'reading', minutes: 2, size_mm: null }] };
		answers['what-if'] = { chances: [], expected_rework: 4 };
		const onchances = vi.fn();
		render(WhatIf, { build, onchances });
		expect(
			await screen.findByText(/more readings of Birch ply 3, batch 12, about 1.4 joints fewer to rework. It takes about 2 min/)
		).toBeInTheDocument();
		const slider = screen.getByLabelText<HTMLInputElement>('Birch ply 3, batch 12, sheet off by');
		slider.value = '0.2';
		slider.dispatchEvent(new Event('input', { bubbles: true }));
		await waitFor(() => expect(onchances).toHaveBeenLastCalledWith({ chances: [], expected_rework: 4 }));
		expect(server.sent.at(-1)![2]).toEqual({ shifts: { '4': { thickness: 0.2, kerf: 0 } } });
		await userEvent.click(screen.getByRole('button', { name: 'As believed' }));
		expect(onchances).toHaveBeenLastCalledWith(null);
	});
});

it('lists every joint, the riskiest first, and shows where it is', async () => {
	const meetings = ['a', 'b', 'c'].map((id) => ({ id, a: id === 'b' ? 'base' : 'lid', b: 'front', feel: 'snug' }));
	const chances = meetings.map((m, i) => ({ meeting: m.id, rework: [0.02, 0.31, 0][i]!, chances: { clearance: 0.05, sd: 0.03 } }));
	const picked = vi.fn();
	render(Joints, { chances: chances as never, build: { ...build, meetings } as unknown as BuildOut, names, onpick: picked });
	const rows = screen.getAllByRole('row').slice(1);
	expect(rows.map((r) => r.textContent!.replace(/\s+/g, ' ').trim().slice(-4).trim())).toEqual(
		['31 %', '2 %', '–'].map((t) => expect.stringContaining(t))
	);
	await userEvent.click(within(rows[0]!).getByRole('button', { name: 'Base with Front' }));
	expect(picked).toHaveBeenCalledWith(meetings[1]);
});
