/** What of a design comes in alternatives: changes of a variation, and of what is there with which of them. */
import type { Alternative, Design, Values, Variation } from '../api/types';

/** What an alternative can go without. */
export type Kind = 'features' | 'panels' | 'items';
/** What a variation sets beside what is there: all sizes, one number, or the stock of a group. */
export type Sets = { of: 'sizes' } | { of: 'numbers' | 'stocks'; name: string };

export const variationsOf = (d: Design): Variation[] => (d.variations ?? []) as Variation[];
const withAll = (d: Design, all: Variation[]): Design => ({ ...d, variations: all as Design['variations'] });
const changed = (d: Design, name: string, change: (v: Variation) => Variation): Design =>
	withAll(
		d,
		variationsOf(d).map((v) => (v.name === name ? change(v) : v))
	);
const everyAlternative = (v: Variation, change: (a: Alternative) => Alternative): Variation => ({
	...v,
	alternatives: v.alternatives.map((a) => change(a as Alternative)) as Variation['alternatives']
});

/** An alternative that sets what the design has now. */
function asNow(d: Design, name: string, sets: Sets[]): Alternative {
	const numbers = d.numbers as unknown as Values;
	const of = (kind: 'numbers' | 'stocks') => sets.flatMap((s) => (s.of === kind ? [s.name] : []));
	return {
		name,
		sizes: sets.some((s) => s.of === 'sizes') ? d.numbers : null,
		scale: d.scale ?? 1,
		numbers: Object.fromEntries(of('numbers').map((n) => [n, numbers[n]])),
		stocks: Object.fromEntries(of('stocks').map((r) => [r, d.stocks[r]!])),
		features: [],
		panels: [],
		items: []
	} as unknown as Alternative;
}

/** What a variation sets. */
export function setsOf(v: Variation): Sets[] {
	const one = v.alternatives[0] as Alternative;
	return [
		...(one.sizes ? [{ of: 'sizes' as const }] : []),
		...Object.keys(one.numbers ?? {}).map((name) => ({ of: 'numbers' as const, name })),
		...Object.keys(one.stocks ?? {}).map((name) => ({ of: 'stocks' as const, name }))
	];
}
export const sameSets = (a: Sets, b: Sets) => a.of === b.of && ('name' in a ? a.name : '') === ('name' in b ? b.name : '');
export const isSet = (d: Design, wanted: Sets) => variationsOf(d).some((v) => setsOf(v).some((s) => sameSets(s, wanted)));

/** One thing more that varies; its first alternative is the design as it is now, and is chosen. */
export function withVariation(d: Design, name: string, alternatives: string[], sets: Sets[]): Design {
	const made = { name, alternatives: alternatives.map((a) => asNow(d, a, sets)), chosen: alternatives[0] ?? '' };
	return withAll(d, [...variationsOf(d), made as unknown as Variation]);
}
export const withoutVariation = (d: Design, name: string): Design =>
	withAll(
		d,
		variationsOf(d).filter((v) => v.name !== name)
	);
export const renamedVariation = (d: Design, name: string, wanted: string): Design => changed(d, name, (v) => ({ ...v, name: wanted }));

/** One alternative more: the design as it is now, without what the chosen one goes without. */
export const withAlternative = (d: Design, name: string, wanted: string): Design =>
	changed(d, name, (v) => {
		const chosen = v.alternatives.find((a) => a.name === v.chosen);
		const gone = chosen ? { features: chosen.features, panels: chosen.panels, items: chosen.items } : {};
		return { ...v, alternatives: [...v.alternatives, { ...asNow(d, wanted, setsOf(v)), ...gone }] as Variation['alternatives'] };
	});
export const renamedAlternative = (d: Design, name: string, alternative: string, wanted: string): Design =>
	changed(d, name, (v) => ({
		...everyAlternative(v, (a) => (a.name === alternative ? { ...a, name: wanted } : a)),
		chosen: v.chosen === alternative ? wanted : v.chosen
	}));
/** Without one that is not chosen. */
export const withoutAlternative = (d: Design, name: string, alternative: string): Design =>
	changed(d, name, (v) => ({ ...v, alternatives: v.alternatives.filter((a) => a.name !== alternative) as Variation['alternatives'] }));

/** A variation sets one thing more: in every alternative as it is now; or one thing less. */
export function setting(d: Design, name: string, what: Sets, on: boolean): Design {
	const now = asNow(d, name, [what]);
	return changed(d, name, (v) =>
		everyAlternative(v, (a) => {
			if (what.of === 'sizes') return { ...a, sizes: on ? d.numbers : null, scale: d.scale ?? 1 } as Alternative;
			const kept = Object.fromEntries(Object.entries(a[what.of] ?? {}).filter(([k]) => k !== what.name));
			return { ...a, [what.of]: on ? { ...kept, ...now[what.of] } : kept } as Alternative;
		})
	);
}

/** Something is there with an alternative, or not. */
export const thereWith = (d: Design, name: string, alternative: string, kind: Kind, id: string, there: boolean): Design =>
	changed(d, name, (v) =>
		everyAlternative(v, (a) => {
			if (a.name !== alternative) return a;
			const others = ((a[kind] ?? []) as string[]).filter((x) => x !== id);
			return { ...a, [kind]: there ? others : [...others, id] } as Alternative;
		})
	);

/** The chosen alternatives with which something is not there: of which variation, and their names. */
export const goneWith = (d: Design, kind: Kind, id: string): { variation: string; alternative: string }[] =>
	variationsOf(d).flatMap((v) => {
		const chosen = v.alternatives.find((a) => a.name === v.chosen);
		return chosen && ((chosen[kind] ?? []) as string[]).includes(id) ? [{ variation: v.name, alternative: chosen.name }] : [];
	});

/** Something is there with all that is chosen now. */
export const thereNow = (d: Design, kind: Kind, id: string): Design =>
	goneWith(d, kind, id).reduce((found, g) => thereWith(found, g.variation, g.alternative, kind, id, true), d);

/** How many variants a project has: its items' variations of one name are one. */
export function variantCount(d: Design): number {
	const names = new Map<string, Set<string>>();
	for (const one of [d, ...(d.items ?? []).map((i) => i.design)])
		for (const v of variationsOf(one)) {
			const known = names.get(v.name) ?? new Set();
			for (const a of v.alternatives) known.add(a.name);
			names.set(v.name, known);
		}
	return names.size ? [...names.values()].reduce((n, some) => n * some.size, 1) : 0;
}
