/** Where the head is at a moment of a sheet's plan, and what is burned by then. */
import type { Point, SheetPlan, Stroke } from '../../api/types';
import { along, contourPoints } from './outlines';

export interface Drawn {
	stroke: Stroke;
	points: Point[];
	/** the whole outline, to be filled */
	d: string;
	/** what the beam burns of it */
	line: string;
}

const ON_IT = 0.05; // [mm] a stretch that is left out lies this near to its edge

/** What is left of an edge without the stretches that another part's cut burns: from and to, as shares of it. */
export function keptOf(a: Point, b: Point, leftOut: readonly (readonly Point[])[]): [number, number][] {
	const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
	const length = Math.hypot(dx, dy);
	if (!length) return [[0, 1]];
	const along = (p: Point) => ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / length ** 2;
	const off = (p: Point) => Math.abs((p[0] - a[0]) * dy - (p[1] - a[1]) * dx) / length;
	const gone = leftOut
		.filter((s) => s.every((p) => off(p) < ON_IT))
		.map((s) => s.map(along).sort((x, y) => x - y) as [number, number])
		.filter(([low, high]) => high > 0 && low < 1)
		.sort((x, y) => x[0] - y[0]);
	const kept: [number, number][] = [];
	let at = 0;
	for (const [low, high] of gone) {
		if (low > at) kept.push([at, low]);
		at = Math.max(at, high);
	}
	if (at < 1) kept.push([at, 1]);
	return kept;
}

/** The outline of a path for the eye, without what another part's cut burns. */
function outlineOf(points: Point[], leftOut: readonly (readonly Point[])[]): string {
	const at = (p: Point) => `${p[0].toFixed(2)} ${p[1].toFixed(2)}`;
	if (!leftOut.length) return points.map((p, i) => `${i ? 'L' : 'M'}${at(p)}`).join('');
	let d = '';
	for (let i = 1; i < points.length; i++) {
		const [a, b] = [points[i - 1]!, points[i]!];
		for (const [low, high] of keptOf(a, b, leftOut)) {
			const here = (s: number): Point => [a[0] + (b[0] - a[0]) * s, a[1] + (b[1] - a[1]) * s];
			d += `M${at(here(low))}L${at(here(high))}`;
		}
	}
	return d;
}

export function drawnStrokes(sheet: SheetPlan): Drawn[] {
	return sheet.strokes.map((stroke) => {
		const lines = [stroke.path.contour, ...(stroke.path.rest ?? [])].map(contourPoints);
		if (stroke.path.lead) lines[0]!.unshift(stroke.path.lead as unknown as Point);
		const leftOut = (stroke.path.left_out ?? []) as unknown as Point[][];
		const d = lines.map((points) => outlineOf(points, [])).join('');
		return { stroke, points: lines.flat(), d, line: leftOut.length ? lines.map((p) => outlineOf(p, leftOut)).join('') : d };
	});
}

export interface Head {
	at: Point;
	from: Point | null;
	burning: boolean;
	/** index of the stroke under way */
	stroke: number;
	/** how much of it is burned, 0..1 */
	share: number;
}

/** How far along a row of points its spot nearest to `p` lies, 0..1. */
export function shareOf(points: Point[], p: Point): number {
	let [best, at, walked] = [Infinity, 0, 0];
	for (let i = 1; i < points.length; i++) {
		const [a, b] = [points[i - 1]!, points[i]!];
		const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
		const length = Math.hypot(dx, dy);
		const k = length ? Math.min(Math.max(((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / length ** 2, 0), 1) : 0;
		const off = Math.hypot(a[0] + dx * k - p[0], a[1] + dy * k - p[1]);
		if (off < best - 1e-9) [best, at] = [off, walked + k * length];
		walked += length;
	}
	return walked ? at / walked : 0;
}

/** The head as a machine reports it: on a path by name, or on its way at about moment `t`. */
export function headOf(drawn: Drawn[], told: { x: number; y: number; burning: boolean; path: string }, t: number): Head {
	const at: Point = [told.x, told.y];
	const stroke = drawn.findIndex((d) => d.stroke.path.id === told.path);
	if (stroke < 0) return { ...headAt(drawn, t), at, from: null, burning: false, share: 0 };
	return { at, from: null, burning: told.burning, stroke, share: shareOf(drawn[stroke]!.points, at) };
}

export function headAt(drawn: Drawn[], t: number): Head {
	let last: Point = [0, 0];
	for (let i = 0; i < drawn.length; i++) {
		const { stroke, points } = drawn[i]!;
		const start = points[0]!;
		if (t < stroke.burn_from) {
			const share = Math.max(0, (t - stroke.travel_from) / Math.max(stroke.burn_from - stroke.travel_from, 1e-9));
			return {
				at: [last[0] + (start[0] - last[0]) * share, last[1] + (start[1] - last[1]) * share],
				from: last,
				burning: false,
				stroke: i,
				share: 0
			};
		}
		if (t < stroke.end) {
			const share = (t - stroke.burn_from) / Math.max(stroke.end - stroke.burn_from, 1e-9);
			return { at: along(points, share), from: null, burning: true, stroke: i, share };
		}
		last = points[points.length - 1]!;
	}
	return { at: last, from: null, burning: false, stroke: drawn.length, share: 1 };
}
