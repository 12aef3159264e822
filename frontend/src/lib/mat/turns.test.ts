/** Turning something by the ring about its line. */
import { Object3D, Ray, Raycaster, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { Hold } from './hold';
import { tilted } from './pull';
import { angleOf, meant, type Three, type Turn } from './turns';

const v = (x: number, y: number, z: number) => new Vector3(x, y, z);
const to = (eye: Vector3, at: Vector3) => new Ray(eye, at.clone().sub(eye).normalize());
const caster = (eye: Vector3, at: Vector3) => new Raycaster(eye, at.clone().sub(eye).normalize());

describe('the rings of what can be turned', () => {
	it('find the angle under the pointer, about any line and from either side', () => {
		for (const way of [
			[0, 0, 1],
			[0.6, 0.8, 0],
			[0, -1, 0]
		] as Three[]) {
			// prettier-ignore
			const axis = v(...way);
			const side = v(0.8, -0.6, 0).cross(axis).lengthSq() > 0.1 ? v(0.8, -0.6, 0).cross(axis).normalize() : v(1, 0, 0);
			const centre = v(5, 6, 7);
			const at = (deg: number) =>
				centre.clone().add(
					side
						.clone()
						.applyAxisAngle(axis, (deg * Math.PI) / 180)
						.multiplyScalar(30)
				);
			for (const eye of [
				centre
					.clone()
					.addScaledVector(axis, 200)
					.add(v(9, 4, 3)),
				centre
					.clone()
					.addScaledVector(axis, -150)
					.add(v(3, 9, 6))
			]) {
				const [from, now] = [angleOf(to(eye, at(20)), centre, way)!, angleOf(to(eye, at(75)), centre, way)!];
				expect(meant(from, now)).toEqual({ by: 55, met: false });
			}
		}
		expect(angleOf(to(v(0, -9, 0), v(0, 0, 0)), v(0, 0, 0), [0, 0, 1])).toBeNull(); // one looks along the turn: it says nothing
	});
	it('turn by what a hand means, the shorter way round', () => {
		expect(meant(170, -170)).toEqual({ by: 20, met: false });
		expect(meant(10, 57.4)).toEqual({ by: 45, met: true });
		expect(meant(10, 11.6)).toEqual({ by: 0, met: false }); // a slip of the hand
		expect(meant(0, -38.3)).toEqual({ by: -38, met: false });
	});
	it('are picked, followed and seen, and what is held goes where it is saved', () => {
		const turns: Turn[] = [{ key: 'turn', way: [0, 0, 1] }];
		const hold = new Hold();
		hold.offer({ part: 'a', along: new Set(['a']), snaps: () => [], turns, about: [0, 0, 0] });
		const [eye, world] = [v(0, 0, 100), new Object3D()];
		const on = (deg: number) => v(11.5 * Math.cos((deg * Math.PI) / 180), 11.5 * Math.sin((deg * Math.PI) / 180), 0);
		expect(hold.take(caster(eye, on(30)), world)).toBe(false); // not shown yet
		hold.show(v(0, 0, 0), 10);
		hold.handles.updateMatrixWorld(true);
		expect(hold.take(caster(eye, on(200)), world)).toBe(false); // a quarter only
		expect(hold.take(caster(eye, on(30)), world)).toBe(true);
		const before = hold.follow(caster(eye, on(80)), world, 1);
		expect(before).toMatchObject({ by: 50, met: false });
		expect(hold.follow(caster(eye, on(121)), world, 1)).toMatchObject({ by: 90, met: true });
		expect(before).toMatchObject({ by: 50 }); // what was told stays what it was
		expect(hold.turned('b')).toBeUndefined();
		const seen = v(10, 0, 3).applyMatrix4(tilted(hold.turned('a')));
		expect(seen.distanceTo(v(0, 10, 3))).toBeLessThan(1e-9);
		expect(hold.letGo()).toMatchObject({ turn: turns[0], by: 90 });
		expect(hold.turned('a')).toBeUndefined();
		hold.dispose();
	});
});
