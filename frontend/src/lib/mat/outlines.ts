/** Shapes of the core as SVG paths. The core's y points up; a group with scale(1 -1) turns it on the mat. */
import type { Contour, Point, Profile } from '../../api/types';

export interface Bounds {
	x0: number;
	y0: number;
	x1: number;
	y1: number;
}

const n = (v: number) => String(Math.round(v * 1000) / 1000);

/** An image's box in its own pixels' directions, and how it comes to lie in a frame whose corners begin at its lower left. */
export function pictureFrame(frame: readonly (readonly number[])[]) {
	const [a, b, , d] = frame as [number[], number[], number[], number[]];
	const width = Math.hypot(b[0]! - a[0]!, b[1]! - a[1]!);
	const height = Math.hypot(d[0]! - a[0]!, d[1]! - a[1]!);
	const turn = (Math.atan2(b[1]! - a[1]!, b[0]! - a[0]!) * 180) / Math.PI;
	// y points up on the mat, an image's rows count down: from its upper left corner
	const mirrored = (b[0]! - a[0]!) * (d[1]! - a[1]!) < (b[1]! - a[1]!) * (d[0]! - a[0]!);
	return { width, height, transform: `translate(${d[0]} ${d[1]}) rotate(${turn}) scale(1 ${mirrored ? 1 : -1})` };
}

export function ringPath(ring: readonly (readonly number[])[], closed = true): string {
	return ring.map((p, i) => `${i ? 'L' : 'M'}${n(p[0]!)} ${n(p[1]!)}`).join('') + (closed ? 'Z' : '');
}

export function profilePath(profile: Profile): string {
	return [profile.outer, ...(profile.holes ?? [])].map((r) => ringPath(r as Point[])).join('');
}

export function boundsOf(points: readonly (readonly number[])[]): Bounds {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const p of points) {
		x0 = Math.min(x0, p[0]!);
		y0 = Math.min(y0, p[1]!);
		x1 = Math.max(x1, p[0]!);
		y1 = Math.max(y1, p[1]!);
	}
	return { x0, y0, x1, y1 };
}

/** The turn of an arc in radians, counter-clockwise positive; a full circle starts where it ends. */
function sweep(start: Point, end: Point, c: Point, ccw: boolean): number {
	if (Math.hypot(start[0] - end[0], start[1] - end[1]) < 1e-6) return ccw ? 2 * Math.PI : -2 * Math.PI;
	const a0 = Math.atan2(start[1] - c[1], start[0] - c[0]);
	const a1 = Math.atan2(end[1] - c[1], end[0] - c[0]);
	const turn = (((ccw ? a1 - a0 : a0 - a1) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
	return ccw ? turn : -turn;
}

/** Points along a contour, for drawing and for finding the head. */
export function contourPoints(contour: Contour): Point[] {
	const out: Point[] = [];
	for (const s of contour.segments) {
		const start = s.start as Point;
		const end = s.end as Point;
		out.push(start);
		if (!s.centre) continue;
		const c = s.centre as Point;
		const turn = sweep(start, end, c, s.ccw ?? true);
		const steps = Math.max(4, Math.ceil(Math.abs(turn) / 0.12));
		const a0 = Math.atan2(start[1] - c[1], start[0] - c[0]);
		const r = s.radius ?? 0;
		for (let k = 1; k < steps; k++) out.push([c[0] + r * Math.cos(a0 + (turn * k) / steps), c[1] + r * Math.sin(a0 + (turn * k) / steps)]);
	}
	out.push(contour.segments[contour.segments.length - 1]!.end as Point);
	return out;
}

/** A point a share of the way along a row of points. */
export function along(points: Point[], share: number): Point {
	const lengths = points.slice(1).map((p, i) => Math.hypot(p[0] - points[i]![0], p[1] - points[i]![1]));
	let left = share * lengths.reduce((a, b) => a + b, 0);
	for (let i = 0; i < lengths.length; i++) {
		const length = lengths[i]!;
		if (left <= length && length > 0) {
			const [a, b] = [points[i]!, points[i + 1]!];
			return [a[0] + ((b[0] - a[0]) * left) / length, a[1] + ((b[1] - a[1]) * left) / length];
		}
		left -= length;
	}
	return points[points.length - 1]!;
}

/** Ink that can be read on a stock: dark on light sheets, light on dark ones. */
export function inkOn(colour: string): string {
	const [r, g, b] = [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16) / 255);
	const light = 0.2126 * (r ?? 1) ** 2.2 + 0.7152 * (g ?? 1) ** 2.2 + 0.0722 * (b ?? 1) ** 2.2;
	return light > 0.22 ? '#2c2010' : '#fbeedd';
}

/** Where a part lies: mirrored when it is on its back, turned counter-clockwise, then moved. */
export interface Place {
	turn: number;
	x: number;
	y: number;
	mirrored?: boolean;
}

export function placing({ turn, x, y, mirrored }: Place): string {
	return `translate(${n(x)} ${n(y)}) rotate(${turn})${mirrored ? ' scale(-1 1)' : ''}`;
}

/** What makes a label on a placed part read upright again. */
export function upright({ turn, mirrored }: Place): string {
	return `${mirrored ? 'scale(-1 1) ' : ''}rotate(${-turn})`;
}
