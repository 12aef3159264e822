/** What of each part is wanted and lies, and which parts stay together: groups are letters on the screen, lists of parts in the request. */
import type { LayoutOut } from '../../api/types';
import { partOf } from '../../app/items';
import { word } from '../../words/words';

type Request = LayoutOut['request'];
const LETTERS = ['A', 'B', 'C', 'D'];

export interface Row {
	id: string;
	label: string;
	wanted: number;
	placed: number;
	spares: number;
	helper: boolean;
	/** it falls out of another part */
	falls: boolean;
	/** the first part that is cut like it */
	like: string;
	/** something is burned on its face */
	marked: boolean;
	/** both its faces are burned */
	two_faced: boolean;
	/** it is burned from its back */
	reverse: boolean;
}

/** How many of a part a packing is asked for. */
export function wantedOf(p: LayoutOut['parts'][number], r: Request): number {
	const only = r.only ?? {};
	if (Object.keys(only).length) return only[p.id] ?? 0;
	return p.helper ? p.copies : p.copies * r.copies + p.spares;
}

/** The items that parts belong to, by the names that parts have of them; none where there is one only. */
export function itemsOf(parts: LayoutOut['parts']): { id: string; label: string; parts: string[] }[] {
	const found = new Map<string, { id: string; label: string; parts: string[] }>();
	for (const p of parts) {
		const { item } = partOf(p.id);
		const there = found.get(item) ?? { id: item, label: p.label.split(': ')[0]!, parts: [] };
		there.parts.push(p.id);
		found.set(item, there);
	}
	return found.size > 1 ? [...found.values()] : [];
}

/** How many of each part of an item are wanted, for a packing of nothing else. */
export const onlyOf = (out: LayoutOut, r: Request, parts: readonly string[]): Record<string, number> =>
	Object.fromEntries(out.parts.filter((p) => parts.includes(p.id)).map((p) => [p.id, wantedOf(p, { ...r, only: {} })]));

/** Parts with what is wanted and placed; those that are missing come first. */
export function countsOf(out: LayoutOut, r: Request): Row[] {
	const placed = new Map<string, number>();
	for (const s of out.nesting?.sheets ?? []) for (const p of s.placements) placed.set(p.part, (placed.get(p.part) ?? 0) + 1);
	const hosts = new Map(out.parts.map((p) => [p.id, p.falls_from]));
	// What falls out of a part that lies there is a piece too.
	const made = (id: string): number => (placed.get(id) ?? 0) + (hosts.get(id) ? made(hosts.get(id)!) : 0);
	const rows = out.parts.map((p) => ({
		id: p.id,
		label: p.label,
		wanted: wantedOf(p, r),
		placed: made(p.id),
		falls: !!p.falls_from,
		like: p.like,
		spares: p.helper ? 0 : p.spares,
		helper: p.helper,
		marked: p.marked,
		two_faced: p.two_faced,
		reverse: p.reverse
	}));
	const missing = (x: Row) => Math.max(x.wanted - x.placed, 0);
	return out.nesting ? [...rows].sort((a, b) => missing(b) - missing(a)) : rows;
}

export const groupOf = (r: Request, part: string): string => LETTERS[(r.together ?? []).findIndex((g) => g.includes(part))] ?? '';

/** The groups after a part went into one, or into none. */
export function inGroup(r: Request, part: string, letter: string): string[][] {
	const groups = LETTERS.map((_, k) => (r.together?.[k] ?? []).filter((p) => p !== part));
	if (letter) groups[LETTERS.indexOf(letter)]!.push(part);
	while (groups.length && !groups[groups.length - 1]!.length) groups.pop();
	return groups;
}

/** Other sheets of the same stock on which the parts of one may be laid: those in use, and the next free one of each kind. */
export function otherSheets(out: LayoutOut, from: { sheet: string; copy: number }): { sheet: string; copy: number; name: string }[] {
	const used = out.nesting?.sheets ?? [];
	const stock = used.find((s) => s.sheet === from.sheet && s.copy === from.copy)?.stock;
	return out.shelf
		.filter((k) => k.stock === stock)
		.flatMap((k) => {
			const copies = used.filter((s) => s.sheet === k.id).map((s) => s.copy);
			const free = [...Array(k.count ?? 0).keys()].find((c) => !copies.includes(c));
			const there = copies
				.filter((c) => k.id !== from.sheet || c !== from.copy)
				.map((c) => ({ copy: c, name: word('lay-out.copy-in-exchange', { name: k.name, c: c + 1 }) }));
			const next = free === undefined || k.id === from.sheet ? [] : [{ copy: free, name: k.name }];
			return [...next, ...there].map((x) => ({ sheet: k.id, ...x }));
		});
}
