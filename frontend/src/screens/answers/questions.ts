/** The ten questions, and what each needs to know. */
import type { Ask } from '../../api/types';
import { word } from '../../words/words';

type Field = { key: keyof Ask; name: string; as: 'length' | 'fine' | 'finest' | 'count' | 'number'; suffix?: string; usual?: number };
export interface Question {
	kind: Ask['kind'];
	name: string;
	asks: string;
	sheet?: string;
	mate?: string;
	feel?: boolean;
	fields: Field[];
	start?: Partial<Ask>;
}

const ANGLE: Field = { key: 'angle', name: word('answers.angle'), as: 'number', suffix: '°' };
export const QUESTIONS: Question[] = [
	{
		kind: 'slot',
		name: word('answers.slot'),
		asks: word('answers.how-wide-is-a-slot-drawn'),
		sheet: word('answers.the-slot-is-cut-in'),
		mate: word('answers.what-enters'),
		feel: true,
		fields: []
	},
	{
		kind: 'tab',
		name: word('answers.tab'),
		asks: word('answers.how-is-a-tab-drawn-and'),
		sheet: word('answers.the-tab-is-part-of'),
		mate: word('answers.it-goes-through'),
		fields: [
			{ key: 'width', name: word('answers.tab-width'), as: 'fine' },
			{ key: 'proud', name: word('answers.stands-proud'), as: 'fine', usual: 0 }
		],
		start: { width: 12 }
	},
	{
		kind: 'kerf',
		name: word('answers.kerf'),
		asks: word('answers.how-wide-a-line-does-the'),
		fields: [
			{ key: 'count', name: word('answers.strips-2'), as: 'count' },
			{ key: 'drawn', name: word('answers.each-drawn'), as: 'fine' },
			{ key: 'measured', name: word('answers.it-measures'), as: 'fine' }
		],
		start: { count: 10, drawn: 10, measured: 98.4 }
	},
	{
		kind: 'angled',
		name: word('answers.angled-slot'),
		asks: word('answers.how-wide-for-a-sheet-that'),
		sheet: word('answers.the-slot-is-cut-in'),
		mate: word('answers.what-enters'),
		feel: true,
		fields: [ANGLE],
		start: { angle: 60 }
	},
	{
		kind: 'roof',
		name: word('answers.roof-panel'),
		asks: word('answers.how-long-is-a-roof-panel'),
		sheet: word('answers.the-panel-is'),
		mate: word('answers.the-wall-is'),
		fields: [
			{ key: 'length', name: word('answers.run-ridge-to-wall'), as: 'length' },
			ANGLE,
			{ key: 'eaves', name: word('answers.eaves-along-the-slope'), as: 'length' }
		],
		start: { length: 90, angle: 35, eaves: 15 }
	},
	{
		kind: 'turned',
		name: word('answers.turned-layer'),
		asks: word('answers.how-far-is-one-layer-of'),
		fields: [
			{ key: 'count', name: word('answers.layers'), as: 'count' },
			{ key: 'layer', name: word('answers.this-one-from-0'), as: 'count' },
			{ key: 'twist', name: word('answers.twist-of-the-whole'), as: 'number', suffix: '°' }
		],
		start: { count: 13, layer: 4, twist: 90 }
	},
	{
		kind: 'pitch',
		name: word('answers.pitch-and-gap'),
		asks: word('answers.how-are-equal-things-spread-over'),
		sheet: word('answers.in-a-sheet-of'),
		fields: [
			{ key: 'length', name: word('answers.length'), as: 'length' },
			{ key: 'count', name: word('answers.how-many'), as: 'count' },
			{ key: 'width', name: word('answers.each-wide'), as: 'fine' }
		],
		start: { length: 200, count: 8, width: 12 }
	},
	{
		kind: 'sheets',
		name: word('answers.sheets-needed'),
		asks: word('answers.how-many-sheets-do-equal-parts'),
		fields: [
			{ key: 'count', name: word('answers.parts'), as: 'count' },
			{ key: 'width', name: word('answers.part-width'), as: 'length' },
			{ key: 'height', name: word('answers.part-height'), as: 'length' },
			{ key: 'sheet_width', name: word('answers.sheet-width'), as: 'length', usual: 600 },
			{ key: 'sheet_height', name: word('answers.sheet-height'), as: 'length', usual: 400 },
			{ key: 'spacing', name: word('answers.between-parts'), as: 'fine', usual: 2 },
			{ key: 'margin', name: word('answers.margin'), as: 'length', usual: 5 },
			{ key: 'price', name: word('answers.price-of-a-sheet'), as: 'number' }
		],
		start: { count: 60, width: 60, height: 40, price: 7.5 }
	},
	{
		kind: 'scale',
		name: word('answers.scale'),
		asks: word('answers.how-long-is-it-in-the'),
		fields: [
			{ key: 'n', name: word('answers.scale-1-to'), as: 'number' },
			{ key: 'real', name: word('answers.in-reality'), as: 'length' },
			{ key: 'model', name: word('answers.or-in-the-model'), as: 'fine' },
			{ key: 'wanted', name: word('answers.real-thickness-wanted'), as: 'length' }
		],
		start: { n: 24, real: 2400, wanted: 50 }
	},
	{
		kind: 'inches',
		name: word('answers.inch-fractions'),
		asks: word('answers.what-is-a-length-in-the'),
		fields: [{ key: 'length', name: word('answers.length'), as: 'finest' }],
		start: { length: 3.175 }
	}
];
