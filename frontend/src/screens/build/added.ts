/** Panels that a person added: which of their numbers can be changed, and what each is called. */
import type { Added, Design, PartOut } from '../../api/types';
import type { ProjectState } from '../../app/project.svelte';
import { word } from '../../words/words';
import type { BuildState } from './build.svelte';
import { AXES, freshLabel, freshName, namesIn, normalOf } from './moves';

type Vec = readonly number[];
const ENDS: readonly (readonly [string, string])[] = [
	[word('build.left-end'), word('build.right-end')],
	[word('build.front-end'), word('build.back-end')],
	[word('build.lower-end'), word('build.upper-end')]
];

/** The low and the high end of a panel that stands between two others of this normal, square to an axis. */
export function endNames(axis: 'x' | 'y' | 'z', normal: Vec): readonly [string, string] {
	const a = AXES.findIndex((x) => x.id === axis);
	const [i, j] = [(a + 1) % 3, (a + 2) % 3];
	// the axis times the normal: along i runs -n[j], along j runs n[i]
	const [k, along] = Math.abs(normal[j]!) > Math.abs(normal[i]!) ? [i, -normal[j]!] : [j, normal[i]!];
	const [low, high] = ENDS[k]!;
	return along > 0 ? [low, high] : [high, low];
}

/** The numbers of a sheet across the corner of two panels. */
export function braceNumbers(a: PartOut, b: PartOut) {
	const [n, m] = [normalOf(a), normalOf(b)];
	const along = [n[1]! * m[2]! - n[2]! * m[1]!, n[2]! * m[0]! - n[0]! * m[2]!, n[0]! * m[1]! - n[1]! * m[0]!].map(Math.abs);
	const [low, high] = ENDS[along.indexOf(Math.max(...along))]!;
	return [
		{ key: 'on_a' as const, name: word('build.from-corner-on', { label: a.label }) },
		{ key: 'on_b' as const, name: word('build.from-corner-on', { label: b.label }) },
		{ key: 'inset_low' as const, name: word('build.kept-back', { end: low }) },
		{ key: 'inset_high' as const, name: word('build.kept-back', { end: high }) }
	];
}

/** The edges of a panel, in the order in which they go round it. */
export const EDGES = [
	{ id: 'lower' as const, name: word('build.lower-edge') },
	{ id: 'right' as const, name: word('build.right-edge') },
	{ id: 'upper' as const, name: word('build.upper-edge') },
	{ id: 'left' as const, name: word('build.left-edge') }
];
export type EdgeName = (typeof EDGES)[number]['id'];

/** The numbers of a wall on an edge. */
export function wallNumbers(edge: EdgeName) {
	const [low, high] = ENDS[edge === 'lower' || edge === 'upper' ? 0 : 2]!;
	return [
		{ key: 'height' as const, name: word('build.height-2'), degrees: false },
		{ key: 'lean' as const, name: word('build.leans-outward-by'), degrees: true },
		{ key: 'inset_low' as const, name: word('build.kept-back', { end: low }), degrees: false },
		{ key: 'inset_high' as const, name: word('build.kept-back', { end: high }), degrees: false }
	];
}

/** What two panels are called together. */
export const pairName = (parts: readonly PartOut[]) =>
	word('build.and', { label: parts[0]!.label.toLowerCase(), label2: parts[1]!.label.toLowerCase() });

/** Add a panel that stands to two others; what went wrong, or ''. */
export async function addedTo(
	work: ProjectState,
	build: BuildState,
	parts: readonly PartOut[],
	called: string,
	what: object & { kind: Added['kind'] }
): Promise<string> {
	const label = freshLabel(called, new Set(build.out!.parts.map((p) => p.label)));
	const taken = namesIn(
		work.design,
		build.out!.parts.map((p) => p.id)
	);
	const item = { id: freshName(what.kind, taken), label, stock: parts[0]!.stock, a: parts[0]!.panel, b: parts[1]!.panel, ...what };
	try {
		await work.save((d) => ({ ...d, added: [...(d.added ?? []), item] as Design['added'] }), label);
		return '';
	} catch (e) {
		return (e as Error).message;
	}
}

/** How a panel between two others slopes: how much farther it lies at its high end, and on the other panel. */
export function slopes(axis: 'x' | 'y' | 'z', high: string, other: string) {
	const farther = { x: 'build.farther-right', y: 'build.farther-back', z: 'build.farther-up' } as const;
	return [
		{ key: 'rise' as const, name: word(farther[axis], { at: high }) },
		{ key: 'over' as const, name: word(farther[axis], { at: other }) }
	];
}

export interface AddedNumber {
	key: string;
	name: string;
	value: number;
	degrees?: boolean;
}

/** The numbers of an added panel, in the order in which a form shows them; none for a copy, which follows its original. */
export function numbersOf(item: Added, parts: readonly PartOut[]): AddedNumber[] {
	if (item.kind === 'between') {
		const host = parts.find((p) => p.panel === item.a);
		const [low, high] = endNames(item.axis, host ? normalOf(host) : [0, 0, 0]);
		return [
			{ key: 'at', name: word('build.where-2', { name: AXES.find((a) => a.id === item.axis)!.name }), value: item.at },
			...slopes(item.axis, high, parts.find((p) => p.panel === item.b)?.label ?? item.b).map((s) => ({ ...s, value: item[s.key] ?? 0 })),
			{ key: 'inset_low', name: word('build.kept-back', { end: low }), value: item.inset_low ?? 0 },
			{ key: 'inset_high', name: word('build.kept-back', { end: high }), value: item.inset_high ?? 0 }
		];
	}
	if (item.kind === 'on_face')
		return [
			{ key: 'width', name: word('build.width'), value: item.width },
			{ key: 'height', name: word('build.height-2'), value: item.height },
			// plates of before count from their host's own origin, which nobody sees: those are moved instead
			...(item.from_corner
				? [
						{ key: 'x', name: word('build.from-its-left-edge'), value: item.x },
						{ key: 'y', name: word('build.from-its-lower-edge'), value: item.y }
					]
				: [])
		];
	if (item.kind === 'wall') {
		const round = (item.beside?.length ?? 0) > 0; // its ends are its neighbours'
		const all = wallNumbers(item.edge).filter((n) => !round || !n.key.startsWith('inset'));
		return all.map((n) => ({ ...n, value: item[n.key] ?? 0 }));
	}
	if (item.kind === 'brace') {
		const [a, b] = [item.a, item.b].map((id) => parts.find((p) => p.panel === id));
		return a && b ? braceNumbers(a, b).map((n) => ({ ...n, value: item[n.key] ?? 0 })) : [];
	}
	if (item.kind === 'gusset')
		return [
			{ key: 'size', name: word('build.size'), value: item.size },
			{ key: 'at', name: word('build.from-the-middle'), value: item.at }
		];
	return [];
}
