/** Handles to move a part along an axis of the world: an arrow each way, picked and followed with the pointer. */
import { ConeGeometry, CylinderGeometry, Group, Mesh, MeshBasicMaterial, type Ray, type Raycaster, Vector3 } from 'three';

import type { Three, Turn } from './turns';

export type Axis = 0 | 1 | 2;
/** What can be moved by the handles on one part. */
export interface Movable {
	part: string;
	/** the parts that go along, itself among them */
	along: ReadonlySet<string>;
	/** how far it may snap along an axis */
	snaps: (axis: Axis) => number[];
	/** how it may be turned, and the place about which; none: it may not */
	turns?: readonly Turn[];
	about?: Three;
}
/** How far something was moved along an axis [mm], or turned [degrees]; whether that met a face, or a turn that hands mostly mean. */
export type Moved = ({ axis: Axis } | { turn: Turn }) & { by: number; met: boolean };
const WAYS = [new Vector3(1, 0, 0), new Vector3(0, 1, 0), new Vector3(0, 0, 1)];
const PLAIN = '#d9efe8';
const HELD = '#ffffff';
const UP = new Vector3(0, 1, 0); // the way in which cones and rods are made

/** Where on a line through `at` along `way` a ray passes nearest, counted from `at`; null when it runs along the line. */
export function along(ray: Ray, at: Vector3, way: Vector3): number | null {
	const b = ray.direction.dot(way);
	const off = new Vector3().subVectors(ray.origin, at);
	const d = 1 - b * b;
	return d < 1e-4 ? null : (way.dot(off) - b * ray.direction.dot(off)) / d;
}

/** The snap nearest to a distance, if it is near enough; else the distance, rounded to what a hand can mean. */
export function snapped(by: number, snaps: readonly number[], reach: number): { by: number; met: boolean } {
	const near = snaps.reduce((best, s) => (Math.abs(s - by) < Math.abs(best - by) ? s : best), Infinity);
	return Math.abs(near - by) <= reach ? { by: near, met: true } : { by: Math.round(by * 2) / 2, met: false };
}

export class AxisHandles {
	readonly group = new Group();
	readonly at = new Vector3();
	private readonly arms: Group[];

	constructor() {
		this.arms = WAYS.map((way, axis) => {
			const arm = new Group();
			const paint = new MeshBasicMaterial({ color: PLAIN, depthTest: false, transparent: true, opacity: 0.9 });
			for (const sign of [1, -1]) {
				const rod = new Mesh(new CylinderGeometry(0.018, 0.018, 0.5), paint);
				const tip = new Mesh(new ConeGeometry(0.075, 0.22, 12), paint);
				rod.position.y = sign * 0.5;
				tip.position.y = sign * 0.86;
				if (sign < 0) tip.rotation.x = Math.PI;
				for (const m of [rod, tip]) {
					m.renderOrder = 6;
					m.userData.axis = axis;
					arm.add(m);
				}
			}
			arm.quaternion.setFromUnitVectors(UP, way);
			this.group.add(arm);
			return arm;
		});
		this.group.visible = false;
	}

	/** Show the handles about a place; `reach` is how far they go from it [mm]. */
	show(at: Vector3, reach: number): void {
		this.at.copy(at);
		this.group.position.copy(at);
		this.group.scale.setScalar(reach);
		this.group.visible = true;
	}
	hide(): void {
		this.group.visible = false;
	}
	light(axis: Axis | null): void {
		this.arms.forEach((arm, i) => {
			const paint = (arm.children[0] as Mesh<CylinderGeometry, MeshBasicMaterial>).material;
			paint.color.set(i === axis ? HELD : PLAIN);
			paint.opacity = axis === null || i === axis ? 0.9 : 0.3;
		});
	}
	/** Which arrow lies under a ray. */
	hit(caster: Raycaster): Axis | null {
		if (!this.group.visible) return null;
		const found = caster.intersectObjects(this.arms, true)[0];
		return found ? (found.object.userData.axis as Axis) : null;
	}
	/** How far along an axis a ray, in the core's own directions, passes. */
	follow(ray: Ray, axis: Axis): number | null {
		return along(ray, this.at, WAYS[axis]!);
	}
	dispose(): void {
		for (const arm of this.arms)
			for (const m of arm.children as Mesh<CylinderGeometry, MeshBasicMaterial>[]) {
				m.geometry.dispose();
				m.material.dispose();
			}
	}
}
