/** Where a panel may snap to: its faces against the faces of the others, along one axis of the world. */
import type { PartOut } from '../../api/types';

export type Axis = 0 | 1 | 2;
export const AXES: { axis: Axis; name: string; id: 'x' | 'y' | 'z' }[] = [
	{ axis: 0, name: 'to the right', id: 'x' },
	{ axis: 1, name: 'to the back', id: 'y' },
	{ axis: 2, name: 'up', id: 'z' }
];
const SAME = 0.005; // [mm] two places nearer than this are one

/** The range that a part takes along an axis [mm]. */
export function rangeOf(part: PartOut, axis: Axis): [number, number] {
	const x = part.pose.x as unknown as number[];
	const y = part.pose.y as unknown as number[];
	const o = part.pose.origin as unknown as number[];
	const n = [x[1]! * y[2]! - x[2]! * y[1]!, x[2]! * y[0]! - x[0]! * y[2]!, x[0]! * y[1]! - x[1]! * y[0]!];
	let [low, high] = [Infinity, -Infinity];
	for (const p of part.profile.outer as unknown as number[][])
		for (const h of [part.low, part.high]) {
			const v = o[axis]! + p[0]! * x[axis]! + p[1]! * y[axis]! + h * n[axis]!;
			low = Math.min(low, v);
			high = Math.max(high, v);
		}
	return [low, high];
}

/** The distances by which a part can be moved along an axis so that a face of it meets a face of another, ascending. */
export function snapsOf(part: PartOut, others: readonly PartOut[], axis: Axis): number[] {
	const [low, high] = rangeOf(part, axis);
	const found: number[] = [];
	for (const other of others) {
		if (other.id === part.id) continue;
		const [a, b] = rangeOf(other, axis);
		found.push(a - low, b - high, a - high, b - low, (a + b) / 2 - (low + high) / 2);
	}
	return found.filter((d) => Math.abs(d) > SAME).sort((a, b) => a - b);
}

/** The nearest snap in a direction, or null when there is none. */
export function nextSnap(part: PartOut, others: readonly PartOut[], axis: Axis, forward: boolean): number | null {
	const snaps = snapsOf(part, others, axis);
	return (forward ? snaps.find((d) => d > 0) : [...snaps].reverse().find((d) => d < 0)) ?? null;
}

/** The panel of the design that a part comes from: pieces of a divided panel belong to it. */
export function panelOf(part: string, divided: ReadonlySet<string>): string {
	const root = part.split('.')[0]!;
	return divided.has(root) ? root : part;
}

/** A name that nothing in the design has yet. */
export function freshName(stem: string, taken: ReadonlySet<string>): string {
	for (let i = 1; ; i++) if (!taken.has(`${stem}-${i}`)) return `${stem}-${i}`;
}
