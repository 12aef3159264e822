/** Where added panels stand on a flat panel: lines whose ends and middles are dragged, and what that changes of their numbers. */
import type { Added, PartOut } from '../../api/types';
import { AXES, normalOf } from './moves';

type Vec = readonly number[];
type Pair = [number, number];
/** A grip on a foot: where it is, and how far each number goes when it is dragged by one. */
export interface Grip {
	which: 'low' | 'high' | 'whole';
	at: Pair;
	moves: Record<string, number>;
}
export interface Foot {
	id: string;
	label: string;
	line: [Pair, Pair];
	/** unit vector in the panel's own plane */
	way: Pair;
	grips: Grip[];
}

const LEAST = 1; // [mm] from a corner
const FLAT = 1e-6;
const dot = (a: Vec, b: Vec) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
const cross = (a: Vec, b: Vec): Vec => [0, 1, 2].map((k) => a[(k + 1) % 3]! * b[(k + 2) % 3]! - a[(k + 2) % 3]! * b[(k + 1) % 3]!);
const sum = (a: Vec, b: Vec, by = 1): Vec => a.map((v, k) => v + by * b[k]!);
const vec = (v: unknown) => v as Vec;

/** The plane through the middle of a sheet: its normal, and how far that is from the origin. */
function middle(part: PartOut): { n: Vec; d: number } {
	const n = normalOf(part);
	return { n, d: dot(n, vec(part.pose.origin)) + (part.low + part.high) / 2 };
}

/** The line in which the middle of one sheet meets that of another, as far as the second reaches, in space; null where they are parallel. */
function lineOf(host: PartOut, sheet: PartOut): [Vec, Vec] | null {
	const [p, q] = [middle(host), middle(sheet)];
	const along = cross(p.n, q.n);
	const size = Math.hypot(...along);
	if (size < FLAT) return null;
	const unit = along.map((v) => v / size);
	const [toP, toQ] = [cross(q.n, along), cross(along, p.n)];
	const at = toP.map((v, k) => (v * p.d + toQ[k]! * q.d) / (size * size));
	const { x, y, origin } = sheet.pose;
	const reach = (sheet.profile.outer as unknown as Pair[]).map(([u, v]) =>
		dot(unit, sum(sum(sum(vec(origin), vec(x), u), vec(y), v), at, -1))
	);
	return [sum(at, unit, Math.min(...reach)), sum(at, unit, Math.max(...reach))];
}

const seen = (host: PartOut, p: Vec): Pair => {
	const off = sum(p, vec(host.pose.origin), -1);
	return [dot(off, vec(host.pose.x)), dot(off, vec(host.pose.y))];
};
const half = (a: Pair, b: Pair): Pair => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];

function between(item: Extract<Added, { kind: 'between' }>, host: PartOut, parts: readonly PartOut[], line: [Vec, Vec]): Foot | null {
	const first = parts.find((p) => p.panel === item.a);
	if (!first) return null;
	const axis = [0, 1, 2].map((k) => (AXES[k]!.id === item.axis ? 1 : 0));
	const ends = line.toSorted((p, q) => dot(cross(axis, normalOf(first)), sum(p, q, -1)));
	const [low, high] = ends.map((p) => seen(host, p)) as [Pair, Pair];
	const onFirst: Grip['moves'] = host.panel === item.a ? { at: 1, over: -1 } : { over: 1 }; // on the other panel it stays
	const grips: Grip[] = [
		{ which: 'low', at: low, moves: { at: 1, rise: -1 } },
		{ which: 'whole', at: half(low, high), moves: onFirst },
		{ which: 'high', at: high, moves: { rise: 1 } }
	];
	return { id: item.id, label: '', line: [low, high], way: [dot(axis, vec(host.pose.x)), dot(axis, vec(host.pose.y))], grips };
}

function brace(item: Extract<Added, { kind: 'brace' }>, host: PartOut, parts: readonly PartOut[], line: [Vec, Vec]): Foot | null {
	const key = host.panel === item.a ? 'on_a' : 'on_b';
	const other = parts.find((p) => p.panel === (host.panel === item.a ? item.b : item.a));
	if (!other) return null;
	const [p, q] = [middle(host), middle(other)];
	const corner = cross(p.n, q.n);
	const across = cross(corner, p.n).map((v) => v / Math.hypot(...corner));
	// away from the corner is away from the other panel's plane, on the side on which the brace stands
	const away = Math.sign((dot(q.n, line[0]) - q.d) * dot(q.n, across)) || 1;
	const [low, high] = line.map((e) => seen(host, e)) as [Pair, Pair];
	return {
		id: item.id,
		label: '',
		line: [low, high],
		way: [away * dot(across, vec(host.pose.x)), away * dot(across, vec(host.pose.y))],
		grips: [{ which: 'whole', at: half(low, high), moves: { [key]: 1 } }]
	};
}

/** The feet of added panels on a panel that they stand on. */
export function feetOn(host: PartOut, parts: readonly PartOut[], added: readonly Added[]): Foot[] {
	return added.flatMap((item) => {
		const sheet = parts.find((p) => p.panel === item.id);
		if (!sheet || !('a' in item) || (item.a !== host.panel && item.b !== host.panel)) return [];
		const line = lineOf(host, sheet);
		const foot = !line
			? null
			: item.kind === 'between'
				? between(item, host, parts, line)
				: item.kind === 'brace'
					? brace(item, host, parts, line)
					: null;
		return foot ? [{ ...foot, label: sheet.label }] : [];
	});
}

/** An added panel as it is after one of its grips was dragged. */
export function dragged<T extends Added>(item: T, grip: Grip, by: number): T {
	const now = item as unknown as Record<string, number>;
	const least = item.kind === 'brace' ? LEAST : -Infinity;
	return {
		...item,
		...Object.fromEntries(Object.entries(grip.moves).map(([k, share]) => [k, Math.max((now[k] ?? 0) + share * by, least)]))
	};
}
