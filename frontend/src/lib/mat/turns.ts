/** Handles to turn something about a line: a quarter of a ring for each turn that it may make, picked and followed with the pointer. */
import { DoubleSide, Group, Mesh, MeshBasicMaterial, Plane, Quaternion, type Ray, type Raycaster, TorusGeometry, Vector3 } from 'three';

export type Three = [number, number, number];
/** A turn that is offered, about a direction of the world, against the clock seen from where that points to. */
export interface Turn {
	key: string;
	way: Three;
}
const PLAIN = '#d9efe8';
const HELD = '#ffffff';
const UP = new Vector3(0, 0, 1); // about which rings are made
const RADIUS = 1.15; // beyond the tips of the arrows
const WHOLE = 15; // degrees between the turns that a hand mostly means
const NEAR = 3; // degrees from which on it is one of those

/** The angle at which a ray passes about a line through `at` [degrees]; null where one looks along the plane of the turn. */
export function angleOf(ray: Ray, at: Vector3, way: Three): number | null {
	const axis = new Vector3(...way);
	if (Math.abs(ray.direction.dot(axis)) < 0.03) return null;
	const met = ray.intersectPlane(new Plane().setFromNormalAndCoplanarPoint(axis, at), new Vector3());
	if (!met) return null;
	const from = new Vector3(1, 0, 0).applyQuaternion(new Quaternion().setFromUnitVectors(UP, axis));
	const v = met.sub(at);
	return (Math.atan2(new Vector3().crossVectors(from, v).dot(axis), from.dot(v)) * 180) / Math.PI;
}

/** A turn between two angles as a hand means it: the shorter way round, to multiples of 15° where it is near one, else to whole degrees. */
export function meant(from: number, to: number): { by: number; met: boolean } {
	const by = ((((to - from) % 360) + 540) % 360) - 180;
	const near = Math.round(by / WHOLE) * WHOLE;
	return Math.abs(by - near) <= NEAR ? { by: near, met: near !== 0 } : { by: Math.round(by), met: false };
}

export class TurnHandles {
	readonly group = new Group();
	readonly at = new Vector3();
	private rings: Mesh<TorusGeometry, MeshBasicMaterial>[] = [];
	private turns: readonly Turn[] = [];

	constructor() {
		this.group.visible = false;
	}
	/** Show a handle for each turn about a place; `reach` is how far they go from it [mm]. */
	show(at: Vector3, reach: number, turns: readonly Turn[]): void {
		if (turns.map((t) => t.key + t.way.join()).join() !== this.turns.map((t) => t.key + t.way.join()).join()) this.make(turns);
		this.at.copy(at);
		this.group.position.copy(at);
		this.group.scale.setScalar(reach);
		this.group.visible = turns.length > 0;
	}
	hide(): void {
		this.group.visible = false;
	}
	light(turn: Turn | null): void {
		this.rings.forEach((ring, i) => {
			ring.material.color.set(turn?.key === this.turns[i]!.key ? HELD : PLAIN);
			ring.material.opacity = !turn || turn.key === this.turns[i]!.key ? 0.9 : 0.3;
		});
	}
	/** Which turn's handle lies under a ray. */
	hit(caster: Raycaster): Turn | null {
		if (!this.group.visible) return null;
		const found = caster.intersectObjects(this.rings)[0];
		return found ? this.turns[this.rings.indexOf(found.object as (typeof this.rings)[number])]! : null;
	}
	dispose(): void {
		for (const ring of this.rings) {
			ring.geometry.dispose();
			ring.material.dispose();
		}
		this.group.clear();
		this.rings = [];
	}
	private make(turns: readonly Turn[]): void {
		this.dispose();
		this.turns = turns;
		this.rings = turns.map((turn) => {
			const paint = new MeshBasicMaterial({ color: PLAIN, depthTest: false, transparent: true, opacity: 0.9, side: DoubleSide });
			const ring = new Mesh(new TorusGeometry(RADIUS, 0.03, 8, 24, Math.PI / 2), paint);
			ring.quaternion.setFromUnitVectors(UP, new Vector3(...turn.way));
			ring.renderOrder = 6;
			this.group.add(ring);
			return ring;
		});
	}
}
