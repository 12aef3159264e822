/** What is held by its handles, and how far it has been moved. */
import type { Object3D, Raycaster, Vector3 } from 'three';
import { type Axis, type AxisHandles, type Movable, snapped } from './handles';

export class Hold {
	/** null: nothing has handles */
	movable: Movable | null = null;
	private held: { axis: Axis; from: number; by: number; met: boolean } | null = null;

	constructor(private readonly handles: AxisHandles) {}

	get busy(): boolean {
		return this.held !== null;
	}
	/** Give something handles, or nothing. */
	offer(movable: Movable | null): void {
		[this.movable, this.held] = [movable, null];
	}
	private along(caster: Raycaster, world: Object3D, axis: Axis): number | null {
		return this.handles.follow(caster.ray.applyMatrix4(world.matrixWorld.clone().invert()), axis);
	}
	/** Take hold of the handle that a ray hits; false where there is none. */
	take(caster: Raycaster, world: Object3D): boolean {
		const axis = this.handles.hit(caster);
		const from = axis === null ? null : this.along(caster, world, axis);
		if (axis === null || from === null || !this.movable) return false;
		this.held = { axis, from, by: 0, met: false };
		this.handles.light(axis);
		return true;
	}
	/** Follow a ray, to a face of another part where one is within reach; null while nothing is held. */
	follow(caster: Raycaster, world: Object3D, reach: number): { axis: Axis; by: number; met: boolean } | null {
		if (!this.held || !this.movable) return null;
		const now = this.along(caster, world, this.held.axis);
		if (now !== null) Object.assign(this.held, snapped(now - this.held.from, this.movable.snaps(this.held.axis), reach));
		return { axis: this.held.axis, by: this.held.by, met: this.held.met };
	}
	/** Let go; tells how far it was moved, null where it was not. */
	letGo(): { axis: Axis; by: number } | null {
		const held = this.held;
		this.held = null;
		this.handles.light(null);
		return held && Math.abs(held.by) > 1e-6 ? { axis: held.axis, by: held.by } : null;
	}
	/** Move where a part is seen along with what is held. */
	shift(part: string, at: Vector3): void {
		if (this.held && this.movable?.along.has(part)) at.setComponent(this.held.axis, at.getComponent(this.held.axis) + this.held.by);
	}
}
