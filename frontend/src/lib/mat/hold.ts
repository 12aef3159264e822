/** What is held by its handles, and how far it has been moved or turned. */
import { Group, type Object3D, type Ray, type Raycaster, Vector3 } from 'three';
import { AxisHandles, type Movable, type Moved, snapped } from './handles';
import type { Pull } from './pull';
import { angleOf, meant, TurnHandles } from './turns';

export class Hold {
	/** null: nothing has handles */
	movable: Movable | null = null;
	readonly handles = new Group();
	private readonly arrows = new AxisHandles();
	private readonly rings = new TurnHandles();
	private held: (Moved & { from: number }) | null = null;

	constructor() {
		this.handles.add(this.arrows.group, this.rings.group);
	}

	get busy(): boolean {
		return this.held !== null;
	}
	/** Give something handles, or nothing. */
	offer(movable: Movable | null): void {
		[this.movable, this.held] = [movable, null];
	}
	/** Show the handles: arrows at the middle of what is held by, rings about the place that it turns about; `reach` is how far they go [mm]. */
	show(middle: Vector3, reach: number): void {
		this.arrows.show(middle, reach);
		this.rings.show(this.movable?.about ? new Vector3(...this.movable.about) : middle, reach, this.movable?.turns ?? []);
	}
	hide(): void {
		this.arrows.hide();
		this.rings.hide();
	}
	dispose(): void {
		this.arrows.dispose();
		this.rings.dispose();
	}
	/** Where a ray, in the core's own directions, passes what is held: along its axis, or about its turn. */
	private passes(caster: Raycaster, world: Object3D, held: Moved): number | null {
		const ray: Ray = caster.ray.clone().applyMatrix4(world.matrixWorld.clone().invert());
		return 'turn' in held ? angleOf(ray, this.rings.at, held.turn.way) : this.arrows.follow(ray, held.axis);
	}
	/** Take hold of the handle that a ray hits; false where there is none. */
	take(caster: Raycaster, world: Object3D): boolean {
		const [axis, turn] = [this.arrows.hit(caster), this.rings.hit(caster)];
		if (!this.movable || (axis === null && !turn)) return false;
		const held: Moved = axis !== null ? { axis, by: 0, met: false } : { turn: turn!, by: 0, met: false };
		const from = this.passes(caster, world, held);
		if (from === null) return false;
		this.held = { ...held, from };
		this.arrows.light(axis);
		this.rings.light(axis === null ? turn : null);
		return true;
	}
	/** Follow a ray, to a face of another part where one is within reach; null while nothing is held. */
	follow(caster: Raycaster, world: Object3D, reach: number): Moved | null {
		if (!this.held || !this.movable) return null;
		const { held, movable } = this;
		const now = this.passes(caster, world, held);
		const come = now === null ? held : 'turn' in held ? meant(held.from, now) : snapped(now - held.from, movable.snaps(held.axis), reach);
		return (this.held = { ...held, by: come.by, met: come.met }); // another value each time: who shows it sees that it changed
	}
	/** Let go; tells how far it was moved, null where it was not. */
	letGo(): Moved | null {
		const held = this.held;
		this.held = null;
		this.arrows.light(null);
		this.rings.light(null);
		return held && Math.abs(held.by) > 1e-6 ? held : null;
	}
	/** Move where a part is seen along with what is held. */
	shift(part: string, at: Vector3): void {
		if (this.held && 'axis' in this.held && this.movable?.along.has(part))
			at.setComponent(this.held.axis, at.getComponent(this.held.axis) + this.held.by);
	}
	/** How a part is seen turned along with what is held. */
	turned(part: string): Pull | undefined {
		const { held, movable } = this;
		if (!held || !('turn' in held) || !movable?.along.has(part)) return undefined;
		return { by: [0, 0, 0], tip: { point: this.rings.at.toArray(), axis: held.turn.way, degrees: held.by } };
	}
}
