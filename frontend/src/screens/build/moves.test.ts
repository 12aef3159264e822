/** Where panels and items are moved to: snaps, lining up, dragging, and places and names for what is new. */
import { describe, expect, it } from 'vitest';
import { upright } from '../../../tests/samples';
import type { Added, BuildOut, Design, PartOut } from '../../api/types';
import { itemDragged, turnsOf } from './dragging';
import { dragged, feetOn } from './feet';
import { clearOf, freshName, lineUp, mirrorBeside, nextSnap, rangeOf, snapsOf } from './moves';

const out = {
	parts: [upright('left', 'Left side', 0), upright('right', 'Right side', 177), upright('column-1', 'Column divider 1', 90, 50)]
} as BuildOut;

describe('places', () => {
	it('are told along each axis, and snap to the faces of others', () => {
		const [left, right, divider] = out.parts as [PartOut, PartOut, PartOut];
		expect(rangeOf(divider, 0)).toEqual([90, 93]);
		expect(rangeOf(right, 1)).toEqual([0, 100]);
		expect(snapsOf([divider], out.parts, 0)).toEqual([-93, -90, -90, -90, -87, 84, 87, 87, 87, 90]);
		expect(nextSnap(divider, out.parts, 2, true)).toBe(5); // its middle to the middle of the sides
		expect(nextSnap(left, [left], 0, true)).toBeNull();
	});
	it('line up at their ends, their middles, or face on face', () => {
		const [left, right, divider] = out.parts as [PartOut, PartOut, PartOut];
		expect((['low', 'middle', 'high', 'beside'] as const).map((how) => lineUp(divider, right, 0, how))).toEqual([87, 87, 87, 84]);
		expect((['low', 'middle', 'high', 'beside'] as const).map((how) => lineUp(divider, left, 2, how))).toEqual([0, 5, 10, -50]);
	});
	it('are changed by dragging an item with all that stands in it, unless its host is turned', async () => {
		const of = (item: string, id: string, x: number) => ({ ...upright(`${item}:${id}`, `${item}: ${id}`, x), item }) as PartOut;
		const build = {
			out: { ...out },
			panel: '',
			get part() {
				return this.out.parts.find((p) => p.id === this.panel) ?? null;
			}
		};
		build.out = { ...out, parts: [...out.parts, of('tray', 'front', 200), of('cup', 'front', 210), of('peg', 'front', 190)] };
		const items = [
			{ id: 'tray', label: 'Tray', design: {}, at: [1, 0, 0], joined: { host: 'main' } },
			{ id: 'cup', label: 'Cup', design: {}, loose: { host: 'tray', room: 'room-1' } },
			{ id: 'peg', label: 'Peg', design: {}, turn: 90 },
			{ id: 'cap', label: 'Cap', design: {}, loose: { host: 'peg', room: 'room-1', over: true } }
		];
		const project = { design: { items } as unknown as Design };
		let saved: Design | null = null;
		const state = { project, saveWhole: async (change: (d: Design) => Design) => void (saved = change(project.design)) };
		build.panel = 'tray:front';
		const tray = itemDragged(build as never, state as never)!;
		expect([...tray.along]).toEqual(['tray:front', 'cup:front']);
		expect(tray.snaps(0)).toContain(-20); // the tray and its cup, from 200 to 213, right beside the right side's outer face
		await tray.save({ axis: 0, by: -20, met: true });
		expect((saved as Design | null)!.items![0]!.at).toEqual([-19, 0, 0]);
		expect(tray.turns).toEqual([]); // joined: it turns with its host
		build.panel = 'peg:front';
		const peg = itemDragged(build as never, state as never)!;
		expect(peg.turns!.map((t) => [t.key, t.way.map((v) => Math.round(v))])).toEqual([['turn', [0, 0, 1]], ['tip', [0, 1, 0]]]); // prettier-ignore
		await peg.save({ turn: peg.turns![0]!, by: 120, met: true });
		expect((saved as Design | null)!.items![2]!.turn).toBe(-150); // a whole turn less
		await peg.save({ turn: peg.turns![1]!, by: -30, met: true });
		expect((saved as Design | null)!.items![2]!.tip).toBe(-30);
		build.panel = 'left';
		expect(itemDragged(build as never, state as never)).toBeNull(); // the first stands where it stands
		build.out = { ...build.out, parts: [...build.out.parts, of('cap', 'front', 300)] };
		build.panel = 'cap:front';
		expect(itemDragged(build as never, state as never)).toBeNull();
	});
	it('are turned about their own lines, as long as the tilt has those', () => {
		const part = out.parts[2] as PartOut;
		const keys = (tilt: object) => turnsOf(part, { tip: 0, swing: 0, spin: 0, ...tilt }).map((t) => t.key);
		expect([keys({}), keys({ tip: 5 }), keys({ swing: 5 }), keys({ spin: 5 })]).toEqual([['spin', 'swing', 'tip'], ['spin', 'swing', 'tip'], ['spin', 'swing'], ['spin']]); // prettier-ignore
	});
	it('of copies are clear of other copies, and of what the original does not touch', () => {
		const divider = out.parts[2] as PartOut;
		expect(clearOf(divider, out.parts, 0, 10)).toBe(13); // itself, and a gap
		expect(mirrorBeside(divider, out.parts, 0, 10)).toBe(98); // its image from 103 to 106
		const copy = upright('copy', 'Column divider 1, copy', 103, 50);
		expect(clearOf(divider, [...out.parts, copy], 0, 10)).toBe(26);
		expect(mirrorBeside(divider, [...out.parts, copy], 0, 10)).toBe(104.5);
		const floor = upright('floor', 'A floor that it stands through', 0, 50);
		floor.profile = { ...divider.profile, outer: [[0, 0], [100, 0], [100, 50], [0, 50]] } as never; // prettier-ignore
		expect(clearOf(divider, [...out.parts, copy, { ...floor, low: 0, high: 200 }], 0, 10)).toBe(26); // the copy may stand through it too
	});
	it('get names that nothing has yet', () => {
		expect(freshName('plate', new Set(['plate-1', 'plate-2']))).toBe('plate-3');
	});
});

describe('the feet of added panels', () => {
	const wall = upright('left', 'Left side', 0);
	const other = upright('right', 'Right side', 177);
	/** lies level at a height, from wall to wall */
	const level = (z: number, rise = 0) => {
		const long = Math.hypot(100, rise);
		return {
			...upright('ramp', 'Ramp', 0),
			pose: { origin: [0, 0, z], x: [1, 0, 0], y: [0, 100 / long, rise / long] },
			low: -1.5,
			high: 1.5,
			profile: { outer: [[0, 0], [180, 0], [180, long], [0, long]], holes: [], circles: [] } // prettier-ignore
		} as unknown as PartOut;
	};
	// square to x, the low end of what stands square to z between two panels that face along x is the front one
	const ramp = { kind: 'between', id: 'ramp', a: 'left', b: 'right', axis: 'z', at: 20, rise: 30, over: 5 } as Added;

	it('lie where the middle of the sheet meets the panel, and change what is dragged alone', () => {
		const feet = (host: PartOut) => feetOn(host, [wall, other, level(20, 30)], [ramp, { ...ramp, id: 'gone' }]);
		const [foot] = feet(wall);
		expect(feet(wall)).toHaveLength(1);
		expect(foot!.line.flat().map((v) => Math.round(v * 1e6) / 1e6)).toEqual([0, 20, 100, 50]);
		expect(foot!.way).toEqual([0, 1]);
		const changed = (f: typeof foot, which: string) =>
			dragged(
				ramp,
				f!.grips.find((g) => g.which === which)!,
				4
			);
		expect(changed(foot, 'low')).toEqual({ ...ramp, at: 24, rise: 26 }); // its other end stays
		expect(changed(foot, 'high')).toEqual({ ...ramp, rise: 34 });
		expect(changed(foot, 'whole')).toEqual({ ...ramp, at: 24, over: 1 }); // on the other panel it stays
		expect(changed(feet(other)[0], 'whole')).toEqual({ ...ramp, over: 9 });
		expect(feetOn(level(40), [wall, other, level(20)], [ramp])).toEqual([]); // it stands on others
	});
	it('of a brace go away from the corner, whichever way the panels look', () => {
		const floor = { ...level(0), id: 'floor', panel: 'floor' } as PartOut;
		const sheet = {
			...upright('brace', 'Brace', 0),
			pose: { origin: [40, 0, 0], x: [0, 1, 0], y: [-Math.SQRT1_2, 0, Math.SQRT1_2] }
		} as unknown as PartOut;
		const item = { kind: 'brace', id: 'brace', a: 'left', b: 'floor', on_a: 38.5, on_b: 38.5 } as Added;
		const [up] = feetOn(wall, [wall, floor, sheet], [item]);
		const [along] = feetOn(floor, [wall, floor, sheet], [item]);
		expect(up!.way.map(Math.round)).toEqual([0, 1]);
		expect(along!.way.map(Math.round)).toEqual([1, 0]);
		expect(up!.grips.map((g) => dragged(item, g, 2))).toEqual([{ ...item, on_a: 40.5 }]);
		expect(along!.grips.map((g) => dragged(item, g, -60))).toEqual([{ ...item, on_b: 1 }]); // never into the corner
	});
});
