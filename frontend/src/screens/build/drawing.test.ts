/** Drawings from files, their layers, and the numbers that come from files; and the one form of families and features. */
import { render, screen, waitFor } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { boxNumbers, families, row } from '../../../tests/samples';
import type { Values, Design, DrawingOut, NumberAbout, PanelEdit } from '../../api/types';
import NumbersForm from '../../lib/ui/NumbersForm.svelte';
import ArtworkLayers from './ArtworkLayers.svelte';
import DrawingImport from './DrawingImport.svelte';
import { inProportion } from './proportions';
import FileNumbers from './FileNumbers.svelte';
import MeetingLayout from './MeetingLayout.svelte';
import { BuildState } from './build.svelte';
import PanelOutline from './PanelOutline.svelte';
import StockChoice from './StockChoice.svelte';
import { written } from '../../../tests/written';

const work = vi.hoisted(() => ({
	id: 3,
	project: { design: { numbers: {} } as unknown as Design },
	get design() {
		return work.project.design;
	},
	numbers: [] as [object, string][],
	choices: [] as [string, object, string][],
	async setNumbers(changes: object, label: string) {
		work.numbers.push([changes, label]);
	},
	edits: [] as [string[], object, string][],
	async editPanels(panels: string[], change: (before: PanelEdit) => object, label: string) {
		work.edits.push([panels, change(work.project.design.edits?.[panels[0]!] ?? ({} as PanelEdit)), label]);
	},
	async setChoice(id: string, changes: object, label: string) {
		work.choices.push([id, changes, label]);
	}
}));
vi.mock('../../app/project.svelte', () => ({ useProject: () => work }));

const drawing = (more: object = {}): DrawingOut =>
	({
		id: '7',
		name: 'leaf.svg',
		mm_per_unit: null,
		size: [100, 60],
		layers: [
			{ name: 'red', lines: 2, open: 1 },
			{ name: 'blue', lines: 1, open: 0 }
		],
		notes: [{ code: 'open_lines', says: written('1 line is open.'), place: [10, 10] }],
		lines: [[[0, 0], [100, 0], [100, 60]]], // prettier-ignore
		silhouette: [[0, 0], [100, 0], [100, 60]], // prettier-ignore
		...more
	}) as unknown as DrawingOut;

const plateFamily = {
	...families[0]!,
	id: 'plate',
	numbers: [families[0]!.numbers[0]!],
	defaults: { family: 'plate', shape: 'rectangle', width: 160, height: 100 }
};
let answer: DrawingOut;
let sent: { path: string; fields: Record<string, string> }[];
let refuse = '';
beforeEach(() => {
	answer = drawing();
	[sent, refuse] = [[], ''];
	[work.numbers, work.choices, work.edits] = [[], [], []];
	vi.stubGlobal('fetch', async (request: Request) => {
		const path = new URL(request.url).pathname;
		const json = (status: number, body: unknown) =>
			new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });
		if (path === '/api/numbers') return json(200, { value: Number(((await request.json()) as { text: string }).text) });
		if (request.method === 'POST') {
			const type = request.headers.get('Content-Type') ?? '';
			const text = await request.text();
			const names = [...text.matchAll(/name="(\w+)"(?:; filename="[^"]*"[^]*?)?\r\n\r\n([^]*?)\r\n--/g)];
			sent.push({ path, fields: type.includes('json') ? (JSON.parse(text) as Record<string, string>) : Object.fromEntries(names.map((m) => [m[1]!, m[2]!])) }); // prettier-ignore
			if (refuse) return json(422, { code: 'x', message: refuse, facts: {} });
		}
		if (path === '/api/families') return json(200, [plateFamily]);
		if (path.endsWith('/edges')) return json(200, { outline: [], edges: [], seen: [120, 56.9] });
		if (path.endsWith('/heights')) return json(200, { grid: [[0, 1], [1, 0]], size: null }); // prettier-ignore
		return json(200, request.method === 'POST' ? answer : [answer]);
	});
});
const file = (name: string, type = 'image/svg+xml') => new File(['<svg/>'], name, { type });
const choose = async (name: string) => userEvent.upload(screen.getByLabelText('SVG, DXF, PNG or JPEG'), file(name), { applyAccept: false });

describe('proportions', () => {
	const values = { silhouette: [[0, 0], [200, 0], [100, 60]], width: 100, height: 30 } as unknown as Values; // prettier-ignore
	it('of a traced figure are kept unless a person wants it otherwise', () => {
		expect(inProportion(values, 'width', 50)).toEqual({ height: 15 });
		expect(inProportion(values, 'height', 60)).toEqual({ width: 200 });
		expect(inProportion(values, 'foot', 60)).toEqual({});
		expect(inProportion({ ...values, stretch: true } as never, 'width', 50)).toEqual({});
		expect(inProportion({ ...values, silhouette: [] } as never, 'width', 50)).toEqual({});
	});
});

describe('a drawing from a file', () => {
	it('is shown with what is odd about it, and its size is asked when the file does not say', async () => {
		const ontake = vi.fn();
		const { container } = render(DrawingImport, { use: 'Put it on the panel', ontake });
		await choose('leaf.svg');
		expect(await screen.findByText(/1 line is open\. The place is ringed/)).toBeInTheDocument();
		expect(container.querySelectorAll('circle')).toHaveLength(1);
		expect(screen.queryByRole('button', { name: 'Put it on the panel' })).toBeNull();
		await userEvent.click(screen.getByRole('button', { name: 'inch' }));
		expect(screen.getByLabelText('Width')).toHaveValue('2540.0');
		await userEvent.click(screen.getByRole('button', { name: 'mm' }));
		expect(screen.getByText('100.0 × 60.0')).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: 'Put it on the panel' }));
		await waitFor(() => expect(ontake).toHaveBeenCalledWith(answer, 100));
		const width = screen.getByLabelText('Width');
		await userEvent.clear(width);
		await userEvent.type(width, '30');
		await userEvent.click(screen.getByRole('button', { name: 'Put it on the panel' })); // what was typed counts, though it is read by the server
		await waitFor(() => expect(ontake).toHaveBeenLastCalledWith(answer, 30));
	});
	it('has its size when the file says it, and its gaps are closed on request', async () => {
		answer = drawing({ mm_per_unit: 0.5 });
		render(DrawingImport, { use: 'Take it', ontake: vi.fn() });
		await choose('leaf.svg');
		expect(await screen.findByText('50.0 × 30.0')).toBeInTheDocument();
		answer = drawing({ mm_per_unit: 0.5, layers: [{ name: 'red', lines: 1, open: 0 }], notes: [] });
		await userEvent.click(screen.getByRole('button', { name: 'Close them' }));
		await waitFor(() => expect(screen.queryByRole('button', { name: 'Close them' })).toBeNull());
		expect(sent.at(-1)).toMatchObject({ path: '/api/projects/3/drawings/7/close', fields: { gap: 0.1 } });
	});
	it('that is an image can be traced again with another threshold', async () => {
		answer = drawing({ notes: [{ code: 'traced', says: written('Traced: 0.4 pixels off.'), place: null, places: [] }], layers: [] });
		render(DrawingImport, { use: 'Take it', ontake: vi.fn() });
		await choose('leaf.png');
		const threshold = await screen.findByLabelText('Darker than counts');
		await userEvent.clear(threshold);
		await userEvent.type(threshold, '70{Enter}');
		await waitFor(() => expect(sent).toHaveLength(2));
		expect(screen.queryByText(/does not say how large/)).toBeNull(); // an image never says: the width is simply asked
		expect(screen.getByLabelText('Width: give it')).toBeInTheDocument();
		await userEvent.type(screen.getByLabelText('or height'), '90{Enter}'); // whichever is known; the other follows
		await waitFor(() => expect(screen.getByLabelText('Width')).toHaveValue('150.0'));
	});
	it('that cannot be read says why', async () => {
		refuse = 'This file is neither SVG, DXF, PNG nor JPEG.';
		render(DrawingImport, { use: 'Take it', ontake: vi.fn() });
		await choose('leaf.zip');
		expect(await screen.findByRole('alert')).toHaveTextContent('neither SVG');
	});
});

describe('the layers of a drawing', () => {
	it('are each burned as they are said, or left out', async () => {
		const onchange = vi.fn();
		const feature = { kind: 'artwork', id: 'a', panel: 'p', drawing: '7', layers: [['red', 'score']] } as never;
		const stocks = [{ id: '9', name: 'Walnut', thickness_mm: 2 }] as never;
		const { rerender } = render(ArtworkLayers, { feature, stocks, onchange, onwidth: vi.fn() });
		expect(await screen.findByLabelText(/red/)).toHaveValue('score');
		expect(screen.getByLabelText(/blue/)).toHaveValue('engrave');
		await userEvent.selectOptions(screen.getByLabelText(/blue/), 'left out');
		/** what the last change makes of a drawing that was changed meanwhile */
		const made = (now: object) => onchange.mock.lastCall![0](now);
		expect(onchange.mock.lastCall![1]).toBe('blue: left out');
		expect(made({ layers: [['red', 'cut']] })).toEqual({ layers: [['red', 'cut'], ['blue', null]] }); // prettier-ignore
		expect(screen.queryByLabelText('Its pieces are cut from')).toBeNull(); // nothing of it is a piece
		await rerender({ feature: { ...(feature as object), layers: [['red', 'inlaid']] } as never });
		await userEvent.selectOptions(screen.getByLabelText('Its pieces are cut from'), '9');
		expect(onchange.mock.lastCall![1]).toBe('red: stock of its pieces');
		expect(made({ stocks: [{ layer: 'blue', stock: '4' }] })).toEqual({ stocks: [{ layer: 'blue', stock: '4' }, { layer: 'red', stock: '9' }] }); // prettier-ignore
	});
});

describe('numbers from files', () => {
	it('give a stand an outline of its own, with its proportions, and take it back', async () => {
		const { unmount } = render(FileNumbers, { values: { family: 'stand', silhouette: [] } });
		await userEvent.click(screen.getByRole('button', { name: 'Outline from a file' }));
		await choose('leaf.svg');
		await userEvent.click(await screen.findByRole('button', { name: 'mm' }));
		await userEvent.click(screen.getByRole('button', { name: 'Take its outer line' }));
		expect(work.numbers).toEqual([[{ silhouette: answer.silhouette, width: 100, height: 60 }, 'Outline from leaf.svg']]);
		unmount();
		render(FileNumbers, { values: { family: 'stand', silhouette: answer.silhouette } });
		await userEvent.click(screen.getByRole('button', { name: 'Back to the named figure' }));
		expect(work.numbers.at(-1)![0]).toEqual({ silhouette: [] });
	});
	it('give a ribbed form its heights', async () => {
		render(FileNumbers, { values: { family: 'crate', grid: [] } });
		await userEvent.upload(screen.getByLabelText(/Heights from a grey image/), file('hill.png', 'image/png'), { applyAccept: false });
		await waitFor(() => expect(work.numbers).toEqual([[{ grid: [[0, 1], [1, 0]] }, 'Heights from hill.png']])); // prettier-ignore
	});
	it('are not asked of other families', () => {
		const { container } = render(FileNumbers, { values: { family: 'box' } });
		expect(container.querySelector('input, button')).toBeNull();
	});
});

describe('the form of numbers', () => {
	const numbers = families[0]!.numbers as unknown as NumberAbout[];
	it('shows what counts now, none for what is not there, and tells a change in words', async () => {
		const onchange = vi.fn();
		const { rerender } = render(NumbersForm, { numbers, values: { ...boxNumbers, top: 'open' }, unit: 'mm', onchange });
		expect(screen.queryByLabelText('Finger hole in the lid')).toBeNull();
		await rerender({ numbers, values: { ...boxNumbers, top: 'fixed', lid_hole: 0 }, unit: 'mm', onchange });
		expect(screen.getByLabelText('Finger hole in the lid')).toHaveAttribute('placeholder', 'none');
		await userEvent.type(screen.getByLabelText('Finger hole in the lid'), '20{Enter}');
		await waitFor(() => expect(onchange).toHaveBeenCalledWith('lid_hole', 20, 'Finger hole in the lid 20.0'));
		await userEvent.click(screen.getByRole('radio', { name: 'lift-off' }));
		expect(onchange).toHaveBeenLastCalledWith('top', 'lift_off', 'Top: lift-off');
	});
	it('says beside a number what is wrong with it', () => {
		const wrong = new Map([['width', 'Make the width at least 20.']]);
		render(NumbersForm, { numbers, values: boxNumbers, unit: 'mm', wrong, onchange: vi.fn() });
		expect(screen.getByLabelText('Width')).toBeInvalid();
		expect(screen.getByText('Make the width at least 20.')).toBeInTheDocument();
	});
});

describe('the layout of a meeting', () => {
	const meeting = (kind: string, style: string, asked = style) => ({ id: 'm', kind, style, asked, count: 2 }) as never;
	const way = (style: string, label: string, counted = '', wide = '') =>
		({ style, label, counted, wide, proud: style === 'tabs' }) as never;
	const tee = [way('tabs', 'tabs', 'Tabs', 'Tab, width'), way('whole', 'one wide tab'), way('blind', 'scored place')];
	it('of a tee takes a style, a width, and how far tabs stand out', async () => {
		render(MeetingLayout, { name: 'butt', m: meeting('tee', 'tabs'), ways: tee, choice: undefined, pair: 'A with B' });
		await userEvent.click(screen.getByRole('radio', { name: 'one wide tab' }));
		await userEvent.type(screen.getByLabelText('Tab, width'), '14{Enter}');
		const proud = screen.getByLabelText('Tabs stand out by');
		await userEvent.clear(proud);
		await userEvent.type(proud, '1.5{Enter}');
		await waitFor(() => expect(work.choices.map((c) => c[1])).toEqual([{ style: 'whole' }, { width: 14 }, { proud: 1.5 }]));
		expect(work.choices[0]![2]).toBe('A with B: one wide tab');
	});
	it('of a tee that is only scored can be given tabs again, and says when there is no room for them', async () => {
		const { rerender } = render(MeetingLayout, {
			name: 'butt',
			m: meeting('tee', 'blind'),
			ways: tee,
			choice: { style: 'blind' } as never,
			pair: 'A with B'
		});
		expect(screen.queryByLabelText('Tabs')).toBeNull();
		await userEvent.click(screen.getByRole('radio', { name: 'tabs' }));
		await waitFor(() => expect(work.choices.map((c) => c[1])).toEqual([{ style: 'tabs' }]));
		await rerender({ m: meeting('tee', 'butt', 'tabs') });
		expect(screen.getByText(/no room for tabs/)).toBeInTheDocument();
		expect(screen.getByLabelText('Tabs')).toBeInTheDocument();
	});
	it('of a crossing takes a share and turns round', async () => {
		render(MeetingLayout, {
			name: 'butt',
			m: meeting('crossing', 'lap'),
			ways: [way('lap', 'cross-lap')],
			choice: undefined,
			pair: 'A with B'
		});
		const share = screen.getByLabelText('Cut from the one open above');
		expect(share).toHaveValue('50');
		await userEvent.clear(share);
		await userEvent.type(share, '30{Enter}');
		await userEvent.click(screen.getByLabelText(/opens upward/));
		await waitFor(() => expect(work.choices.map((c) => c[1])).toEqual([{ share: 0.3 }, { flip: true }]));
	});
	it('of one through the other has nothing to choose', () => {
		const { container } = render(MeetingLayout, {
			name: 'butt',
			m: meeting('through', 'slot'),
			ways: [way('slot', 'slot')],
			choice: undefined,
			pair: ''
		});
		expect(container.querySelector('input, h3')).toBeNull();
	});
});

describe('the choice of a stock', () => {
	it('names thickness and ban, and may be none where that has a meaning', async () => {
		const onchoose = vi.fn();
		const stocks = [row('4'), row('6', 'plastic', { name: 'White vinyl', verdict: 'forbidden' })];
		render(StockChoice, { label: 'Stock', stocks, value: '4', none: 'as its group', onchoose });
		expect(screen.getByRole('option', { name: /White vinyl.*must not be cut/ })).toBeInTheDocument();
		await userEvent.selectOptions(screen.getByLabelText('Stock'), 'as its group');
		expect(onchoose).toHaveBeenCalledWith('');
	});
});

describe('a picture to engrave', () => {
	it('is sent as it is, shown, and asked for its width only', async () => {
		vi.stubGlobal('URL', Object.assign(URL, { createObjectURL: () => 'blob:7', revokeObjectURL: () => {} }));
		answer = drawing({ name: 'hill.png', layers: [{ name: 'picture', lines: 1, open: 0 }], notes: [] });
		const ontake = vi.fn();
		render(DrawingImport, { use: 'Put it on the panel', picture: true, ontake });
		await userEvent.upload(screen.getByLabelText('PNG or JPEG'), file('hill.png', 'image/png'));
		expect(await screen.findByRole('img', { name: 'What was read' })).toHaveAttribute('src', 'blob:7');
		expect(sent[0]!.fields).toMatchObject({ as_picture: 'true' });
		expect(screen.queryByLabelText('Smoothing, pixels')).toBeNull();
		await userEvent.type(screen.getByLabelText(/Width/), '80{Enter}');
		await userEvent.click(await screen.findByRole('button', { name: 'Put it on the panel' }));
		await waitFor(() => expect(ontake).toHaveBeenCalledWith(answer, 80));
	});
});

describe('the outline of a panel', () => {
	it('comes from a drawing, is sized and placed, and goes again', async () => {
		work.project = { design: { numbers: {}, edits: {} } as unknown as Design };
		render(PanelOutline, { build: new BuildState(3), id: 'back', label: 'Back' });
		await choose('leaf.svg');
		await userEvent.click(await screen.findByRole('button', { name: 'mm' }));
		await userEvent.click(screen.getByRole('button', { name: 'Give it this outline' }));
		const outline = { drawing: '7', width: 100, x: 0, y: 0, turn: 0, seen: true };
		await waitFor(() => expect(work.edits).toEqual([[['back'], { outline, shape: null }, 'Back: outline of leaf.svg']]));
	});
	it('shows its numbers once it is there', async () => {
		const outline = { drawing: '7', width: 100, x: 0, y: 0, turn: 0, seen: true };
		work.project = { design: { numbers: {}, edits: { back: { outline } } } as unknown as Design };
		render(PanelOutline, { build: new BuildState(3), id: 'back', label: 'Back' });
		const up = screen.getByLabelText('Up');
		await userEvent.clear(up);
		await userEvent.type(up, '12{Enter}');
		await waitFor(() => expect(work.edits.at(-1)![1]).toEqual({ outline: { ...outline, y: 12 } }));
		await userEvent.click(screen.getByRole('button', { name: 'Its own shape again' }));
		expect(work.edits.at(-1)![1]).toEqual({ outline: null, shape: null });
	});
	it('begins as a rectangle of what is seen of it, is changed by its numbers, and goes again', async () => {
		work.project = { design: { numbers: {}, edits: {} } as unknown as Design };
		const build = new BuildState(3);
		const { unmount } = render(PanelOutline, { build, id: 'back', label: 'Back' });
		await userEvent.click(screen.getByRole('button', { name: 'A plain shape' }));
		await waitFor(() =>
			expect(work.edits.at(-1)?.[1]).toMatchObject({ shape: { numbers: { shape: 'rectangle', width: 120, height: 56.9 }, turn: 0 } })
		);
		unmount();
		const shape = (work.edits.at(-1)![1] as { shape: PanelEdit['shape'] }).shape;
		work.project = { design: { numbers: {}, edits: { back: { shape } } } as unknown as Design };
		build.out = { findings: [{ code: 'corner_too_round', severity: 'must', parts: ['back'], says: written('Make this radius 9 or less.') }], parts: [] } as never; // prettier-ignore
		render(PanelOutline, { build, id: 'back', label: 'Back' });
		expect(await screen.findByText('Make this radius 9 or less.')).toBeInTheDocument();
		const width = screen.getByLabelText('Width');
		await userEvent.clear(width);
		await userEvent.type(width, '80{Enter}');
		await waitFor(() => expect(work.edits.at(-1)![1]).toMatchObject({ shape: { numbers: { width: 80, height: 56.9 } } }));
		await userEvent.clear(screen.getByLabelText('Turned'));
		await userEvent.type(screen.getByLabelText('Turned'), '30{Enter}');
		await waitFor(() => expect(work.edits.at(-1)![1]).toMatchObject({ shape: { turn: 30 } }));
		await userEvent.click(screen.getByRole('button', { name: 'Its own shape again' }));
		expect(work.edits.at(-1)![1]).toEqual({ outline: null, shape: null });
	});
});
