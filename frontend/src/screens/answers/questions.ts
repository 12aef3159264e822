/** The ten questions, and what each needs to know. */
import type { Ask } from '../../api/types';

type Field = { key: keyof Ask; name: string; as: 'length' | 'fine' | 'finest' | 'count' | 'number'; suffix?: string };
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

const ANGLE: Field = { key: 'angle', name: 'Angle', as: 'number', suffix: '°' };
export const QUESTIONS: Question[] = [
	{
		kind: 'slot',
		name: 'Slot',
		asks: 'How wide is a slot drawn?',
		sheet: 'The slot is cut in',
		mate: 'What enters',
		feel: true,
		fields: []
	},
	{
		kind: 'tab',
		name: 'Tab',
		asks: 'How is a tab drawn, and how long is it?',
		sheet: 'The tab is part of',
		mate: 'It goes through',
		fields: [
			{ key: 'width', name: 'Tab width', as: 'fine' },
			{ key: 'proud', name: 'Stands proud', as: 'fine' }
		],
		start: { width: 12 }
	},
	{
		kind: 'kerf',
		name: 'Kerf',
		asks: 'How wide a line does the beam remove?',
		fields: [
			{ key: 'count', name: 'Strips', as: 'count' },
			{ key: 'drawn', name: 'Each drawn', as: 'fine' },
			{ key: 'measured', name: 'It measures', as: 'fine' }
		],
		start: { count: 10, drawn: 10, measured: 98.4 }
	},
	{
		kind: 'angled',
		name: 'Angled slot',
		asks: 'How wide for a sheet that leans?',
		sheet: 'The slot is cut in',
		mate: 'What enters',
		feel: true,
		fields: [ANGLE],
		start: { angle: 60 }
	},
	{
		kind: 'roof',
		name: 'Roof panel',
		asks: 'How long is a roof panel along its slope?',
		sheet: 'The panel is',
		mate: 'The wall is',
		fields: [
			{ key: 'length', name: 'Run, ridge to wall', as: 'length' },
			ANGLE,
			{ key: 'eaves', name: 'Eaves along the slope', as: 'length' }
		],
		start: { length: 90, angle: 35, eaves: 15 }
	},
	{
		kind: 'turned',
		name: 'Turned layer',
		asks: 'How far is one layer of a twisted stack turned?',
		fields: [
			{ key: 'count', name: 'Layers', as: 'count' },
			{ key: 'layer', name: 'This one, from 0', as: 'count' },
			{ key: 'twist', name: 'Twist of the whole', as: 'number', suffix: '°' }
		],
		start: { count: 13, layer: 4, twist: 90 }
	},
	{
		kind: 'pitch',
		name: 'Pitch and gap',
		asks: 'How are equal things spread over a length?',
		sheet: 'In a sheet of',
		fields: [
			{ key: 'length', name: 'Length', as: 'length' },
			{ key: 'count', name: 'How many', as: 'count' },
			{ key: 'width', name: 'Each wide', as: 'fine' }
		],
		start: { length: 200, count: 8, width: 12 }
	},
	{
		kind: 'sheets',
		name: 'Sheets needed',
		asks: 'How many sheets do equal parts take?',
		fields: [
			{ key: 'count', name: 'Parts', as: 'count' },
			{ key: 'width', name: 'Part width', as: 'length' },
			{ key: 'height', name: 'Part height', as: 'length' },
			{ key: 'sheet_width', name: 'Sheet width', as: 'length' },
			{ key: 'sheet_height', name: 'Sheet height', as: 'length' },
			{ key: 'spacing', name: 'Between parts', as: 'fine' },
			{ key: 'margin', name: 'Margin', as: 'length' },
			{ key: 'price', name: 'Price of a sheet', as: 'number' }
		],
		start: { count: 60, width: 60, height: 40, price: 7.5 }
	},
	{
		kind: 'scale',
		name: 'Scale',
		asks: 'How long is it in the model, and which stock stands for it?',
		fields: [
			{ key: 'n', name: 'Scale 1 to', as: 'number' },
			{ key: 'real', name: 'In reality', as: 'length' },
			{ key: 'model', name: 'or in the model', as: 'fine' },
			{ key: 'wanted', name: 'Real thickness wanted', as: 'length' }
		],
		start: { n: 24, real: 2400, wanted: 50 }
	},
	{
		kind: 'inches',
		name: 'Inch fractions',
		asks: 'What is a length in the other units?',
		fields: [{ key: 'length', name: 'Length', as: 'finest' }],
		start: { length: 3.175 }
	}
];
