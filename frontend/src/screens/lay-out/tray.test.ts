/** What is wanted and lies of each part, and what a person wishes of it. */
import { render, screen } from '@testing-library/svelte';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { LayoutOut } from '../../api/types';
import Tray from './Tray.svelte';
import { countsOf, groupOf, inGroup, otherSheets, itemsOf, onlyOf } from './tray';

const part = (id: string, more = {}) => ({
	id,
	label: id.toUpperCase(),
	stock: '1',
	copies: 1,
	spares: 0,
	helper: false,
	turns: [0],
	...more
});
const out = (placed: string[] | null) =>
	({
		parts: [part('base'), part('pin', { copies: 4, spares: 2 }), part('jig', { helper: true })],
		nesting: placed && { sheets: [{ placements: placed.map((p, k) => ({ part: p, copy: k })) }] },
		request: { copies: 3 }
	}) as unknown as LayoutOut;
const request = (more = {}) => ({ copies: 3, only: {}, ...more }) as unknown as LayoutOut['request'];

describe('the parts tray', () => {
	it('counts copies, spares and helpers, and shows what is missing first', () => {
		expect(countsOf(out(null), request()).map((r) => [r.id, r.wanted])).toEqual([
			['base', 3],
			['pin', 14],
			['jig', 1]
		]);
		const rows = countsOf(out(['base', 'base', 'base', 'jig', 'pin']), request());
		expect(rows.map((r) => [r.id, r.placed])).toEqual([
			['pin', 1],
			['base', 3],
			['jig', 1]
		]);
		expect(countsOf(out(null), request({ only: { pin: 2 } })).map((r) => r.wanted)).toEqual([0, 2, 0]);
	});
	it('keeps groups by letter, a part in one of them at most', () => {
		const two = request({ together: [['base'], ['pin', 'jig']] });
		expect(groupOf(two, 'jig')).toBe('B');
		expect(inGroup(two, 'pin', 'A')).toEqual([['base', 'pin'], ['jig']]);
		expect(inGroup(request({ together: [['base']] }), 'base', '')).toEqual([]);
		expect(inGroup(request(), 'base', 'B')).toEqual([[], ['base']]);
	});
	it('offers other sheets of the stock: the next free one of each kind, and those in use in exchange', () => {
		const sheet = (id: string, copy: number, stock = '1') => ({ sheet: id, copy, stock });
		const some = {
			nesting: { sheets: [sheet('w', 0), sheet('w', 1), sheet('n', 0, '2')] },
			shelf: [
				{ id: 'w', stock: '1', name: 'Whole', count: 3 },
				{ id: 'o', stock: '1', name: 'Offcut', count: 1 },
				{ id: 'n', stock: '2', name: 'Other', count: 5 }
			]
		} as unknown as LayoutOut;
		expect(otherSheets(some, { sheet: 'w', copy: 0 })).toEqual([
			{ sheet: 'w', copy: 1, name: 'Whole, copy 2, in exchange' },
			{ sheet: 'o', copy: 0, name: 'Offcut' }
		]);
		expect(otherSheets(some, { sheet: 'n', copy: 0 })).toEqual([]);
	});
	it('takes wishes for a part', async () => {
		const onchange = vi.fn();
		render(Tray, { out: out(null), request: request({ fill: { pin: 3 } }), onchange });
		expect(screen.getByText('up to 3 more')).toBeInTheDocument();
		await userEvent.click(screen.getByRole('button', { name: /BASE/ }));
		await userEvent.selectOptions(screen.getByLabelText('May turn'), 'half');
		expect(onchange.mock.calls.at(-1)![0].turns).toEqual({ base: 'half' });
		await userEvent.click(screen.getByLabelText(/in rows/));
		expect(onchange.mock.calls.at(-1)![0].rows).toEqual(['base']);
		await userEvent.selectOptions(screen.getByLabelText('Stays on one sheet with'), 'A');
		expect(onchange.mock.calls.at(-1)![0].together).toEqual([['base']]);
	});
});

describe('items', () => {
	const of = (id: string, label: string, copies = 1) => ({ id, label, stock: '1', copies, spares: 0, helper: false });
	const two = {
		parts: [of('back', 'Case: Back'), of('drawer-1:base', 'Drawer 1: Base', 2), of('drawer-1:front', 'Drawer 1: Front')]
	} as unknown as LayoutOut;
	it('are told by the names of their parts, and packed alone as often as wanted', () => {
		expect(itemsOf(two.parts).map((i) => [i.id, i.label, i.parts.length])).toEqual([
			['main', 'Case', 1],
			['drawer-1', 'Drawer 1', 2]
		]);
		expect(itemsOf(two.parts.slice(1))).toEqual([]); // there is nothing to choose
		expect(onlyOf(two, request({ only: { back: 1 } }), ['drawer-1:base', 'drawer-1:front'])).toEqual({
			'drawer-1:base': 6,
			'drawer-1:front': 3
		});
	});
});
