/** Editing panels: each change is one step on the design, and places snap to the faces of others. */
import { render, screen, waitFor, within } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { featureTypes, rackOf, row, upright } from '../../../tests/samples';
import { Server } from '../../../tests/server';
import type { BuildOut, Design, DesignFamily, PartOut, Variation } from '../../api/types';
import { goneWith, setsOf, thereNow, variantCount, withVariation } from '../../app/variations';
import { endNames, ladder, spreadRound } from './added';
import { BuildState } from './build.svelte';
import PanelInspector from './PanelInspector.svelte';
import PanelsInspector from './PanelsInspector.svelte';
import PartLists from './PartLists.svelte';
import { namesIn, withoutPanel } from './moves';
import ThereWith from './ThereWith.svelte';
import Variants from './Variants.svelte';
import VariationForm from './VariationForm.svelte';

const real = await vi.importActual<typeof import('../../app/project.svelte')>('../../app/project.svelte');
const work = vi.hoisted(() => ({
	id: 3,
	project: null as { design: Design; machine: string } | null,
	saved: [] as { label: string; design: Design }[],
	chosen: [] as string[],
	async chooseVariant(choice: Record<string, string>) {
		work.chosen.push(...Object.entries(choice).map((c) => c.join(': ')));
	},
	async save(change: (d: Design) => Design, label: string) {
		work.project = { ...work.project!, design: change(work.project!.design) };
		work.saved.push({ label, design: work.project.design });
	}
}));
vi.mock('../../app/project.svelte', async (original) => ({
	...(await original<typeof import('../../app/project.svelte')>()),
	useProject: () => ({
		...work,
		get project() {
			return work.project;
		},
		get design() {
			return work.project!.design;
		},
		item: '',
		saveWhole: (change: (d: Design) => Design, label: string) => work.save(change, label),
		editPanels: (ids: string[], change: never, label: string) => work.save((d) => real.withEdits(d, ids, change), label),
		forgetChoices: (ids: string[], label: string) =>
			work.save((d) => ({ ...d, choices: Object.fromEntries(Object.entries(d.choices!).filter(([k]) => !ids.includes(k))) }), label)
	})
}));

const out = {
	item: '',
	items: [],
	rooms: [],
	parts: [upright('left', 'Left side', 0), upright('right', 'Right side', 177), upright('column-1', 'Column divider 1', 90, 50)],
	meetings: [],
	chances: [],
	boundaries: {},
	findings: [],
	stocks: { '4': { name: 'Birch ply 3', material: 'plywood', colour: '#e9d2a6' } },
	facts: [],
	size_mm: 200,
	pins: [],
	orphans: [{ id: 'front+shelf', label: 'Front with Shelf' }],
	left_out: [{ id: 'front', label: 'Front' }]
} as unknown as BuildOut;

const corners = [[0, 0], [100, 0], [100, 50], [0, 50]] as const; // prettier-ignore
const square = {
	outline: corners,
	edges: ['lower', 'right', 'upper', 'left'].map((side, k) => {
		const beside = { before: ((k + 3) % 4) + 1, after: ((k + 1) % 4) + 1 };
		return { nth: k + 1, start: corners[k], end: corners[(k + 1) % 4], length: k % 2 ? 50 : 100, side, ...beside };
	})
};
let build: BuildState;
beforeEach(async () => {
	work.saved = [];
	const choices = { 'front+shelf': { feel: 'slides' } };
	work.project = { design: { numbers: {}, stocks: { walls: '4' }, feel: 'snug', choices, edits: {} } as unknown as Design, machine: '1' };
	const answers: Record<string, unknown> = {
		'/api/rack': rackOf([row('4'), row('5')]),
		'/api/feature-types': featureTypes,
		'/api/projects/3/panels/column-1/edges': square,
		'/api/projects/3/corner': { on_a: [50, 90], on_b: [1, 100] },
		'/api/projects/3/lattice': [
			{ turn: 45, offset: 0 },
			{ turn: 135, offset: -40 }
		]
	};
	new Server((path) => answers[path] ?? out);
	build = new BuildState(3);
	await build.load();
});
async function put(label: string, text: string) {
	const box = screen.getByLabelText(label);
	await userEvent.clear(box);
	await userEvent.type(box, `${text}{Enter}`);
}
const last = () => work.saved.at(-1)!;

describe('places', () => {
	it('line up with the first that was picked: ends, middles, or face on face', async () => {
		build.panel = 'left';
		build.more = ['column-1', 'right'];
		render(PanelsInspector, { build });
		expect(screen.getByRole('heading', { name: 'Line up with Left side' })).toBeTruthy();
		await userEvent.click(screen.getByRole('button', { name: 'upper end, up and down' }));
		await vi.waitFor(() => expect(last().label).toBe('Column divider 1, Right side lined up with Left side'));
		expect(last().design.edits).toMatchObject({ 'column-1': { move: [0, 0, 10] } });
		expect(last().design.edits!['left']).toBeUndefined();
		expect(last().design.edits!['right']).toBeUndefined(); // it was there already
		await userEvent.click(screen.getByRole('button', { name: 'face on face, from left to right' }));
		await vi.waitFor(() =>
			expect(last().design.edits).toMatchObject({ 'column-1': { move: [-87, 0, 10] }, right: { move: [-174, 0, 0] } })
		);
	});
});

describe('one panel', () => {
	const inspect = () => {
		build.pickPanel('column-1');
		render(PanelInspector, { build, part: build.part! });
	};
	it('is moved by typing or to the next face, given another stock and turned over; undone changes leave nothing', async () => {
		inspect();
		await put('to the right', '12');
		expect(last().design.edits).toMatchObject({ 'column-1': { move: [12, 0, 0] } });
		await userEvent.click(screen.getByRole('button', { name: 'Snap on, up' }));
		expect(last().design.edits).toMatchObject({ 'column-1': { move: [12, 0, 5] } });
		await userEvent.selectOptions(await screen.findByLabelText('Stock'), '5');
		await userEvent.click(screen.getByLabelText('other face shows'));
		expect(last().design.edits!['column-1']).toMatchObject({ stock: '5', turned: true });
		expect(last().label).toBe('Column divider 1 turned over');
		await put('to the right', '0');
		await put('up', '0');
		await userEvent.selectOptions(screen.getByLabelText('Stock'), '');
		await userEvent.click(screen.getByLabelText('other face shows'));
		expect(last().design.edits).toEqual({});
	});
	it('is duplicated, mirrored, given a plate, divided and left out', async () => {
		inspect();
		await userEvent.click(screen.getByRole('button', { name: 'Duplicate' }));
		await put('Spacing', '15');
		await put('Copies', '2');
		await userEvent.click(screen.getByRole('button', { name: 'Make 2 more' }));
		await waitFor(() => expect(work.saved).toHaveLength(1));
		expect(last().design.added).toMatchObject([
			{ id: 'column-1-copy-1', of: 'column-1', move: [15, 0, 0] },
			{ id: 'column-1-copy-2', of: 'column-1', move: [30, 0, 0] }
		]);
		await userEvent.click(screen.getByRole('button', { name: 'Duplicate' }));
		await userEvent.click(screen.getByRole('radio', { name: 'round a line' }));
		await put('Copies', '3');
		await put('The line stands, to the right', '90');
		await userEvent.click(screen.getByRole('button', { name: 'Make 3 more' }));
		await waitFor(() => expect(last().design.added).toHaveLength(5));
		expect(
			last()
				.design.added!.slice(2)
				.map((c) => (c as { turn: number }).turn)
		).toEqual([90, 180, 270]);
		expect(last().design.added![4]).toMatchObject({ kind: 'copy', of: 'column-1', round: 'z', centre: [90, 50, 30] });
		await userEvent.click(screen.getByRole('button', { name: 'Mirror' }));
		await userEvent.click(screen.getByRole('button', { name: 'Mirror beside it' }));
		expect(last().design.added!.at(-1)).toMatchObject({ mirror: 'x', about: 98 }); // 10 mm stand between the two
		await userEvent.click(screen.getByRole('button', { name: 'Mirror' }));
		await userEvent.click(screen.getByRole('radio', { name: 'across the middle of it all' }));
		await userEvent.click(screen.getByRole('button', { name: 'Mirror at the middle' }));
		expect(last().design.added!.at(-1)).toMatchObject({ mirror: 'x', about: 90 });
		await userEvent.click(screen.getByRole('button', { name: 'Plate on it' }));
		await put('Width', '25');
		await userEvent.click(screen.getByRole('button', { name: 'Add the plate' }));
		await waitFor(() =>
			expect(last().design.added!.at(-1)).toMatchObject({
				...{ kind: 'on_face', host: 'column-1', stock: '4', layers: 0 },
				...{ width: 25, height: 35, x: 37.5, y: 7.5 } // in the middle of 100 × 50
			})
		);
		await userEvent.click(screen.getByRole('button', { name: 'Plate on it' }));
		await put('Layers of spacers under it', '2');
		await put('Diameter of the spacers', '20');
		await userEvent.click(screen.getByRole('button', { name: 'Add the plate' }));
		await waitFor(() =>
			expect(last().design.added!.at(-1)).toMatchObject({ kind: 'on_face', layers: 2, width: 70, spacer_across: 20, spacer_inset: 8.8 })
		);
		await userEvent.click(screen.getByRole('button', { name: 'Upright on it' }));
		await put('Width at its foot', '30');
		await put('Turned by', '90');
		await put('How many, round the middle', '2');
		await userEvent.click(screen.getByRole('button', { name: 'Add 2 uprights' }));
		await waitFor(() =>
			expect(last().design.added!.at(-2)).toMatchObject({ kind: 'upright', x: 50, y: 10, along: 90, width: 30, upper: 30, lean: 0 })
		);
		await userEvent.click(screen.getByRole('button', { name: 'Wall on an edge' }));
		await userEvent.selectOptions(await screen.findByLabelText('Edge'), 'every edge');
		await put('Leans outward by', '12');
		await userEvent.click(screen.getByRole('button', { name: 'Add the walls' }));
		await waitFor(() =>
			expect(last().design.added!.at(-1)).toMatchObject({
				kind: 'wall',
				edge: 'left',
				nth: 4,
				lean: 12,
				beside: ['edge-wall-3', 'edge-wall-1']
			})
		);
		const edits = { 'plate-1-spacer-2': { stock: '5' }, 'plate-10': { stock: '5' } } as unknown as Design['edits'];
		expect(Object.keys(withoutPanel({ ...last().design, edits }, 'plate-1').edits!)).toEqual(['plate-10']);
		const kept = withoutPanel(last().design, 'edge-wall-1').added!.filter((a) => a.kind === 'wall');
		expect(kept.map((w) => w.beside)).toEqual([
			['', 'edge-wall-3'],
			['edge-wall-2', 'edge-wall-4'],
			['edge-wall-3', '']
		]);
		expect(
			last()
				.design.added!.slice(-4)
				.map((w) => (w as { edge: string }).edge)
		).toEqual(['lower', 'right', 'upper', 'left']);
		await userEvent.click(screen.getByRole('button', { name: 'Divide' }));
		await put('From its left end', '40');
		await userEvent.click(screen.getByRole('button', { name: 'Divide here' }));
		await waitFor(() => expect(last().design.splits).toEqual([{ panel: 'column-1', at: 40, scarf: false }]));
		await userEvent.click(screen.getByRole('button', { name: 'Leave out' }));
		expect(last().design.edits!['column-1']).toMatchObject({ gone: true });
	});
	it('gets features, whose numbers are changed in place', async () => {
		inspect();
		await userEvent.selectOptions(await screen.findByLabelText('Add to Column divider 1'), 'hole');
		expect(last().design.features).toMatchObject([{ id: 'hole-1', panel: 'column-1', diameter: 6 }]);
	});
	it('is counted, with spares, or as a helper', async () => {
		inspect();
		await put('Spares', '2');
		await userEvent.click(screen.getByLabelText(/a helper/));
		expect(last().design.edits!['column-1']).toMatchObject({ spares: 2, helper: true });
	});
});

describe('several panels', () => {
	it('are picked with the control key, moved together, and get a panel between them', async () => {
		render(PartLists, { build });
		const user = userEvent.setup();
		await user.click(screen.getByRole('button', { name: 'Left side' }));
		await user.keyboard('{Control>}');
		await user.click(screen.getByRole('button', { name: 'Right side' }));
		await user.keyboard('{/Control}');
		expect(build.picked).toEqual(['left', 'right']);
		render(PanelsInspector, { build });
		await put('Move to the back', '5');
		expect(last().design.edits).toMatchObject({ left: { move: [0, 5, 0] }, right: { move: [0, 5, 0] } });
		const form = within(screen.getByRole('form', { name: 'Panel between' }));
		await userEvent.click(form.getByRole('radio', { name: 'up' }));
		await put('Where, up', '20');
		await userEvent.click(form.getByRole('button', { name: 'Add the panel' }));
		await waitFor(() =>
			expect(last().design.added).toMatchObject([{ kind: 'between', a: 'left', b: 'right', axis: 'z', at: 20, stock: '4' }])
		);
	});
	it('get panels between them that slope to and fro, a step higher each time', () => {
		const first = { at: 20, rise: 10, over: 0, inset_low: 5, inset_high: 0 };
		expect(ladder(first, 3, 30, true)).toEqual([
			first,
			{ at: 60, rise: -10, over: -0, inset_low: 0, inset_high: 5 }, // from 60 down to 50: the mirror image of 50 up to 60
			{ ...first, at: 80 }
		]);
		expect(ladder(first, 2, 30, false)[1]).toEqual({ ...first, at: 50 });
	});
	it('get uprights spread round the middle, each turned with its place', () => {
		const three = spreadRound({ x: 50, y: 10, along: 90 }, [50, 40], 3).map((p) => [p.x, p.y, p.along].map((v) => Number(v.toFixed(3))));
		expect(three).toEqual([[50, 10, 90], [75.981, 55, -150], [24.019, 55, -30]]); // prettier-ignore
	});
	it('that stand round a room get slats across it', async () => {
		const front = { ...upright('front', 'Front', 0), pose: { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 0, 1] } } as unknown as PartOut;
		build.out = { ...out, parts: [...out.parts, front] };
		for (const id of ['left', 'right', 'column-1']) build.togglePanel(id);
		const { unmount } = render(PanelsInspector, { build });
		expect(screen.queryByRole('form', { name: 'Slats between these' })).toBeNull(); // all alike: no room
		unmount();
		build.togglePanel('column-1');
		build.togglePanel('front');
		render(PanelsInspector, { build });
		await put('Kept back, lower end', '3');
		await userEvent.click(screen.getByRole('button', { name: 'Add the slats' }));
		const walls = ['left', 'right', 'front'];
		await waitFor(() =>
			expect(last().design.added).toMatchObject([
				{ kind: 'slat', id: 'slat-1', label: 'Slat', walls, turn: 45, offset: 0, inset_low: 3 },
				{ kind: 'slat', id: 'slat-2', label: 'Slat 2', walls, turn: 135, offset: -40, inset_low: 3 }
			])
		);
	});
	it.each([
		['z', [0, 1, 0], 'right end', 'left end'], // up x back looks to the left: the low end is the right one
		['z', [0, -1, 0], 'left end', 'right end'],
		['z', [1, 0, 0], 'front end', 'back end'],
		['x', [0, 1, 0], 'lower end', 'upper end'],
		['y', [1, 0, 0], 'upper end', 'lower end']
	] as const)(
		'keep a panel between them back: square to %s, from one that looks along %j, the low end is its %s',
		(axis, normal, low, high) => expect(endNames(axis, normal)).toEqual([low, high])
	);
	it('that stand square to each other get a gusset or a brace in their corner', async () => {
		const base = { ...upright('base', 'Base', 0), pose: { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] } } as unknown as PartOut;
		build.out = { ...out, parts: [...out.parts, base] };
		build.togglePanel('base');
		build.togglePanel('left');
		render(PanelsInspector, { build });
		await put('Size', '24');
		await userEvent.click(screen.getByRole('button', { name: 'Add the gusset' }));
		await waitFor(() => expect(last().design.added).toMatchObject([{ kind: 'gusset', size: 24, at: 0 }]));
		await userEvent.click(screen.getByRole('radio', { name: 'Brace' }));
		const [first, second] = last().design.added!.map((g) => [(g as { a: string }).a, (g as { b: string }).b])[0]!;
		expect(await screen.findByText(/: 50.0 to 90.0. Possible on/)).toBeInTheDocument();
		await put(`From the corner, on: ${build.names.get(second!)}`, '55');
		await userEvent.click(screen.getByRole('button', { name: 'Add the brace' }));
		await waitFor(() => expect(last().design.added![1]).toMatchObject({ kind: 'brace', a: first, b: second, on_a: 70, on_b: 55 }));
		expect([last().design.added![0]].flatMap((g) => [(g as { a: string }).a, (g as { b: string }).b]).sort()).toEqual(['base', 'left']);
	});
	it('that are left out can be put back, and choices of lost meetings are kept until they are removed', async () => {
		work.project!.design.edits = { front: { gone: true } } as never;
		render(PartLists, { build });
		expect(screen.getByText('Front with Shelf')).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: /^Front, left out/ }));
		expect(last().design.edits).toEqual({});
		await userEvent.click(screen.getByRole('button', { name: 'Remove these choices' }));
		expect(last().design.choices).toEqual({});
	});
});

describe('what varies', () => {
	const family = { numbers: [{ name: 'width', label: 'Width' }], roles: [{ id: 'walls', label: 'Walls' }] } as unknown as DesignFamily;
	const begin = (more: object) =>
		(work.project!.design = {
			...work.project!.design,
			numbers: { family: 'box', width: 120 },
			stocks: { walls: '1' },
			...more
		} as unknown as Design);
	const choice = (label: string, name: string) => within(screen.getByRole('radiogroup', { name: label })).getByText(name);

	it('has alternatives that begin as the design is, and the server keeps what was changed of the one before', async () => {
		begin({ variations: [] });
		const { unmount } = render(Variants, { family });
		await userEvent.click(screen.getByRole('button', { name: 'Something varies …' }));
		await userEvent.type(screen.getByLabelText('What varies'), 'Size');
		await userEvent.type(screen.getByLabelText('Its alternatives, with commas'), 'small');
		await userEvent.click(screen.getByRole('button', { name: 'Let it vary' }));
		expect(screen.getByRole('alert').textContent).toContain('at least two');
		await userEvent.type(screen.getByLabelText('Its alternatives, with commas'), ', large,');
		await userEvent.click(screen.getByRole('button', { name: 'Let it vary' }));
		const all = last().design.variations!;
		expect(all).toMatchObject([{ name: 'Size', chosen: 'small', alternatives: [{ name: 'small', sizes: { width: 120 } }, { name: 'large', sizes: { width: 120 } }] }]); // prettier-ignore
		unmount();
		render(Variants, { family });
		await userEvent.click(choice('Size', 'large'));
		expect(work.chosen).toEqual(['Size: large']);
	});
	it('is named, added to and taken away alternative by alternative, and sets more or less', async () => {
		begin({ variations: [] });
		begin({ variations: withVariation(work.project!.design, 'Wood', ['plain', 'fine'], [{ of: 'stocks', name: 'walls' }]).variations });
		const design = () => last().design;
		render(VariationForm, { variation: work.project!.design.variations![0] as Variation, family });
		await userEvent.type(screen.getByPlaceholderText('Another alternative'), 'rough{Enter}');
		expect(design().variations![0]!.alternatives.map((a) => [a.name, a.stocks])).toEqual(
			['plain', 'fine', 'rough'].map((n) => [n, { walls: '1' }])
		);
		await userEvent.selectOptions(screen.getByLabelText('It also sets'), 'width');
		expect(setsOf(design().variations![0] as Variation)).toEqual([{ of: 'numbers', name: 'width' }, { of: 'stocks', name: 'walls' }]); // prettier-ignore
		await userEvent.click(screen.getByRole('button', { name: 'Wood no longer sets stock of walls' }));
		expect(setsOf(design().variations![0] as Variation)).toEqual([{ of: 'numbers', name: 'width' }]);
		await userEvent.click(screen.getByRole('button', { name: 'Remove fine of Wood' }));
		expect(design().variations![0]!.alternatives.map((a) => a.name)).toEqual(['plain', 'rough']);
		const field = screen.getByLabelText('Alternative plain is called');
		await userEvent.clear(field);
		await userEvent.type(field, 'simple{Tab}');
		expect(design().variations![0]).toMatchObject({ chosen: 'simple', alternatives: [{ name: 'simple' }, { name: 'rough' }] });
	});
	it('says with which alternatives something is there', async () => {
		begin({ variations: [] });
		begin({ variations: withVariation(work.project!.design, 'Lettering', ['engraved', 'glued'], []).variations });
		render(ThereWith, { kind: 'features', id: 'text-1', label: 'BEANS' });
		await userEvent.click(screen.getByLabelText('engraved'));
		expect(goneWith(last().design, 'features', 'text-1')).toEqual([{ variation: 'Lettering', alternative: 'engraved' }]);
		expect(goneWith(thereNow(last().design, 'features', 'text-1'), 'features', 'text-1')).toEqual([]);
		expect(variantCount({ ...last().design, items: [{ design: last().design }] } as unknown as Design)).toBe(2);
	});
});

describe('a panel that is taken away', () => {
	it('leaves nothing behind for the next one of its name', () => {
		const d = {
			added: [{ id: 'plate-1' }, { id: 'plate-2' }],
			edits: { 'plate-1': { stock: '4' }, front: { copies: 2 } },
			choices: { 'front+plate-1': { feel: 'snug' }, 'front+left': { feel: 'slides' } },
			features: [{ panel: 'plate-1', id: 'hole-1' }],
			splits: [{ panel: 'plate-1', at: 5 }],
			pins: []
		} as unknown as Design;
		const left = withoutPanel(d, 'plate-1');
		expect(left).toMatchObject({
			added: [{ id: 'plate-2' }],
			edits: { front: { copies: 2 } },
			choices: { 'front+left': { feel: 'slides' } }
		});
		expect([left.features, left.splits]).toEqual([[], []]);
		expect(Object.keys(left.edits!)).toEqual(['front']);
		expect(namesIn({ ...left, edits: { 'plate-1': {} } } as unknown as Design, [])).toContain('plate-1');
	});
});
