/** What stands on panels: again in rows and mirrored, no larger than there is room, and where a new one begins. */
import { describe, expect, it } from 'vitest';
import type { Feature } from '../../api/types';
import { fitting, freePlace, inRow, mirroredFeature } from './features';

describe('what is on a panel, again', () => {
	const hole = { kind: 'hole', id: 'hole-1', panel: 'a', anchor: 'top_left', x: 12, y: -5, diameter: 6 } as unknown as Feature;
	it('stands in a row with names of its own', () => {
		const row = inRow(hole, 2, 25.4, 0, new Set(['hole-1', 'hole-2']));
		expect(row).toMatchObject([
			{ id: 'hole-3', x: 37.4, y: -5 },
			{ id: 'hole-4', x: 62.8, y: -5 }
		]);
	});
	it('is mirrored about the middle of its panel, and what has a hand is mirrored itself', () => {
		expect(mirroredFeature(hole, 'm')).toMatchObject({ id: 'm', anchor: 'top_right', x: -12, y: -5 });
		const art = { ...hole, kind: 'artwork', anchor: 'centre', turn: 30, drawn: 'plain' } as unknown as Feature;
		expect(mirroredFeature(art, 'm')).toMatchObject({ anchor: 'centre', x: -12, turn: -30, drawn: 'mirrored' });
		const ring = { ...hole, kind: 'ring', start: 0, sweep: 90 } as unknown as Feature;
		expect(mirroredFeature(ring, 'm')).toMatchObject({ start: 90 });
		expect(mirroredFeature(mirroredFeature(ring, 'm'), 'n')).toMatchObject({ start: 0, x: 12, anchor: 'top_left' });
	});

	it('start no larger than their panel has room for', () => {
		const words = { words: 'MOSSGATE', cap: 10 };
		expect(fitting('text', words, { w: 300, h: 100 })).toEqual({ cap: 10 });
		expect(fitting('text', words, { w: 39.7, h: 59.7 })).toEqual({ cap: 5 });
		expect(fitting('window', { width: 40, height: 30, radius: 3 }, { w: 20, h: 60 })).toEqual({ width: 12, height: 30, radius: 3 });
		expect(fitting('ring', { radius: 25 }, { w: 40, h: 80 })).toEqual({ radius: 14 });
		expect(fitting('scale', { run: 101.6 }, { w: 60, h: 80 })).toEqual({ run: 54 });
		expect(fitting('hole', { diameter: 6 }, { w: 4, h: 4 })).toEqual({});
	});
	it('begin beside what is there, and over it only where there is no other room', () => {
		const line = (id: string, x: number) => ({ kind: 'fold', id, panel: 'a', anchor: 'centre', x, y: 0 }) as unknown as Feature;
		const made = { kind: 'fold', anchor: 'centre', x: 0, y: 0 };
		const panel = { w: 50, h: 30 };
		expect(freePlace(made, [], panel)).toEqual({});
		expect(freePlace(made, [line('f-1', 40), { ...hole, anchor: 'left', x: 0, y: 0 } as Feature], panel)).toEqual({});
		expect(freePlace(made, [line('f-1', 0)], panel)).toEqual({ x: 10, y: 0 });
		expect(freePlace(made, [line('f-1', 0), line('f-2', 10)], panel)).toEqual({ x: -10, y: 0 });
		expect(
			freePlace(
				made,
				[-20, -10, 0, 10, 20].map((x) => line(`f${x}`, x)),
				panel
			)
		).toEqual({});
		const words = { kind: 'text', anchor: 'centre', x: 0, y: 0, cap: 6 };
		expect(freePlace(words, [{ ...words, id: 't', panel: 'a' } as unknown as Feature], panel)).toEqual({});
		expect(freePlace(words, [{ ...words, id: 't', panel: 'a' } as unknown as Feature], { w: 50, h: 60 })).toEqual({ x: 0, y: -12 });
	});
});
