/** Panels that a person added: which of their numbers can be changed, and what each is called. */
import type { Added, Design, PartOut } from '../../api/types';
import type { ProjectState } from '../../app/project.svelte';
import { word } from '../../words/words';
import type { BuildState } from './build.svelte';
import { AXES, namesIn, naming, normalOf } from './moves';

type Vec = readonly number[];
export const ENDS: readonly (readonly [string, string])[] = [
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
	const [low, high] = ENDS[longest(crossOf(n, m))]!;
	return [
		{ key: 'on_a' as const, name: word('build.from-corner-on', { label: a.label }) },
		{ key: 'on_b' as const, name: word('build.from-corner-on', { label: b.label }) },
		{ key: 'inset_low' as const, name: word('build.kept-back', { end: low }) },
		{ key: 'inset_high' as const, name: word('build.kept-back', { end: high }) }
	];
}

/** What the sides of a flat panel are called. */
export const SIDES = {
	lower: word('build.lower-edge'),
	right: word('build.right-edge'),
	upper: word('build.upper-edge'),
	left: word('build.left-edge')
} as const;
export type Side = keyof typeof SIDES;
export const MOST_LAYERS = 20; // of spacers under a plate
export const LEAST_WALLS = 3; // that stand round a room

/** The numbers of a wall on an edge. */
export function wallNumbers(edge: Side) {
	const [low, high] = ENDS[edge === 'lower' || edge === 'upper' ? 0 : 2]!;
	return [
		{ key: 'height' as const, name: word('build.height-2'), degrees: false },
		{ key: 'lean' as const, name: word('build.leans-outward-by'), degrees: true },
		{ key: 'inset_low' as const, name: word('build.kept-back', { end: low }), degrees: false },
		{ key: 'inset_high' as const, name: word('build.kept-back', { end: high }), degrees: false }
	];
}

/** The size of a plate on a face, and its place from the lower left corner of what is seen of its host. */
export const plateNumbers = () => [
	{ key: 'width' as const, name: word('build.width') },
	{ key: 'height' as const, name: word('build.height-2') },
	{ key: 'x' as const, name: word('build.from-its-left-edge') },
	{ key: 'y' as const, name: word('build.from-its-lower-edge') }
];

/** The numbers of the spacers under a plate. */
export const spacerNumbers = () => [
	{ key: 'spacer_across' as const, name: word('build.diameter-of-spacers') },
	{ key: 'spacer_inset' as const, name: word('build.spacers-from-the-edges') }
];

/** The numbers of a sheet that stands on a face. */
export const uprightNumbers = () => [
	{ key: 'x' as const, name: word('build.foot-from-its-left-edge'), degrees: false },
	{ key: 'y' as const, name: word('build.foot-from-its-lower-edge'), degrees: false },
	{ key: 'along' as const, name: word('build.foot-turned-by'), degrees: true },
	{ key: 'width' as const, name: word('build.width-at-its-foot'), degrees: false },
	{ key: 'upper' as const, name: word('build.width-at-its-other-end'), degrees: false },
	{ key: 'height' as const, name: word('build.height-2'), degrees: false },
	{ key: 'lean' as const, name: word('build.leans-to-its-front-by'), degrees: true }
];

/** Places on a face, each turned farther about a middle: so many in a whole turn [mm, degrees]. */
export function spreadRound<T extends { x: number; y: number; along: number }>(
	first: T,
	middle: readonly [number, number],
	count: number
): T[] {
	const [dx, dy] = [first.x - middle[0], first.y - middle[1]];
	return Array.from({ length: count }, (_, k) => {
		if (k === 0) return first;
		const turn = (2 * Math.PI * k) / count;
		const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
		const along = ((((first.along + (360 * k) / count + 180) % 360) + 360) % 360) - 180;
		return { ...first, x: middle[0] + dx * cos - dy * sin, y: middle[1] + dx * sin + dy * cos, along };
	});
}

/** The numbers of slats across a room. */
export function latticeNumbers(parts: readonly PartOut[]) {
	const [low, high] = endsAcross(parts);
	return [
		{ key: 'pitch' as const, name: word('build.about-from-one-to-the-next'), degrees: false },
		{ key: 'turn' as const, name: word('build.turned-from', { label: parts[0]!.label.toLowerCase() }), degrees: true },
		{ key: 'inset_low' as const, name: word('build.kept-back', { end: low }), degrees: false },
		{ key: 'inset_high' as const, name: word('build.kept-back', { end: high }), degrees: false }
	];
}

const SQUARE = 1e-6;
const crossOf = (n: Vec, m: Vec) => [0, 1, 2].map((k) => n[(k + 1) % 3]! * m[(k + 2) % 3]! - n[(k + 2) % 3]! * m[(k + 1) % 3]!);
const longest = (v: Vec) => v.map(Math.abs).indexOf(Math.max(...v.map(Math.abs)));

/** The direction that panels have in common, as far as they have one: the longest product of the first with another. */
function across(parts: readonly PartOut[]): Vec {
	const products = parts.map((p) => crossOf(normalOf(parts[0]!), normalOf(p)));
	return products.reduce((best, v) => (Math.hypot(...v) > Math.hypot(...best) ? v : best));
}

/** The low and the high end of what stands across the room between panels. */
const endsAcross = (parts: readonly PartOut[]) => ENDS[longest(across(parts))]!;

/** Whether panels may stand round a room: all are square to one plane, and not all alike. */
export function roundARoom(parts: readonly PartOut[]): boolean {
	const axis = across(parts);
	return Math.hypot(...axis) > 0.2 && parts.every((p) => Math.abs(normalOf(p).reduce((sum, v, k) => sum + v * axis[k]!, 0)) < SQUARE);
}

/** What two panels are called together. */
export const pairName = (parts: readonly PartOut[]) =>
	word('build.and', { label: parts[0]!.label.toLowerCase(), label2: parts[1]!.label.toLowerCase() });

/** Names for panels that are added to what is built. */
export function namingIn(work: ProjectState, build: BuildState) {
	const parts = build.out!.parts;
	const taken = namesIn(
		work.design,
		parts.map((p) => p.id)
	);
	return naming(
		taken,
		parts.map((p) => p.label)
	);
}

/** Add panels to the design, in one step; what went wrong, or ''. */
export async function addAll(work: ProjectState, items: readonly object[], what: string): Promise<string> {
	try {
		await work.save((d) => ({ ...d, added: [...(d.added ?? []), ...items] as Design['added'] }), what);
		return '';
	} catch (e) {
		return (e as Error).message;
	}
}

/** Add panels that stand to two others; what went wrong, or ''. */
export async function addedTo(
	work: ProjectState,
	build: BuildState,
	parts: readonly PartOut[],
	called: string,
	whats: readonly (object & { kind: Added['kind'] })[]
): Promise<string> {
	const name = namingIn(work, build);
	const [a, b] = parts;
	const items = whats.map((what) => ({ ...name(what.kind, called), stock: a!.stock, a: a!.panel, b: b!.panel, ...what }));
	return addAll(work, items, items[0]!.label);
}

/** A panel between two others again and again, a step farther each time; each second one may slope the other way. */
export function ladder<T extends { at: number; rise: number; over: number; inset_low: number; inset_high: number }>(
	first: T,
	count: number,
	step: number,
	zigzag: boolean
): T[] {
	return Array.from({ length: count }, (_, i) => {
		const at = first.at + i * step;
		if (!zigzag || i % 2 === 0) return { ...first, at };
		const { rise, over, inset_low, inset_high } = first;
		return { ...first, at: at + rise + over, rise: -rise, over: -over, inset_low: inset_high, inset_high: inset_low };
	});
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
	/** it is counted, up to so many */
	count?: number;
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
	if (item.kind === 'on_face') {
		// plates of before count from their host's own origin, which nobody sees: those are moved instead
		const own = plateNumbers().filter((n) => item.from_corner || !['x', 'y'].includes(n.key));
		return [
			...own.map((n) => ({ ...n, value: item[n.key] })),
			{ key: 'layers', name: word('build.layers-of-spacers'), value: item.layers, count: MOST_LAYERS },
			...(item.layers ? spacerNumbers().map((n) => ({ ...n, value: item[n.key] })) : [])
		];
	}
	if (item.kind === 'wall') {
		const round = item.beside?.some((w) => w) ?? false; // its ends are its neighbours'
		const all = wallNumbers(item.edge).filter((n) => !round || !n.key.startsWith('inset'));
		return all.map((n) => ({ ...n, value: item[n.key] ?? 0 }));
	}
	if (item.kind === 'upright') return uprightNumbers().map((n) => ({ ...n, value: item[n.key] }));
	if (item.kind === 'slat') {
		const walls = item.walls.map((id) => parts.find((p) => p.panel === id)).filter((p) => p !== undefined);
		if (walls.length < LEAST_WALLS) return [];
		const own = latticeNumbers(walls).filter((n) => n.key !== 'pitch');
		return [
			...own.map((n) => ({ ...n, value: item[n.key as 'turn' | 'inset_low' | 'inset_high'] })),
			{ key: 'offset', name: word('build.from-the-middle'), value: item.offset }
		];
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
