/** What the handles on a picked panel move: the panel itself, or the item that it belongs to with all that stands in it. */
import type { Item, PanelEdit } from '../../api/types';
import { FIRST, partOf, rootOf, withItem } from '../../app/items';
import type { ProjectState } from '../../app/project.svelte';
import { session } from '../../app/session.svelte';
import type { Movable } from '../../lib/mat/handles';
import { show } from '../../lib/units/units';
import { word } from '../../words/words';
import type { BuildState } from './build.svelte';
import { AXES, type Axis, snapsOf } from './moves';

export type Dragged = Movable & { save: (axis: Axis, by: number) => Promise<void> };
const further = (from: unknown, axis: Axis, by: number) => (from as number[]).map((v, i) => (i === axis ? v + by : v));

/** The picked panel, as it can be dragged while its item is open. */
export function panelDragged(build: BuildState, work: ProjectState): Dragged {
	const part = build.part!;
	return {
		part: part.id,
		along: new Set([part.id]),
		snaps: (axis) => snapsOf([part], build.out!.parts, axis),
		save: (axis, by) => {
			const words = word('build.moved', { label: part.label, by: show(by, session.unit), name: AXES[axis]!.name });
			return work.editPanels([part.panel], (before) => ({ move: further(before.move, axis, by) as unknown as PanelEdit['move'] }), words);
		}
	};
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
		save: (axis, by) => {
			const words = word('build.moved', { label: kept.label, by: show(by, session.unit), name: AXES[axis]!.name });
			return work.saveWhole((d) => withItem(d, item, { at: further(kept.at ?? [0, 0, 0], axis, by) as unknown as Item['at'] }), words);
		}
	};
}
