/** The items of a project, each a design of its own: one of them in or out of the whole. */
import type { Design, Item } from '../api/types';

/** The first item's short name. */
export const FIRST = 'main';
/** Between an item and its part, in a part's name. */
const OF_ITEM = ':';

/** One item as a design of its own; '' and the first are the design itself. */
export function bodyOf(whole: Design, item: string): Design {
	return item && item !== FIRST ? ((whole.items ?? []).find((i) => i.id === item)?.design ?? whole) : whole;
}

/** The whole with a change of one item's design; a prototype is the whole project's. */
export function withBody(whole: Design, item: string, change: (design: Design) => Design): Design {
	if (!item || item === FIRST) return { ...change(whole), items: whole.items, name: whole.name };
	const items = (whole.items ?? []).map((i) => (i.id === item ? { ...i, design: { ...change(i.design), prototype: null } } : i));
	return { ...whole, items };
}

/** The whole with some facts of an item changed: its name, count, place. */
export const withItem = (whole: Design, item: string, changes: Partial<Item>): Design =>
	item === FIRST
		? { ...whole, name: changes.label ?? whole.name, count: changes.count ?? whole.count, spares: changes.spares ?? whole.spares }
		: { ...whole, items: (whole.items ?? []).map((i) => (i.id === item ? { ...i, ...changes } : i)) };

/** The item that a part of the whole belongs to, and the part's name in it. */
export function partOf(id: string): { item: string; part: string } {
	const at = id.indexOf(OF_ITEM);
	return at < 0 ? { item: FIRST, part: id } : { item: id.slice(0, at), part: id.slice(at + 1) };
}

/** The name that a part, or a meeting, has in an item, or in what its own item is joined to. */
export const ownName = (item: string, id: string) => (item && id.startsWith(item + OF_ITEM) ? id.slice(item.length + 1) : id);
export const ownMeeting = (item: string, id: string) =>
	id
		.split('+')
		.map((part) => ownName(item, part))
		.join('+');

/** The name that a part of an item has in the whole; one of what is joined to it has that already. */
export const inWhole = (item: string, part: string) =>
	item && item !== FIRST && !part.includes(OF_ITEM) ? `${item}${OF_ITEM}${part}` : part;

/** The item whose parts these are among: itself, or what it is joined to. */
export function rootOf(whole: Design, item: string): string {
	const seen = new Set<string>();
	let at = item;
	while (!seen.has(at)) {
		seen.add(at);
		const next = (whole.items ?? []).find((i) => i.id === at && !i.gone)?.joined?.host;
		if (!next) return at;
		at = next;
	}
	return item;
}

/** A short name that no item has yet, from what it is called. */
export function freeId(whole: Design, label: string): string {
	const stem =
		label
			.toLowerCase()
			.replace(/[^a-z0-9]+/g, '-')
			.replace(/^-+|-+$/g, '')
			.slice(0, 30) || 'item';
	const taken = new Set([FIRST, ...(whole.items ?? []).map((i) => i.id)]);
	if (!taken.has(stem)) return stem;
	let k = 2;
	while (taken.has(`${stem}-${k}`)) k += 1;
	return `${stem}-${k}`;
}

/** A further item as it begins: one of it, beside the rest; its design is still to be given. */
export const freshItem = (whole: Design, label: string): Omit<Item, 'design'> => ({
	id: freeId(whole, label),
	label,
	count: 1,
	spares: 0,
	gone: false,
	at: [0, 0, 0],
	turn: 0,
	tip: 0,
	loose: null,
	joined: null
});

/** Every stock that a project names: of its panels, of single panels, of what was added, of its items and alternatives, and its prototype. */
export function stocksOf(whole: Design): Set<string> {
	const own = [
		...Object.values(whole.stocks),
		...Object.values(whole.edits ?? {}).map((e) => e.stock),
		...(whole.added ?? []).map((a) => ('stock' in a ? a.stock : null)),
		...(whole.features ?? []).flatMap((f) =>
			f.kind === 'text' ? [f.stock] : f.kind === 'artwork' ? (f.stocks ?? []).map((s) => s.stock) : []
		),
		...(whole.variations ?? []).flatMap((v) => v.alternatives.flatMap((a) => Object.values(a.stocks ?? {}))),
		whole.prototype
	];
	return new Set([...own.filter((s): s is string => !!s), ...(whole.items ?? []).flatMap((i) => [...stocksOf(i.design)])]);
}
