/** Corners of an offcut: typed, drawn, or traced; always millimetres, the lower left of the measured box at 0, 0. */
import type { Point } from '../../api/types';
import { MM_PER_INCH, type Unit } from '../../lib/units/units';
import { word } from '../../words/words';

const per = (unit: Unit) => (unit === 'mm' ? 1 : unit === 'thou' ? MM_PER_INCH / 1000 : MM_PER_INCH);

/** Corners as typed, `0,0 300,0 120,180`, in the reader's unit. */
export function readCorners(text: string, unit: Unit): Point[] {
	return text
		.trim()
		.split(/\s+/)
		.filter(Boolean)
		.map((pair) => {
			const [x, y, more] = pair.split(',').map((v) => (v.trim() ? Number(v) : NaN));
			if (!Number.isFinite(x) || !Number.isFinite(y) || more !== undefined)
				throw new Error(word('sheets.is-not-a-corner-write-each', { pair }));
			return [x! * per(unit), y! * per(unit)];
		});
}

/** Corners as they are typed. */
export function writeCorners(corners: readonly Point[], unit: Unit): string {
	const digits = unit === 'mm' ? 1 : unit === 'thou' ? 0 : 3;
	return corners.map((p) => p.map((v) => String(Number((v / per(unit)).toFixed(digits)))).join(',')).join(' ');
}

/** The nearest place on a grid of `step` inside the measured box; its far sides count as lines of the grid. */
export function snapped(p: Point, step: number, width: number, height: number): Point {
	const near = (v: number, most: number) => {
		const inside = Math.min(Math.max(v, 0), most);
		const line = Math.round(inside / step) * step;
		return most - inside < step / 2 ? most : Math.min(line, most);
	};
	return [near(p[0], width), near(p[1], height)];
}

/** The rectangle between two places, or nothing when it has no area. */
export function boxRing(a: Point, b: Point): Point[] | null {
	const [x0, x1] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
	const [y0, y1] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
	return x1 > x0 && y1 > y0
		? [
				[x0, y0],
				[x1, y0],
				[x1, y1],
				[x0, y1]
			]
		: null;
}

/** The corner within reach of a point; the one that would come next where there is none. */
export function cornerAt(corners: readonly Point[], p: Point, reach: number): number {
	const near = corners.findIndex((c) => Math.hypot(c[0] - p[0], c[1] - p[1]) < reach);
	return near >= 0 ? near : corners.length;
}

/** The sides between corners, closed once there are three. */
export function sidesOf(corners: readonly Point[]): { p: Point; q: Point }[] {
	const round = corners.map((p, i) => ({ p, q: corners[(i + 1) % corners.length]! }));
	return corners.length > 2 ? round : round.slice(0, corners.length - 1);
}
