/** Where a panel may snap to: its faces against the faces of the others, along one axis of the world. */
import type { Design, PartOut } from '../../api/types';
import { partsOf } from '../../lib/ids';
import { word } from '../../words/words';

export type Axis = 0 | 1 | 2;
export const AXES: { axis: Axis; name: string; id: 'x' | 'y' | 'z' }[] = [
	{ axis: 0, name: word('build.to-the-right-2'), id: 'x' },
	{ axis: 1, name: word('build.to-the-back'), id: 'y' },
	{ axis: 2, name: word('build.up-2'), id: 'z' }
];
const SAME = 0.005; // [mm] two places nearer than this are one

/** The direction in which the front of a part looks. */
export function normalOf({ pose }: PartOut): [number, number, number] {
	const [x, y] = [pose.x as unknown as number[], pose.y as unknown as number[]];
	return [x[1]! * y[2]! - x[2]! * y[1]!, x[2]! * y[0]! - x[0]! * y[2]!, x[0]! * y[1]! - x[1]! * y[0]!];
}

/** The range that a part takes along an axis [mm]. */
export function rangeOf(part: PartOut, axis: Axis): [number, number] {
	const x = part.pose.x as unknown as number[];
	const y = part.pose.y as unknown as number[];
	const o = part.pose.origin as unknown as number[];
	const n = normalOf(part);
	let [low, high] = [Infinity, -Infinity];
	for (const p of part.profile.outer as unknown as number[][])
		for (const h of [part.low, part.high]) {
			const v = o[axis]! + p[0]! * x[axis]! + p[1]! * y[axis]! + h * n[axis]!;
			low = Math.min(low, v);
			high = Math.max(high, v);
		}
	return [low, high];
}

/** The distances by which parts can be moved together along an axis so that they meet a face of another one, or its middle, ascending. */
export function snapsOf(moved: readonly PartOut[], others: readonly PartOut[], axis: Axis): number[] {
	const ranges = moved.map((p) => rangeOf(p, axis));
	const [low, high] = [Math.min(...ranges.map((r) => r[0])), Math.max(...ranges.map((r) => r[1]))];
	const [there, found] = [new Set(moved.map((p) => p.id)), [] as number[]];
	for (const other of others) {
		if (there.has(other.id)) continue;
		const [a, b] = rangeOf(other, axis);
		found.push(a - low, b - high, a - high, b - low, (a + b) / 2 - (low + high) / 2);
	}
	return found.filter((d) => Math.abs(d) > SAME).sort((a, b) => a - b);
}

/** The nearest snap in a direction, or null when there is none. */
export function nextSnap(part: PartOut, others: readonly PartOut[], axis: Axis, forward: boolean): number | null {
	const snaps = snapsOf([part], others, axis);
	return (forward ? snaps.find((d) => d > 0) : [...snaps].reverse().find((d) => d < 0)) ?? null;
}

/** How a part can be lined up with another one along an axis. */
export type LineUp = 'low' | 'middle' | 'high' | 'beside';

/** How far a part moves along an axis to be lined up with another one; beside it, face on face, on the side that is nearer. */
export function lineUp(part: PartOut, to: PartOut, axis: Axis, how: LineUp): number {
	const [[low, high], [a, b]] = [rangeOf(part, axis), rangeOf(to, axis)];
	if (how === 'low') return a - low;
	if (how === 'high') return b - high;
	if (how === 'middle') return (a + b - low - high) / 2;
	return Math.abs(b - low) <= Math.abs(a - high) ? b - low : a - high;
}

/** A label that nothing on the list has yet. */
export function freshLabel(stem: string, taken: ReadonlySet<string>): string {
	if (!taken.has(stem)) return stem;
	for (let i = 2; ; i++) if (!taken.has(`${stem} ${i}`)) return `${stem} ${i}`;
}

/** Every name of a panel that a design speaks of, also of those that are gone: none of them is given again. */
export function namesIn(d: Design, parts: readonly string[]): Set<string> {
	const meetings = Object.keys(d.choices ?? {}).flatMap(partsOf);
	const names = [...parts, ...(d.added ?? []).map((a) => a.id), ...Object.keys(d.edits ?? {}), ...meetings];
	return new Set([...names, ...(d.features ?? []).map((f) => f.panel), ...(d.splits ?? []).map((s) => s.panel)]);
}

/** The design without an added panel and everything that was said of it. */
export function withoutPanel(d: Design, id: string): Design {
	const own = (panel: string) => panel === id || panel.startsWith(`${id}-spacer-`); // a plate takes its spacers along
	const kept = <T>(all: Record<string, T> | undefined, gone: (key: string) => boolean) =>
		Object.fromEntries(Object.entries(all ?? {}).filter(([key]) => !gone(key)));
	return {
		...d,
		added: (d.added ?? [])
			.filter((a) => a.id !== id)
			.map((a) => (a.kind === 'wall' && a.beside?.includes(id) ? { ...a, beside: a.beside.map((w) => (w === id ? '' : w)) } : a)),
		edits: kept(d.edits, own) as Design['edits'],
		choices: kept(d.choices, (m) => partsOf(m).some(own)) as Design['choices'],
		splits: (d.splits ?? []).filter((s) => !own(s.panel)),
		features: (d.features ?? []).filter((f) => !own(f.panel)),
		pins: (d.pins ?? []).filter((p) => !own(p.part))
	};
}

/** How far along an axis a copy of a part stands clear: past itself, and past what the part itself does not touch or meet [mm]. */
export function clearOf(part: PartOut, others: readonly PartOut[], axis: Axis, gap: number): number {
	const box = (p: PartOut) => AXES.map((a) => rangeOf(p, a.axis));
	const overlap = (p: [number, number], q: [number, number]) => p[0] < q[1] - SAME && q[0] < p[1] - SAME;
	const own = box(part);
	const [low, high] = own[axis]!;
	const apart = others.map(box).filter((o) => !o.every((range, k) => overlap(range, own[k]!)));
	let at = high + gap;
	for (;;) {
		const there = own.map((range, k): [number, number] => (k === axis ? [at, at + high - low] : range));
		const inTheWay = apart.filter((o) => o.every((range, k) => overlap(range, there[k]!)));
		if (!inTheWay.length) return at - low;
		at = Math.max(...inTheWay.map((o) => o[axis]![1])) + gap;
	}
}

/** Where the mirror stands that puts a part's image clear of everything along an axis [mm]. */
export function mirrorBeside(part: PartOut, others: readonly PartOut[], axis: Axis, gap: number): number {
	const [low, high] = rangeOf(part, axis);
	return (low + clearOf(part, others, axis, gap) + high) / 2;
}

/** Gives new panels names and labels that nothing has yet, nor another one of them. */
export function naming(taken: Iterable<string>, labels: Iterable<string>) {
	const [used, seen] = [new Set(taken), new Set(labels)];
	return (stem: string, called: string) => {
		const [id, label] = [freshName(stem, used), freshLabel(called, seen)];
		used.add(id);
		seen.add(label);
		return { id, label };
	};
}

/** A name that nothing in the design has yet. */
export function freshName(stem: string, taken: ReadonlySet<string>): string {
	for (let i = 1; ; i++) if (!taken.has(`${stem}-${i}`)) return `${stem}-${i}`;
}
