/** What the handles on a picked panel move and turn: the panel itself, or the item that it belongs to with all that stands in it. */
import type { Item, PanelEdit, PartOut } from '../../api/types';
import { FIRST, partOf, rootOf, withItem } from '../../app/items';
import type { ProjectState } from '../../app/project.svelte';
import { session } from '../../app/session.svelte';
import type { Movable, Moved } from '../../lib/mat/handles';
import type { Three, Turn } from '../../lib/mat/turns';
import { show } from '../../lib/units/units';
import { word } from '../../words/words';
import type { BuildState } from './build.svelte';
import { AXES, type Axis, normalOf, rangeOf, snapsOf } from './moves';

const UPRIGHT: NonNullable<PanelEdit['tilt']> = { tip: 0, swing: 0, spin: 0 };
export type Dragged = Movable & { save: (moved: Moved) => Promise<void> };
const further = (from: unknown, axis: Axis, by: number) => (from as number[]).map((v, i) => (i === axis ? v + by : v));
/** An angle as it is kept: not a whole turn and more. */
const within = (degrees: number) => ((((degrees + 180) % 360) + 360) % 360) - 180;

function said(label: string, moved: Moved): string {
	if ('turn' in moved) return word('build.was-turned', { label, by: moved.by });
	return word('build.moved', { label, by: show(moved.by, session.unit), name: AXES[moved.axis]!.name });
}
/** The middle of the box round parts. */
export const middleOf = (parts: readonly PartOut[]): Three =>
	[0, 1, 2].map((k) => {
		const ranges = parts.map((p) => rangeOf(p, k as Axis));
		return (Math.min(...ranges.map((r) => r[0])) + Math.max(...ranges.map((r) => r[1]))) / 2;
	}) as Three;

/**
 * The turns of a panel about its own lines that its tilt can take: a sheet is spun first, then swung, then tipped, so that
 * a line of its own is one of those of the tilt only while no later one is turned.
 */
export function turnsOf(part: PartOut, tilt: PanelEdit['tilt'] | undefined): Turn[] {
	const [x, y] = [part.pose.x as unknown as Three, part.pose.y as unknown as Three];
	const turns: Turn[] = [{ key: 'spin', way: normalOf(part) }];
	if (!tilt?.spin) turns.push({ key: 'swing', way: y });
	if (!tilt?.spin && !tilt?.swing) turns.push({ key: 'tip', way: x });
	return turns;
}

/** The picked panel, as it can be dragged while its item is open. */
export function panelDragged(build: BuildState, work: ProjectState): Dragged {
	const part = build.part!;
	return {
		part: part.id,
		along: new Set([part.id]),
		snaps: (axis) => snapsOf([part], build.out!.parts, axis),
		turns: turnsOf(part, work.design.edits?.[part.panel]?.tilt),
		about: middleOf([part]),
		save: (moved) =>
			work.editPanels(
				[part.panel],
				(before) => {
					if ('axis' in moved) return { move: further(before.move, moved.axis, moved.by) as unknown as PanelEdit['move'] };
					const tilt = { ...UPRIGHT, ...before.tilt };
					const key = moved.turn.key as 'tip' | 'swing' | 'spin';
					return { tilt: { ...tilt, [key]: within((tilt[key] ?? 0) + moved.by) } };
				},
				said(part.label, moved)
			)
	};
}

/** The turns of an item: about the upright, and to the front about its own line from left to right; one that is joined, or lies over its host, has none. */
function turnsOfItem(item: Item): Turn[] {
	if (item.joined || item.loose?.over) return [];
	const a = ((item.turn ?? 0) * Math.PI) / 180;
	return [
		{ key: 'turn', way: [0, 0, 1] },
		{ key: 'tip', way: [Math.cos(a), Math.sin(a), 0] }
	];
}

/** The item of the picked panel, as it can be dragged; null where its place counts in another item's own directions, and for the first. */
export function itemDragged(build: BuildState, work: ProjectState): Dragged | null {
	const [part, whole] = [build.part!, work.project!.design];
	const items = whole.items ?? [];
	const item = part.item || partOf(part.id).item;
	const kept = items.find((i) => i.id === item);
	const host = kept?.joined?.host ?? kept?.loose?.host;
	const plain = (id: string) => id === FIRST || rootOf(whole, id) === FIRST; // the first stands as it is, and so does what is joined to it
	const turned = (id: string) => id !== FIRST && !!(items.find((i) => i.id === id)?.turn || items.find((i) => i.id === id)?.tip);
	if (!kept || (host && (!plain(host) || turned(host)))) return null;
	const moving = new Set([item]);
	const holds = (i: Item) => moving.has(i.joined?.host ?? '') || (!i.loose?.over && moving.has(i.loose?.host ?? ''));
	for (let more = items.filter(holds); more.some((i) => !moving.has(i.id)); more = items.filter(holds))
		more.forEach((i) => moving.add(i.id));
	const parts = build.out!.parts.filter((p) => moving.has(p.item || partOf(p.id).item));
	return {
		part: part.id,
		along: new Set(parts.map((p) => p.id)),
		snaps: (axis) => snapsOf(parts, build.out!.parts, axis),
		turns: turnsOfItem(kept),
		about: middleOf(parts),
		save: (moved) => {
			const change: Partial<Item> =
				'axis' in moved
					? { at: further(kept.at ?? [0, 0, 0], moved.axis, moved.by) as unknown as Item['at'] }
					: { [moved.turn.key]: within((kept[moved.turn.key as 'turn' | 'tip'] ?? 0) + moved.by) };
			return work.saveWhole((d) => withItem(d, item, change), said(kept.label, moved));
		}
	};
}
