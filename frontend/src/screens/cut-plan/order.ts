/** The order of cuts as people read it: each stroke by its part and what it is of it. */
import type { Stroke } from '../../api/types';
import { word } from '../../words/words';

const WHAT: Record<string, string> = {
	engrave: word('cut-plan.stroke-engraving'),
	score: word('cut-plan.stroke-score'),
	inner: word('cut-plan.stroke-opening'),
	outer: word('cut-plan.stroke-outline')
};
export const AROUND = 30; // strokes shown before and after the one under the mark

/** "Front, opening 2"; the number only where a part has several of a kind. */
export function namesOf(strokes: readonly Stroke[], labels: Record<string, string>): string[] {
	const kind = (s: Stroke) => `${s.path.part}.${s.path.copy}/${s.path.operation}`;
	const copies = new Map<string, Set<number>>();
	const count = new Map<string, number>();
	for (const s of strokes) {
		count.set(kind(s), (count.get(kind(s)) ?? 0) + 1);
		copies.set(s.path.part, (copies.get(s.path.part) ?? new Set()).add(s.path.copy));
	}
	return strokes.map((s) => {
		const label = labels[s.path.part] ?? s.path.part;
		const copy = (copies.get(s.path.part)?.size ?? 1) > 1 ? ` (${s.path.copy + 1})` : '';
		const number = Number(/(\d+)$/.exec(s.path.id)?.[1] ?? 0) + 1;
		return word('cut-plan.of-it', { part: label, copy, what: WHAT[s.path.operation], number: count.get(kind(s))! > 1 ? ` ${number}` : '' });
	});
}

/** The stroke that burns at a moment, or burns next. */
export function atMoment(strokes: readonly Stroke[], t: number): number {
	const found = strokes.findIndex((s) => s.end > t);
	return found < 0 ? strokes.length - 1 : found;
}

/** Which strokes a list shows: all of a few, else those around the mark. */
export function shownRange(count: number, now: number): { start: number; end: number } {
	if (count <= 2 * AROUND + 1) return { start: 0, end: count };
	const start = Math.min(Math.max(now - AROUND, 0), count - 2 * AROUND - 1);
	return { start, end: start + 2 * AROUND + 1 };
}

const ON_IT = 0.05; // mm

function passes(stroke: Stroke, x: number, y: number): boolean {
	return stroke.path.contour.segments.some((s) => {
		if (s.centre) return false;
		const [ax, ay, bx, by] = [...s.start, ...s.end] as [number, number, number, number];
		const [dx, dy] = [bx - ax, by - ay];
		const t = Math.min(Math.max(((x - ax) * dx + (y - ay) * dy) / Math.max(dx * dx + dy * dy, 1e-12), 0), 1);
		return Math.hypot(x - ax - t * dx, y - ay - t * dy) < ON_IT;
	});
}

/** When a part comes free: with its own outline, or later with a neighbour's that burns a line of it. */
export function freedAt(stroke: Stroke, strokes: readonly Stroke[]): number {
	const ends = (stroke.path.left_out ?? []).flatMap((stretch) => {
		const [ax, ay, bx, by] = stretch.flat() as [number, number, number, number];
		const others = strokes.filter((o) => o !== stroke && o.path.operation === 'outer');
		return others.filter((o) => passes(o, (ax + bx) / 2, (ay + by) / 2)).map((o) => o.end);
	});
	return Math.max(stroke.end, ...ends);
}
