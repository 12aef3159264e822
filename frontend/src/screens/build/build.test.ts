/** Build: numbers and choices become revisions; lists, flat panel and inspector show the same joint. */
import { render, screen, waitFor, within } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { boxNumbers as numbers, families, featureTypes, picture, quantity, rackOf, row, wood } from '../../../tests/samples';
import { Server } from '../../../tests/server';
import type { BuildOut, Design, MeetingOut } from '../../api/types';
import { BuildState } from './build.svelte';
import FamilyForm from './FamilyForm.svelte';
import FlatPanel from './FlatPanel.svelte';
import MeetingInspector from './MeetingInspector.svelte';
import PanelInspector from './PanelInspector.svelte';
import PartLists from './PartLists.svelte';
import PinnedSizes from './PinnedSizes.svelte';
import TestCardNote from './TestCardNote.svelte';
import { written } from '../../../tests/written';

const work = vi.hoisted(() => ({
	id: 3,
	project: null as { design: Design; machine: string } | null,
	item: '',
	get design() {
		return work.project!.design;
	},
	saveWhole(change: (d: Design) => Design, label: string) {
		return work.save(change, label);
	},
	saved: [] as { label: string; design: Design }[],
	fail: '',
	touched: vi.fn(async () => {}),
	async save(change: (d: Design) => Design, label: string) {
		if (work.fail) throw new Error(work.fail);
		work.project = { ...work.project!, design: change(work.project!.design) };
		work.saved.push({ label, design: work.project.design });
	},
	setNumbers(changes: object, label: string) {
		return work.save((d) => ({ ...d, numbers: { ...d.numbers, ...changes } }) as Design, label);
	},
	editPanels(panels: string[], change: (before: object) => object, label: string) {
		const edits = (d: Design) => Object.fromEntries(panels.map((p) => [p, change({ move: [0, 0, 0], ...d.edits?.[p] })]));
		return work.save((d) => ({ ...d, edits: { ...d.edits, ...edits(d) } }) as Design, label);
	},
	forgetChoices(ids: string[], label: string) {
		return work.save((d) => ({ ...d, choices: Object.fromEntries(Object.entries(d.choices!).filter(([k]) => !ids.includes(k))) }), label);
	},
	pins: [] as [object, string][],
	async togglePin(pin: object, label: string) {
		work.pins.push([pin, label]);
	},
	scaled: [] as number[],
	async scale(factor: number) {
		work.scaled.push(factor);
	},
	setChoice(id: string, changes: object, label: string, others: string[] = []) {
		const all = Object.fromEntries([id, ...others].map((m) => [m, changes]));
		return work.save((d) => ({ ...d, choices: { ...d.choices, ...all } }) as Design, label);
	}
}));
vi.mock('../../app/project.svelte', () => ({ useProject: () => work, NOTHING_CHOSEN: { feel: null } }));

const ring = (w: number, h: number) => [
	[0, 0],
	[w, 0],
	[w, h],
	[0, h]
];
const feature = (id: string, part: string, meeting: string, kind: string, x: number) => ({
	id,
	meeting,
	kind,
	part,
	corners: ring(3, 12).map(([a, b]) => [a! + x, b! + 10]),
	width_mm: 3.13
});
const part = (id: string, label: string, stock: string, features: object[] = []) => ({
	id,
	panel: id,
	label,
	stock,
	pose: { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] },
	low: 0,
	high: 3.08,
	profile: { outer: ring(200, 60), holes: [], circles: [] },
	marks: [{ line: ring(20, 20), closed: true, operation: 'score', beam: null }],
	features,
	copies: 1,
	spares: 0,
	helper: false
});
const meeting = (id: string, a: string, b: string, kind: string, style: string, more: object = {}) => ({
	id,
	kind,
	a,
	b,
	style,
	name: style,
	feel: 'snug',
	clearance: 0.015,
	sd: 0.045,
	pair: '4+5',
	count: 2,
	...more
});
const chances = (id: string) => ({
	meeting: id,
	chances: { clearance: 0.015, sd: 0.045, rattles: 0, slides: 0.14, snug: 0.72, mallet: 0.14, wont_go: 0 },
	rework: 0
});
const out = () =>
	({
		built_from: 'x',
		item: '',
		numbers: work.project!.design.numbers,
		items: [],
		rooms: [],
		parts: [
			part('front', 'Front', '4', [feature('t1', 'front', 'm1', 'slot', 40), feature('n1', 'front', 'm2', 'notch', 120)]),
			part('column1', 'Column divider 1', '5', [feature('tab1', 'column1', 'm1', 'tab', 10)]),
			part('left', 'Left side', '4')
		],
		meetings: [
			meeting('m1', 'column1', 'front', 'tee', 'tabs', { name: '2 tabs' }),
			meeting('m2', 'front', 'left', 'corner', 'fingers'),
			meeting('m3', 'left', 'column1', 'tee', 'butt', { feel: null, clearance: null })
		],
		boundaries: { '4+5': wood },
		findings: [],
		stocks: {
			'4': { name: 'Birch ply 3, batch 12', material: 'plywood', colour: '#e9d2a6' },
			'5': { name: 'Walnut 3', material: 'solid_wood', colour: '#8a5638' }
		},
		facts: [{ label: 'Clear inside', mm: [207.8, 143.8, 55.8] }],
		size_mm: 270,
		pins: [{ pin: { part: 'front', what: 't1' }, part_label: 'Front', label: 'slot', finished: 3.13, drawn: 2.97 }],
		orphans: []
	}) as unknown as BuildOut;
const detail = (id = 'm1') => {
	const m = out().meetings.find((x) => x.id === id)!;
	const all = out().parts.flatMap((p) => p.features.filter((f) => f.meeting === id).map((f) => ({ f, p })));
	const features = all.map(({ f, p }) => ({
		feature: { ...f, part: p.id, width: quantity(3.13, 0.02), length: 12 },
		part_label: p.label,
		drawn: quantity(2.97, 0.02)
	}));
	const whole = {
		...m,
		angle_deg: 90,
		length: 60,
		clearance: m.clearance === null ? null : quantity(0.015, 0, 'default'),
		kerf_stock: '4'
	};
	const ways = [
		{ style: m.style, label: m.style, counted: m.style === 'tabs' ? 'Tabs' : '', wide: 'Tab, width', proud: false },
		{ style: 'butt', label: 'butt', counted: '', wide: '', proud: false }
	].slice(m.style === 'butt' ? 1 : 0);
	return {
		meeting: { ...whole, asked: m.style },
		name: m.name,
		ways,
		chances: chances(id),
		boundaries: wood,
		features
	} as unknown as MeetingOut;
};

let server: Server;
beforeEach(() => {
	work.saved = [];
	work.pins = [];
	work.fail = '';
	work.touched.mockClear();
	const design = { numbers, stocks: { walls: '4', base: '4', dividers: '5', lid: '4' }, feel: 'snug', choices: {} } as unknown as Design;
	work.project = { design, machine: '1' };
	server = new Server((path) => {
		if (path === '/api/rack') return rackOf([row('4'), row('5'), row('6', 'plastic', { name: 'White vinyl', verdict: 'forbidden' })]);
		if (path === '/api/families') return families;
		if (path.endsWith('/size')) return { part_label: 'Front', finished: quantity(200, 0), drawn: quantity(200.16, 0.01) };
		if (path.endsWith('/picture')) return picture;
		if (path === '/api/feature-types') return featureTypes;
		const id = /meetings\/(m\d)/.exec(path)?.[1];
		return id ? detail(id) : out();
	});
});
async function built() {
	const build = new BuildState(3);
	await build.load();
	return build;
}
async function put(label: string, text: string) {
	const box = screen.getByLabelText(label);
	await userEvent.clear(box);
	await userEvent.type(box, `${text}{Enter}`);
}

describe('the state', () => {
	it('picks a joint with its slot and the part that it lies in', async () => {
		const build = await built();
		await build.pickMeeting('m1');
		expect([build.panel, build.feature]).toEqual(['front', 't1']);
		expect([...build.lit].sort()).toEqual(['column1', 'front']);
		expect(build.outlines.get('front')).toHaveLength(1);
		build.pickPanel('left');
		expect([build.meeting, build.detail]).toEqual(['', null]);
	});
	it('finds the joint at a point of a panel, within reach', async () => {
		const build = await built();
		expect(build.featureAt('front', [41, 15], 1)?.id).toBe('t1');
		expect(build.featureAt('front', [44, 15], 1.2)?.id).toBe('t1');
		expect(build.featureAt('front', [80, 15], 1)).toBeNull();
		expect(build.featureAt('nobody', [41, 15], 1)).toBeNull();
	});
	it('shows the item that was opened last, also when the one before answers later', async () => {
		const answers: Record<string, (r: Response) => void> = {};
		vi.stubGlobal('fetch', (r: Request) => new Promise<Response>((done) => (answers[new URL(r.url).searchParams.get('item')!] = done)));
		const of = (item: string) => new Response(JSON.stringify({ ...out(), item }), { headers: { 'Content-Type': 'application/json' } });
		const build = new BuildState(3);
		build.item = 'drawer-1';
		const first = build.load();
		build.item = 'drawer-2';
		const second = build.load();
		await vi.waitFor(() => expect(Object.keys(answers)).toHaveLength(2));
		answers['drawer-2']!(of('drawer-2'));
		await second;
		answers['drawer-1']!(of('drawer-1'));
		await first;
		expect(build.out?.item).toBe('drawer-2');
	});
	it('keeps what a change left, also when what was asked for before it is answered later', async () => {
		let answer: (r: Response) => void = () => {};
		vi.stubGlobal('fetch', () => new Promise<Response>((done) => (answer = done)));
		const [before, after] = [out(), { ...out(), item: '' }];
		const build = new BuildState(3);
		const first = build.load();
		await build.load(after as unknown as BuildOut);
		answer(new Response(JSON.stringify({ ...before, item: '' }), { headers: { 'Content-Type': 'application/json' } }));
		await first;
		expect(build.out).toBe(after);
	});
	it('shows the joint that was picked last, also when the one before answers later', async () => {
		const answers: Record<string, (r: Response) => void> = {};
		const build = await built();
		vi.stubGlobal('fetch', (r: Request) => new Promise<Response>((done) => (answers[new URL(r.url).pathname.slice(-2)] = done)));
		const of = (id: string) => new Response(JSON.stringify(detail(id)), { headers: { 'Content-Type': 'application/json' } });
		const [first, second] = [build.pickMeeting('m1'), build.pickMeeting('m2')];
		await vi.waitFor(() => expect(Object.keys(answers)).toHaveLength(2));
		answers['m2']!(of('m2'));
		await second;
		answers['m1']!(of('m1'));
		await first;
		expect(build.meeting).toBe('m2');
	});
	it('lets go of what the new assembly no longer has, and says when it cannot be read', async () => {
		const build = await built();
		await build.pickMeeting('m1');
		vi.stubGlobal(
			'fetch',
			async () => new Response(JSON.stringify({ ...out(), meetings: [], parts: [] }), { headers: { 'Content-Type': 'application/json' } })
		);
		await build.load();
		expect([build.meeting, build.panel]).toEqual(['', '']);
		vi.stubGlobal(
			'fetch',
			async () =>
				new Response(JSON.stringify({ message: 'A stock is no longer on the rack.' }), {
					status: 422,
					headers: { 'Content-Type': 'application/json' }
				})
		);
		await build.load();
		expect(build.problem).toContain('no longer on the rack');
	});
});

describe('lists and flat panel', () => {
	it('go by arrows and pick what is pressed', async () => {
		const build = await built();
		render(PartLists, { build });
		const rows = screen.getAllByRole('button');
		expect(rows).toHaveLength(2 + 3 + 3);
		rows[0]!.focus();
		await userEvent.keyboard('{ArrowDown}{ArrowDown}{ArrowDown}{Enter}');
		expect(build.panel).toBe('column1');
		await userEvent.click(rows[5]!);
		await waitFor(() => expect(build.meeting).toBe('m1'));
		await userEvent.keyboard('{Escape}');
		expect([build.panel, build.meeting]).toEqual(['', '']);
	});
	it('draw each joint to ask why', async () => {
		const build = await built();
		build.pickPanel('front');
		render(FlatPanel, { build });
		await userEvent.click(screen.getByLabelText('slot 1'));
		await waitFor(() => expect(build.meeting).toBe('m1'));
		expect(screen.getByText('3.13')).toBeInTheDocument(); // kept in view
		await userEvent.click(screen.getByText('200.00'));
		await waitFor(() => expect(build.why?.title).toBe('panel’s width'));
	});
	it('keeps sizes in view, goes to them and lets go of them', async () => {
		const build = await built();
		render(PinnedSizes, { build });
		await userEvent.click(screen.getByRole('button', { name: 'Front, slot 3.13' }));
		await waitFor(() => expect([build.meeting, build.feature]).toEqual(['m1', 't1']));
		await userEvent.click(screen.getByRole('button', { name: 'Let go of Front, slot' }));
		expect(work.pins).toEqual([[{ part: 'front', what: 't1' }, 'Front, slot']]);
	});
	it('says where the size of a panel comes from, and keeps it in view', async () => {
		const build = await built();
		render(PanelInspector, { build, part: build.out!.parts.find((p) => p.id === 'front')! });
		await userEvent.click(screen.getByTitle('Why this width?'));
		expect(await screen.findByText(/Why this panel’s width is 200.16 in the file/)).toBeInTheDocument();
		expect(screen.getByText('Finished size')).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Keep in view' }));
		expect(work.pins).toEqual([[{ part: 'front', what: 'x' }, 'Front, panel’s width']]);
	});
	it('say of a panel its size, its gaps and whom it meets', async () => {
		const build = await built();
		render(PanelInspector, { build, part: build.out!.parts.find((p) => p.id === 'front')! });
		expect(screen.getByText(/Birch ply 3, batch 12,/)).toBeInTheDocument();
		expect(screen.getByTitle('Why this height?')).toHaveTextContent('60.00');
		await userEvent.click(screen.getByRole('button', { name: /Left side/ }));
		await waitFor(() => expect(build.meeting).toBe('m2'));
	});
});

describe('the box', () => {
	it('saves a number under its name, and a choice', async () => {
		render(FamilyForm, { build: await built() });
		await screen.findByLabelText('Width');
		expect(screen.getByText('207.8 × 143.8 × 55.8')).toBeInTheDocument();
		await put('Width', '220');
		await userEvent.click(screen.getByRole('radio', { name: 'fixed' }));
		await waitFor(() => expect(work.saved.map((s) => s.label)).toEqual(['Width 220.0', 'Top: fixed']));
		expect(work.saved.at(-1)!.design.numbers).toMatchObject({ width: 220, top: 'fixed', columns: 3 });
	});
	it('changes the stock of one group or of all, and says which must not be cut', async () => {
		render(FamilyForm, { build: await built() });
		const all = await screen.findByLabelText('All panels');
		await within(all).findByText(/White vinyl.*must not be cut/);
		expect(all).toHaveValue('');
		await userEvent.selectOptions(screen.getByLabelText('Lid'), '5');
		await userEvent.selectOptions(all, '4');
		await waitFor(() => expect(work.saved.map((s) => s.label)).toEqual(['Lid in Stock 5', 'Everything in Stock 4']));
		expect(work.saved.map((s) => s.design.stocks.dividers)).toEqual(['5', '4']);
	});
	it('shows a finding beside its number, and others below', async () => {
		const build = await built();
		const finding = (message: string, field: string | null) => ({
			code: 'x',
			severity: 'must',
			says: written(message),
			field,
			parts: [],
			meeting: null,
			place: null,
			places: [],
			facts: {},
			repairs: [],
			item: ''
		});
		build.out = {
			...out(),
			findings: [finding('Columns are too narrow.', 'columns'), finding('White vinyl must not be cut.', null)]
		} as BuildOut;
		render(FamilyForm, { build });
		expect(await screen.findByLabelText('Columns, side by side')).toBeInvalid();
		expect(screen.getByText('White vinyl must not be cut.')).toBeInTheDocument();
	});
	it('keeps what was typed when saving fails', async () => {
		render(FamilyForm, { build: await built() });
		await screen.findByLabelText('Height');
		work.fail = 'The server does not answer.';
		await put('Height', '70');
		expect(await screen.findByText('The server does not answer.')).toBeInTheDocument();
		expect(screen.getByLabelText('Height')).toHaveValue('70');
	});
	it('is not asked for a test card', () => {
		render(TestCardNote);
		expect(screen.getByRole('link', { name: 'Enter results' })).toHaveAttribute('href', '/projects/3/sheets');
	});
});

describe('a meeting', () => {
	async function inspected(id = 'm1') {
		const build = await built();
		await build.pickMeeting(id);
		render(MeetingInspector, { build, detail: build.detail! });
		return build;
	}
	it('shows why its slot is as wide as it is, and the chances', async () => {
		await inspected();
		expect(screen.getByText('Why this slot in Front is 2.97')).toBeInTheDocument();
		expect(screen.getByText('72 %')).toBeInTheDocument();
		expect(screen.getByText(/2 tabs/)).toBeInTheDocument();
	});
	it('takes another feel, a clearance, a count, or becomes a butt', async () => {
		await inspected();
		await userEvent.click(screen.getByRole('radio', { name: 'slides' }));
		await put('Clearance', '0.08');
		await put('Tabs', '3');
		await userEvent.click(screen.getByRole('radio', { name: 'butt' }));
		await waitFor(() => expect(work.saved).toHaveLength(4));
		expect(work.saved.map((s) => s.design.choices!.m1)).toMatchObject([
			{ feel: 'slides', clearance: null },
			{ clearance: 0.08 },
			{ count: 3 },
			{ style: 'butt' }
		]);
		expect(work.saved[0]!.label).toBe('Column divider 1 with Front: slides');
	});
	it('learns from a joint that was tried', async () => {
		await inspected();
		await userEvent.click(screen.getByText('You tried it? Say how it felt'));
		await userEvent.click(screen.getByRole('button', { name: 'mallet' }));
		expect(await screen.findByText(/Noted: mallet/)).toBeInTheDocument();
		expect(server.sent).toEqual([['POST', '/api/stocks/4/feels', { entering: 5, feel: 'mallet', clearance_mm: 0.015, sd_mm: 0.045 }]]);
		expect(work.touched).toHaveBeenCalled();
	});
	it('says when a feel could not be kept', async () => {
		await inspected();
		await userEvent.click(screen.getByText('You tried it? Say how it felt'));
		server.refuse = 'This needs the role operator; yours is viewer.';
		await userEvent.click(screen.getByRole('button', { name: 'snug' }));
		expect(await screen.findByRole('alert')).toHaveTextContent('role operator');
		expect(work.touched).not.toHaveBeenCalled();
	});
	it('that is only a butt says so', async () => {
		await inspected('m3');
		expect(screen.getByText(/only butt against each other/)).toBeInTheDocument();
		expect(screen.queryByLabelText('Clearance')).toBeNull();
	});
});
