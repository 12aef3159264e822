/** A sheet part as a body: its outline and holes as two faces, walls between them, and the lines where they meet. */
import { Box3, BufferAttribute, BufferGeometry, ShapeUtils, Sphere, Vector2, Vector3 } from 'three';
import type { Profile } from '../../api/types';

const SHARP_TURN = Math.cos((25 * Math.PI) / 180); // walls that meet more gently are one surface: no line between them

interface Bounded {
	low: number;
	high: number;
}

/** A ring's points without those that lie on the one before, in the wanted direction. */
function ringOf(points: readonly (readonly number[])[], anticlockwise: boolean): Vector2[] {
	const ring: Vector2[] = [];
	for (const p of points) {
		const last = ring[ring.length - 1];
		if (!last || last.x !== p[0] || last.y !== p[1]) ring.push(new Vector2(p[0], p[1]));
	}
	const [first, last] = [ring[0], ring[ring.length - 1]];
	if (ring.length > 1 && first!.equals(last!)) ring.pop();
	return ShapeUtils.isClockWise(ring) === anticlockwise ? ring.reverse() : ring;
}

/** Which way the wall after each point faces: out of the sheet. */
export function wallNormals(ring: Vector2[]): Vector2[] {
	return ring.map((a, i) => {
		const b = ring[(i + 1) % ring.length]!;
		const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
		return new Vector2((b.y - a.y) / length, (a.x - b.x) / length);
	});
}

export function ringsOf(profile: Profile): Vector2[][] {
	return [ringOf(profile.outer, true), ...(profile.holes ?? []).map((h) => ringOf(h, false))];
}

/** A geometry of points, told what room it takes: the outline says so, which is quicker than asking all points again. */
function withPoints(at: Float32Array, rings: Vector2[][], { low, high }: Bounded): BufferGeometry {
	const made = new BufferGeometry().setAttribute('position', new BufferAttribute(at, 3));
	const box = (made.boundingBox = new Box3());
	for (const p of rings[0]!) {
		box.min.set(Math.min(box.min.x, p.x), Math.min(box.min.y, p.y), low);
		box.max.set(Math.max(box.max.x, p.x), Math.max(box.max.y, p.y), high);
	}
	made.boundingSphere = new Sphere(box.getCenter(new Vector3()), box.min.distanceTo(box.max) / 2);
	return made;
}

/** The body of a sheet whose faces lie at `low` and `high`: triangles with flat normals. */
export function bodyOf(rings: Vector2[][], bounded: Bounded): BufferGeometry {
	const { low, high } = bounded;
	const faces = ShapeUtils.triangulateShape(rings[0]!, rings.slice(1)) as [number, number, number][];
	const points = rings.flat();
	const count = 6 * faces.length + 6 * points.length;
	const at = new Float32Array(3 * count);
	const normals = new Float32Array(3 * count);
	let k = 0;
	const put = (p: Vector2, z: number, nx: number, ny: number, nz: number) => {
		at[k] = p.x;
		at[k + 1] = p.y;
		at[k + 2] = z;
		normals[k] = nx;
		normals[k + 1] = ny;
		normals[k + 2] = nz;
		k += 3;
	};
	for (const [a, b, c] of faces) {
		for (const i of [a, b, c]) put(points[i]!, high, 0, 0, 1);
		for (const i of [c, b, a]) put(points[i]!, low, 0, 0, -1);
	}
	for (const ring of rings) {
		const walls = wallNormals(ring);
		for (const [i, a] of ring.entries()) {
			const b = ring[(i + 1) % ring.length]!;
			const { x, y } = walls[i]!;
			put(a, low, x, y, 0);
			put(b, low, x, y, 0);
			put(b, high, x, y, 0);
			put(a, low, x, y, 0);
			put(b, high, x, y, 0);
			put(a, high, x, y, 0);
		}
	}
	return withPoints(at, rings, bounded).setAttribute('normal', new BufferAttribute(normals, 3));
}

/** The lines of a sheet's edges: both outlines, and a line across at each sharp corner. */
export function edgesOf(rings: Vector2[][], bounded: Bounded): BufferGeometry {
	const { low, high } = bounded;
	const ends: number[] = [];
	for (const ring of rings) {
		const walls = wallNormals(ring);
		for (const [i, a] of ring.entries()) {
			const b = ring[(i + 1) % ring.length]!;
			ends.push(a.x, a.y, low, b.x, b.y, low, a.x, a.y, high, b.x, b.y, high);
			const before = walls[(i + ring.length - 1) % ring.length]!;
			if (before.dot(walls[i]!) < SHARP_TURN) ends.push(a.x, a.y, low, a.x, a.y, high);
		}
	}
	return withPoints(new Float32Array(ends), rings, bounded);
}
