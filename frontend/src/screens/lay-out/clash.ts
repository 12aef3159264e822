/** Whether a part that is being moved comes too near to others or to the sheet's edge: quick enough for every frame; the core has the last word. */
import { boundsOf, type Place } from '../../lib/mat/outlines';

export type Line = readonly (readonly number[])[];
type Pt = readonly number[];

/** A ring where its part lies. */
export function placedRing(ring: Line, { turn, x, y, mirrored }: Place): number[][] {
	const a = (turn * Math.PI) / 180;
	const [c, s] = [Math.cos(a), Math.sin(a)];
	const side = mirrored ? -1 : 1;
	return ring.map((p) => [side * p[0]! * c - p[1]! * s + x, side * p[0]! * s + p[1]! * c + y]);
}

export function inside(ring: Line, p: Pt): boolean {
	let odd = false;
	for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
		const [a, b] = [ring[i]!, ring[j]!];
		if (a[1]! > p[1]! !== b[1]! > p[1]! && p[0]! < ((b[0]! - a[0]!) * (p[1]! - a[1]!)) / (b[1]! - a[1]!) + a[0]!) odd = !odd;
	}
	return odd;
}

const cross = (o: Pt, a: Pt, b: Pt) => (a[0]! - o[0]!) * (b[1]! - o[1]!) - (a[1]! - o[1]!) * (b[0]! - o[0]!);

function pointToEdge(p: Pt, a: Pt, b: Pt): number {
	const [dx, dy] = [b[0]! - a[0]!, b[1]! - a[1]!];
	const t = Math.min(Math.max(((p[0]! - a[0]!) * dx + (p[1]! - a[1]!) * dy) / Math.max(dx * dx + dy * dy, 1e-18), 0), 1);
	return Math.hypot(p[0]! - a[0]! - t * dx, p[1]! - a[1]! - t * dy);
}

/** Whether two edges cross or are nearer to each other than `reach`. */
function edgesNear(a: Pt, b: Pt, c: Pt, d: Pt, reach: number): boolean {
	if (cross(a, b, c) > 0 !== cross(a, b, d) > 0 && cross(c, d, a) > 0 !== cross(c, d, b) > 0) return true;
	return Math.min(pointToEdge(a, c, d), pointToEdge(b, c, d), pointToEdge(c, a, b), pointToEdge(d, a, b)) < reach;
}

function ringsNear(one: Line, other: Line, reach: number): boolean {
	const box = boundsOf(other);
	for (let i = 0; i < one.length; i++) {
		const [a, b] = [one[i]!, one[(i + 1) % one.length]!];
		if (Math.max(a[0]!, b[0]!) < box.x0 - reach || Math.min(a[0]!, b[0]!) > box.x1 + reach) continue;
		if (Math.max(a[1]!, b[1]!) < box.y0 - reach || Math.min(a[1]!, b[1]!) > box.y1 + reach) continue;
		for (let j = 0; j < other.length; j++) if (edgesNear(a, b, other[j]!, other[(j + 1) % other.length]!, reach)) return true;
	}
	return false;
}

/** Outer edge and holes of a part where it lies. */
export interface Lying {
	outer: Line;
	holes: readonly Line[];
}

/** Whether two parts overlap or lie nearer than `reach`; one may lie in a hole of the other. */
export function tooNear(one: Lying, other: Lying, reach: number): boolean {
	const [a, b] = [boundsOf(one.outer), boundsOf(other.outer)];
	if (a.x0 > b.x1 + reach || b.x0 > a.x1 + reach || a.y0 > b.y1 + reach || b.y0 > a.y1 + reach) return false;
	const hair = Math.max(reach - 1e-3, 1e-3);
	for (const r of [one.outer, ...one.holes]) for (const q of [other.outer, ...other.holes]) if (ringsNear(r, q, hair)) return true;
	const lies = (p: Pt, part: Lying) => inside(part.outer, p) && !part.holes.some((h) => inside(h, p));
	return lies(one.outer[0]!, other) || lies(other.outer[0]!, one);
}

const onEdge = (p: Pt, ring: Line) => ring.some((a, i) => pointToEdge(p, a, ring[(i + 1) % ring.length]!) < 1e-3);

/** Whether a part keeps its margin on a sheet. */
export function keepsMargin(part: Lying, sheet: Line, margin: number): boolean {
	if (margin < 1e-3) return part.outer.every((p) => inside(sheet, p) || onEdge(p, sheet));
	return inside(sheet, part.outer[0]!) && !ringsNear(part.outer, sheet, margin - 1e-3);
}
