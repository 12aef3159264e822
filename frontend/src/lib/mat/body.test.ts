/** A part's body is closed, holds its area times its thickness, and faces outward; checked against the library's own extrusion. */
import { EdgesGeometry, ExtrudeGeometry, Path, Shape, Vector2, Vector3, type BufferGeometry } from 'three';
import { describe, expect, it } from 'vitest';
import { bodyOf, edgesOf, ringsOf } from './body';

const slab = { low: -1, high: 2 };
const profile = {
	outer: [
		[0, 0],
		[40, 0],
		[40, 20],
		[25, 20],
		[25, 12],
		[22, 12],
		[22, 20],
		[0, 20]
	] as [number, number][],
	holes: [
		[
			[5, 5],
			[5, 9],
			[12, 9],
			[12, 5]
		]
	] as [number, number][][],
	circles: []
};
const areaOfIt = 40 * 20 - 3 * 8 - 7 * 4;

function triangles(g: BufferGeometry) {
	const at = g.getAttribute('position');
	const corner = (i: number) => new Vector3().fromBufferAttribute(at, i);
	return Array.from({ length: at.count / 3 }, (_, k) => [corner(3 * k), corner(3 * k + 1), corner(3 * k + 2)] as const);
}
const name = (v: Vector3) => `${v.x} ${v.y} ${v.z}`;

describe.each([
	['as it is', profile],
	[
		'with its rings the other way round and closed twice',
		{
			...profile,
			outer: [...profile.outer, profile.outer[0]!].reverse(),
			holes: profile.holes.map((h) => [...h].reverse())
		}
	]
])('the body of a notched sheet with a hole, %s', (_, given) => {
	const body = bodyOf(ringsOf(given), slab);

	it('is closed and holds area times thickness', () => {
		const sides = new Map<string, number>();
		let volume = 0;
		for (const [a, b, c] of triangles(body)) {
			volume += a.dot(b.clone().cross(c)) / 6;
			for (const [p, q] of [
				[a, b],
				[b, c],
				[c, a]
			] as const) {
				sides.set(`${name(p)}|${name(q)}`, (sides.get(`${name(p)}|${name(q)}`) ?? 0) + 1);
			}
		}
		expect(volume).toBeCloseTo(areaOfIt * 3, 6);
		for (const side of sides.keys()) expect(sides.get(side.split('|').reverse().join('|')), side).toBe(sides.get(side));
	});
	it('has normals that are square to its triangles and face outward', () => {
		const normals = body.getAttribute('normal');
		triangles(body).forEach(([a, b, c], k) => {
			const square = b.clone().sub(a).cross(c.clone().sub(a)).normalize();
			for (const i of [0, 1, 2]) expect(square.dot(new Vector3().fromBufferAttribute(normals, 3 * k + i))).toBeCloseTo(1, 6);
		});
	});
	it('has the edges that the library finds in its own extrusion', () => {
		const shape = new Shape(profile.outer.map(([x, y]) => new Vector2(x, y)));
		shape.holes = profile.holes.map((h) => new Path(h.map(([x, y]) => new Vector2(x, y))));
		const theirs = new EdgesGeometry(new ExtrudeGeometry(shape, { depth: 3, bevelEnabled: false }).translate(0, 0, -1), 25);
		const lines = (g: BufferGeometry) => {
			const at = g.getAttribute('position');
			const ends = Array.from({ length: at.count }, (_, i) => name(new Vector3().fromBufferAttribute(at, i)));
			return ends.flatMap((e, i) => (i % 2 ? [] : [[e, ends[i + 1]!].sort().join('|')])).sort();
		};
		expect(lines(edgesOf(ringsOf(given), slab))).toEqual(lines(theirs));
	});
});

it('draws no line down a round wall', () => {
	const round = Array.from({ length: 40 }, (_, i): [number, number] => [Math.cos((i * Math.PI) / 20), Math.sin((i * Math.PI) / 20)]);
	expect(edgesOf(ringsOf({ ...profile, outer: round, holes: [] }), slab).getAttribute('position').count).toBe(2 * 2 * 40);
});

it('says what room a body and its edges take without asking their points', () => {
	for (const made of [bodyOf(ringsOf(profile), slab), edgesOf(ringsOf(profile), slab)]) {
		const [box, ball] = [made.boundingBox!.clone(), made.boundingSphere!.clone()];
		made.computeBoundingBox();
		made.computeBoundingSphere();
		expect(box.equals(made.boundingBox!)).toBe(true);
		expect(ball.center.distanceTo(made.boundingSphere!.center) + made.boundingSphere!.radius).toBeLessThanOrEqual(ball.radius + 1e-6);
	}
});
