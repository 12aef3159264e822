import { describe, expect, it } from 'vitest';
import type { Design } from '../api/types';
import { bodyOf, freeId, inWhole, ownMeeting, ownName, partOf, rootOf, stocksOf, withBody, withItem } from './items';

const drawer = { numbers: { family: 'box' }, prototype: null } as unknown as Design;
const whole = {
	numbers: { family: 'case' },
	prototype: '9',
	name: 'Case',
	items: [
		{ id: 'drawer-1', label: 'Drawer 1', design: drawer },
		{ id: 'drawer-2', label: 'Drawer 2', design: drawer }
	]
} as unknown as Design;
const taller = (d: Design) => ({ ...d, relief: 1, prototype: 'x', items: [], name: 'other' }) as Design;

describe('items', () => {
	it('are changed one at a time, and nothing of the whole is lost', () => {
		const changed = withBody(whole, 'drawer-2', taller);
		expect(changed.items!.map((i) => i.design.relief)).toEqual([undefined, 1]);
		expect(changed.items![1]!.design.prototype).toBeNull(); // a prototype is the whole project's
		expect(bodyOf(changed, 'drawer-2').relief).toBe(1);
		const first = withBody(whole, 'main', taller);
		expect([first.relief, first.items, first.name]).toEqual([1, whole.items, 'Case']);
		expect(bodyOf(whole, 'gone')).toBe(whole);
	});
	it('have facts of their own; the first one has a name', () => {
		expect(withItem(whole, 'drawer-1', { count: 3 }).items![0]).toMatchObject({ label: 'Drawer 1', count: 3 });
		expect(withItem(whole, 'main', { label: 'Cabinet' }).name).toBe('Cabinet');
	});
	it('are told from their parts by name', () => {
		expect(partOf('drawer-1:front.2')).toEqual({ item: 'drawer-1', part: 'front.2' });
		expect(partOf('front')).toEqual({ item: 'main', part: 'front' });
		expect(ownMeeting('drawer-1', 'drawer-1:back+drawer-1:front#1')).toBe('back+front#1');
		expect(ownName('drawer-1', inWhole('drawer-1', 'front'))).toBe('front');
		expect([inWhole('main', 'front'), inWhole('', 'front')]).toEqual(['front', 'front']);
	});
	it('stand among the parts of what they are joined to', () => {
		const items = [
			{ id: 'cup', design: drawer, joined: { host: 'tray' } },
			{ id: 'tray', design: drawer, joined: { host: 'main' } },
			{ id: 'one', design: drawer, joined: { host: 'two' } },
			{ id: 'two', design: drawer, joined: { host: 'one' } },
			{ id: 'lid', design: drawer, gone: true, joined: { host: 'main' } }
		];
		const joined = { ...whole, items } as unknown as Design;
		expect(['main', 'tray', 'cup', 'one', 'lid', 'none'].map((id) => rootOf(joined, id))).toEqual([
			'main',
			'main',
			'main',
			'one',
			'lid',
			'none'
		]);
		expect(inWhole('bin', 'tray:front')).toBe('tray:front'); // it is named after its own item already
		expect(ownMeeting('bin', 'bin:lid+tray:front')).toBe('lid+tray:front');
	});
	it('name stocks that the whole project needs', () => {
		const item = { ...drawer, stocks: { walls: '1' }, edits: { front: { stock: '2' } } } as unknown as Design;
		const features = [{ kind: 'text', stock: '5' }, { kind: 'artwork', stocks: [{ layer: 'red', stock: '6' }] }, { kind: 'hole' }];
		const all = {
			...whole,
			stocks: { case: '3' },
			features,
			added: [{ kind: 'copy' }, { stock: '4' }],
			items: [{ id: 'a', design: item }]
		};
		expect([...stocksOf(all as unknown as Design)].sort()).toEqual(['1', '2', '3', '4', '5', '6', '9']);
	});
	it('get short names that nothing has yet', () => {
		expect(freeId(whole, 'Drawer 1')).toBe('drawer-1-2');
		expect(freeId(whole, 'Main')).toBe('main-2');
		expect(freeId(whole, 'Süßes!')).toBe('s-es');
		expect(freeId(whole, '···')).toBe('item');
	});
});
