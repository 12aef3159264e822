/** Stocks, a rack and a card as the server sends them, for component tests. */
import { written } from './written';
import type { CardOut, Rack, RackRow, StockOut, PartOut } from '../src/api/types';

export const quantity = (value: number, sd: number, trust = 'measured') => ({
	value,
	sd,
	terms: [{ kind: 'measured', label: written(''), value, sd, source: written('3 tests'), on: null, trust }]
});
const beam = (power: number, speed: number) => ({ power, speed, passes: 1, pulses: 0, focus: 0, air: true, interval: 0.1 });
export const wood = {
	rattles: 0.25,
	slides: 0.08,
	snug: -0.05,
	mallet: -0.2,
	sds: [0.06, 0.05, 0.05, 0.06],
	source: written('default for wood'),
	trust: 'default',
	answers: 0,
	anchored: ''
};

export const stock = (more: object = {}) =>
	({
		value: {
			id: '4',
			name: 'Birch ply 3, batch 12',
			material: 'plywood',
			label: 3,
			colour: '#e9d2a6',
			thickness: quantity(3.08, 0.03),
			kerf: quantity(0.158, 0.01),
			findings: [],
			hazard: null
		},
		shelf: 'shelf B',
		batch: '12',
		look: '',
		film: 'none',
		warp: '',
		finish: '',
		crush: 0,
		lab: null,
		lab_finished: null,
		material_label: 'Plywood',
		substance: { id: 'plywood.bare', material: 'plywood', label: 'bare', verdict: 'allowed', why: '' },
		confirmed_by: '',
		confirmed_on: null,
		confirmed_data: '',
		caution: 'Stay with the machine.',
		flares: true,
		readings: [{ id: 1, thickness_mm: 3.08, x: 0.5, y: 0.5, on: '2026-11-20', by: 'alder', withdrawn: false, borrowed: '' }],
		spread: { count: 1, range_mm: 0, mean_sd_mm: 0.08 },
		kerf_tests: [
			{
				id: 9,
				kind: 'gap',
				drawn_mm: 5,
				measured_mm: 5.16,
				below_mm: null,
				count: 1,
				kerf_mm: 0.16,
				pooled_mm: 0.16,
				pooled_sd_mm: 0.02,
				setting: written('62 %'),
				on: '2026-11-20',
				by: 'alder',
				withdrawn: false,
				borrowed: ''
			}
		],
		taper_deg: null,
		feels: [],
		fits: [
			{
				mate: '4',
				name: 'Birch ply 3, batch 12',
				colour: '#e9d2a6',
				boundaries: wood,
				targets: { slides: 0.165, snug: 0.015, mallet: -0.125 },
				chance: 0.7,
				sd_mm: 0.045,
				drawn_mm: 2.937
			}
		],
		sheets: [
			{
				id: 3,
				name: 'Birch ply 3, 600 × 400',
				width_mm: 600,
				height_mm: 400,
				count: 6,
				price: 7.5,
				place: '',
				grain: 'along',
				is_offcut: false,
				outline: []
			}
		],
		settings: { cut: beam(62, 14), score: beam(12, 120), engrave: beam(20, 250), source: 'power card', on: null, borrowed: false },
		settings_history: [],
		default_kerf_mm: 0.18,
		advice: [],
		row: row('4'),
		machine: '1',
		...more
	}) as unknown as StockOut;

export const row = (id: string, material = 'plywood', more: object = {}) =>
	({
		id,
		name: `Stock ${id}`,
		material,
		material_label: material,
		colour: '#e9d2a6',
		label_mm: 3,
		thickness_mm: 3.08,
		guess: false,
		kerf_guess: false,
		kerf_on: null,
		verdict: 'allowed',
		shelf: 'shelf B',
		batch: '12',
		whole: 6,
		offcuts: 1,
		...more
	}) as RackRow;

const material = (id: string, substances: object[], looks: string[] = []) => ({
	id,
	label: id,
	colour: '#ddccaa',
	looks: Object.fromEntries(looks.map((l) => [l, l])),
	soft: false,
	flares: true,
	grained: id === 'plywood',
	plies: id === 'plywood',
	caution: '',
	substances
});
export const machine = {
	id: '1',
	name: 'Alder desk laser',
	bed_width: 620,
	bed_height: 420,
	lenses: [
		{ id: 'two_inch', name: '2 in lens', spot: 0.12 },
		{ id: 'four_inch', name: '4 in lens', spot: 0.2 }
	],
	lens: 'two_inch',
	kerf_place: 'paths',
	convention_name: 'shop convention',
	engrave: { colour: '#5b4a8a', line_width: 0.05, layer: '1-engrave' },
	score: { colour: '#1f6fb2', line_width: 0.1, layer: '2-score' },
	inner: { colour: '#c2410c', line_width: 0.05, layer: '3-inner-cut' },
	outer: { colour: '#7c2d12', line_width: 0.05, layer: '4-outer-cut' }
};
export const rackOf = (stocks: RackRow[]) =>
	({
		stocks,
		materials: [
			material('plywood', [{ id: 'plywood.bare', material: 'plywood', label: 'bare', verdict: 'allowed', why: '' }]),
			material('plastic', [
				{ id: 'plastic.pvc', material: 'plastic', label: 'PVC, vinyl', verdict: 'forbidden', why: 'it gives off chlorine' },
				{ id: 'plastic.abs', material: 'plastic', label: 'ABS', verdict: 'needs_data', why: 'it melts' }
			])
		],
		machines: [machine]
	}) as unknown as Rack;

const ring = (x: number, w: number) => [
	[x, 0],
	[x + w, 0],
	[x + w, 20],
	[x, 20]
];
/** A card with three places. */
export const card = (kind: string, what: string, more: object = {}) =>
	({
		id: 7,
		project: 12,
		kind,
		name: 'Test card',
		tongue: '4',
		by: 'alder',
		created: '2026-11-25T08:00:00Z',
		asked: 3,
		entered: 0,
		depth: null,
		least_text_mm: null,
		least_web_mm: null,
		numbers: {},
		pieces: [
			{ id: 'a', label: 'a', stock: '4', colour: '#e9d2a6', at: [0, 0], profile: { outer: ring(0, 60), holes: [], circles: [] }, marks: [] }
		],
		cells: [0, 1, 2].map((i) => ({
			id: `c${i}`,
			part: 'a',
			label: `2.${90 + i}`,
			box: [10 + 15 * i, 5, 16 + 15 * i, 15],
			value: 2.9 + i / 100,
			second: 60,
			what
		})),
		planned: true,
		minutes: 4.2,
		found: {
			entered: 0,
			results: [],
			best: null,
			best_by_char: [],
			depths: [],
			best_cell: null,
			depth: null,
			least_text_mm: null,
			least_web_mm: null,
			why_not: '',
			contradicting: []
		},
		...more
	}) as unknown as CardOut;

const about = (name: string, label: string, kind: string, more: object = {}) => ({
	name,
	label,
	kind,
	group: 'Sizes',
	least: 0,
	most: 3000,
	none_at_zero: false,
	scales: true,
	options: [],
	only: null,
	says: '',
	...more
});
const options = (...some: string[]) => some.map((value) => ({ value, label: value.replace('_', '-') }));
export const picture = {
	faces: [{ part: 'front', stock: '4', ring: [[0, 0], [200, 0], [200, 60]], holes: [], light: 1 }], // prettier-ignore
	lines: [{ name: 'width', start: [0, 0], end: [200, 0] }],
	bounds: [0, 0, 200, 60]
};
export const boxNumbers = {
	family: 'box',
	width: 214,
	depth: 150,
	height: 62,
	sizing: 'outside',
	top: 'lift_off',
	columns: 3,
	rows: 2,
	divider_drop: 0,
	thumb_notch: 36,
	lid_hole: 24
};
/** The box and the stand, with some of their numbers, as the server describes them. */
export const families = [
	{
		id: 'box',
		label: 'Box',
		says: 'Open, or with a lid.',
		caution: '',
		roles: options('walls', 'base', 'dividers', 'lid').map((o) => ({ id: o.value, label: o.value[0]!.toUpperCase() + o.value.slice(1) })),
		first: ['width', 'depth', 'height'],
		numbers: [
			about('width', 'Width', 'length'),
			about('depth', 'Depth', 'length'),
			about('height', 'Height', 'length'),
			about('columns', 'Columns, side by side', 'count', { group: 'Compartments' }),
			about('top', 'Top', 'choice', { group: 'Top', options: options('open', 'fixed', 'lift_off') }),
			about('lid_hole', 'Finger hole in the lid', 'length', { group: 'Top', none_at_zero: true, only: ['top', ['fixed', 'lift_off']] })
		],
		defaults: { ...boxNumbers, width: 180, depth: 120, height: 60, columns: 1, rows: 1, top: 'open' },
		picture,
		colour: '#e8cfa0'
	},
	{
		id: 'stand',
		label: 'Stand',
		says: 'Figures that stand in a base.',
		caution: '',
		roles: [{ id: 'figure', label: 'Figure' }],
		first: ['width'],
		numbers: [about('width', "Figure's width", 'length')],
		defaults: { family: 'stand', width: 160 },
		picture,
		colour: '#e8cfa0'
	}
];
export const featureTypes = [
	{
		id: 'hole',
		label: 'Hole, or rows of holes',
		numbers: [about('diameter', 'Diameter', 'length'), about('x', 'To the right', 'length', { group: 'Place', least: -3000 })],
		defaults: { kind: 'hole', id: 'new', panel: 'panel', anchor: 'centre', x: 0, y: 0, diameter: 6 }
	},
	{
		id: 'text',
		label: 'Text',
		numbers: [about('words', 'Text', 'text')],
		defaults: { kind: 'text', id: 'new', panel: 'panel', anchor: 'centre', x: 0, y: 0, words: 'MOSSGATE' }
	}
];

/** A sheet of w x h standing at x, its normal to the right, 3 mm thick. */
export const upright = (id: string, label: string, x: number, h = 60) =>
	({
		id,
		panel: id,
		label,
		stock: '4',
		pose: { origin: [x, 0, 0], x: [0, 1, 0], y: [0, 0, 1] },
		low: 0,
		high: 3,
		profile: { outer: [[0, 0], [100, 0], [100, h], [0, h]], holes: [], circles: [] }, // prettier-ignore
		marks: [],
		features: [],
		copies: 1,
		spares: 0,
		helper: false
	}) as unknown as PartOut;
