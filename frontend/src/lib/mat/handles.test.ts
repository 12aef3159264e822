import { Ray, Raycaster, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { along, AxisHandles, snapped } from './handles';

const v = (x: number, y: number, z: number) => new Vector3(x, y, z);

describe('handles', () => {
	it('find how far along an axis the pointer is, from wherever one looks', () => {
		for (const eye of [v(40, -300, 200), v(-200, -100, 90), v(10, 20, 400)]) {
			const ray = new Ray(eye, v(35, 0, 0).sub(eye).normalize());
			expect(along(ray, v(10, 0, 0), v(1, 0, 0))).toBeCloseTo(25, 6);
		}
		expect(along(new Ray(v(-9, 0, 0), v(1, 0, 0)), v(0, 0, 0), v(1, 0, 0))).toBeNull(); // one looks along it: it says nothing
	});
	it('snap to a face that is near, else move by half millimetres', () => {
		expect(snapped(11.8, [-4, 12.34, 40], 1)).toEqual({ by: 12.34, met: true });
		expect(snapped(11.13, [-4, 12.34, 40], 1)).toEqual({ by: 11, met: false });
		expect(snapped(3.3, [], 1)).toEqual({ by: 3.5, met: false });
	});
	it('are hit where an arrow is, and only while they are shown', () => {
		const handles = new AxisHandles();
		const caster = new Raycaster(v(8.6, -100, 0), v(0, 1, 0));
		handles.group.updateMatrixWorld(true);
		expect(handles.hit(caster)).toBeNull();
		handles.show(v(0, 0, 0), 10);
		handles.group.updateMatrixWorld(true);
		expect(handles.hit(caster)).toBe(0);
		expect(handles.hit(new Raycaster(v(0, -100, -8.6), v(0, 1, 0)))).toBe(2);
		expect(handles.hit(new Raycaster(v(5, -100, 5), v(0, 1, 0)))).toBeNull();
		handles.dispose();
	});
});
