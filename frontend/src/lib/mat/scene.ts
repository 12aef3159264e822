/** The assembly in 3D: parts in their stock's colour, turned with the pointer, pulled apart with one number. */
import { tilted, type Pull } from './pull';
import {
	ArrowHelper,
	BufferGeometry,
	Color,
	FrontSide,
	GridHelper,
	Group,
	LineBasicMaterial,
	LineLoop,
	LineSegments,
	Matrix4,
	Mesh,
	MeshBasicMaterial,
	MeshLambertMaterial,
	PerspectiveCamera,
	Raycaster,
	Scene,
	Vector2,
	Vector3,
	WebGLRenderer
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { PartOut, Point } from '../../api/types';
import { bodyOf, edgesOf, ringsOf } from './body';
import { burned, type PictureOf } from './facemarks';
import type { Movable, Moved } from './handles';
import { Hold } from './hold';
import { lights } from './lights';
import { Mass, type Piece } from './mass';
import { Pace } from './pace';
import { Paints } from './paints';

export interface Hit {
	part: string;
	at: Point;
}

interface Shown {
	part: PartOut;
	group: Group;
	/** what it was made from: a part that is the same is not made again */
	from: string;
	mesh: Mesh<BufferGeometry, MeshLambertMaterial>;
	/** the body's paint, lit or not */
	paint: (lit: boolean) => MeshLambertMaterial;
	base: Matrix4;
	middle: Vector3;
	/** lowest point of the part in its place */
	low: number;
}

const IDLE_MS = 400; // without a change until what turns is made ready
const MANY = 40; // parts; above this a turn is drawn coarsely
const SHARP = 2;
const STILL_MS = 140; // without a change until it is drawn sharply
const MAT = '#17463f';

function poseOf(part: PartOut): Matrix4 {
	const x = new Vector3(...(part.pose.x as [number, number, number]));
	const y = new Vector3(...(part.pose.y as [number, number, number]));
	const normal = new Vector3().crossVectors(x, y);
	const origin = new Vector3(...(part.pose.origin as [number, number, number]));
	return new Matrix4().makeBasis(x, y, normal).setPosition(origin);
}

/** All that the drawn body of a part depends on. */
function madeFrom(part: PartOut, colour: string, clear: boolean, picture: PictureOf): string {
	const pictures = part.marks.map((m, i) => (m.photo ? picture(part.id, i) : ''));
	return JSON.stringify([part.id, part.profile, part.marks, part.pose, part.low, part.high, part.reverse, colour, clear, pictures]);
}

export class AssemblyScene {
	private readonly renderer: WebGLRenderer;
	private readonly scene = new Scene();
	private readonly camera = new PerspectiveCamera(32, 1, 1, 20000);
	private readonly controls: OrbitControls;
	private readonly world = new Group();
	private readonly marks = new Group();
	private readonly arrow = new ArrowHelper(new Vector3(0, 0, 1), new Vector3(), 1, '#ffffff');
	private grid: GridHelper | null = null;
	private readonly paints = new Paints();
	private shown: Shown[] = [];
	private readonly leaving: (Mesh | LineSegments)[] = [];
	private centre = new Vector3();
	private size = 100;
	private spread = 0;
	private offsets = new Map<string, Pull>();
	private hidden = new Set<string>();
	private frame = 0;
	private still = 0;
	private idle = 0;
	private fitted = '';
	private coarse = false;
	private readonly hold = new Hold();
	private readonly mass = new Mass(this.scene, () => this.pieces());
	private readonly fine = Math.min(window.devicePixelRatio, SHARP);
	private drawnAt = -Infinity;
	private turning = false;
	private readonly pace = new Pace();

	constructor(private readonly canvas: HTMLCanvasElement) {
		// without an alpha channel the page need not be mixed with what lies under the canvas
		const context = canvas.getContext('webgl2', { alpha: false, antialias: false }) ?? undefined;
		this.renderer = new WebGLRenderer({ canvas, antialias: false, context });
		this.renderer.setPixelRatio(SHARP);
		this.scene.background = new Color(MAT);
		this.world.rotation.x = -Math.PI / 2; // the core's z points up, this library's y does
		this.scene.add(this.world, ...lights());
		this.world.add(this.marks, this.hold.handles, this.arrow);
		this.arrow.visible = false;
		for (const m of [this.arrow.line, this.arrow.cone]) {
			m.renderOrder = 6;
			(m.material as MeshBasicMaterial).depthTest = false;
		}
		this.controls = new OrbitControls(this.camera, canvas);
		this.controls.addEventListener('start', () => {
			this.turning = true;
			this.pace.begin();
		});
		this.controls.addEventListener('change', () => {
			if (this.turning && this.shown.length > MANY) this.coarsen();
			this.draw();
		});
		this.controls.addEventListener('end', () => {
			this.turning = false;
			this.restSoon();
		});
	}

	/** While many parts are turned they are drawn in fewer pixels and without their edges, so that the view follows the hand. */
	private coarsen(): void {
		if (this.coarse) return;
		let last = 0;
		const watch = (now: number) => {
			if (last) this.pace.frame(now - last);
			last = now;
			if (this.coarse) requestAnimationFrame(watch);
		};
		requestAnimationFrame(watch);
		this.see(true);
	}

	/** Show parts one by one, or all as one. */
	private see(coarse: boolean): void {
		this.coarse = coarse;
		this.mass.show(coarse);
		for (const s of this.shown) s.group.visible = !coarse && !this.hidden.has(s.part.id);
	}

	/** Draw what stands still as well as it can be. */
	private rest(): void {
		if (this.turning) return;
		if (this.coarse) this.see(false);
		this.render(SHARP);
	}

	private restSoon(): void {
		clearTimeout(this.still);
		this.still = window.setTimeout(() => this.rest(), STILL_MS);
	}

	private pieces(): Piece[] {
		this.world.updateMatrixWorld();
		return this.shown
			.filter((s) => !this.hidden.has(s.part.id))
			.map((s) => ({
				part: s.part,
				matrix: new Matrix4().multiplyMatrices(this.world.matrixWorld, s.group.matrix),
				colour: Paints.seen(s.mesh.material)
			}));
	}

	/** Parts lie or look otherwise: what they are turned as is made again, while nobody waits for it. */
	private remade(): void {
		this.mass.drop();
		this.see(this.coarse);
		clearTimeout(this.idle);
		if (this.shown.length > MANY) this.idle = window.setTimeout(() => this.mass.ready(this.renderer, this.camera), IDLE_MS);
		this.draw();
	}

	/** Show these parts; the view stays where it is unless the set of parts is another. */
	setParts(parts: PartOut[], colours: Record<string, string>, seeThrough: (stock: string) => boolean, picture: PictureOf = () => ''): void {
		const before = new Map(this.shown.map((s) => [s.from, s]));
		this.shown = parts.map((part) => {
			const colour = colours[part.stock] ?? '#cccccc';
			const clear = seeThrough(part.stock);
			const from = madeFrom(part, colour, clear, picture);
			const kept = before.get(from);
			before.delete(from);
			return kept ? { ...kept, part } : this.make(part, from, colour, clear, picture);
		});
		for (const { group } of before.values()) {
			this.world.remove(group);
			this.leaving.push(...(group.children as (Mesh | LineSegments)[]));
		}
		const low = new Vector3(Infinity, Infinity, Infinity);
		const high = new Vector3(-Infinity, -Infinity, -Infinity);
		const w = new Vector3();
		for (const s of this.shown) {
			for (const p of s.part.profile.outer) {
				w.set(p[0]!, p[1]!, s.part.low).applyMatrix4(s.base);
				low.min(w);
				high.max(w);
			}
		}
		if (parts.length) {
			this.centre.addVectors(low, high).multiplyScalar(0.5);
			this.size = low.distanceTo(high);
			this.floor();
			const key = parts.map((p) => p.id).join();
			if (key !== this.fitted) this.fit();
			this.fitted = key;
		}
		this.place();
	}

	private make(part: PartOut, from: string, colour: string, clear: boolean, picture: PictureOf): Shown {
		const rings = ringsOf(part.profile);
		const geometry = bodyOf(rings, part);
		const paint = (lit: boolean) => this.paints.body(colour, clear, lit);
		const mesh = new Mesh(geometry, paint(false));
		mesh.userData.part = part.id;
		const edges = new LineSegments(edgesOf(rings, part), this.paints.line(colour, FrontSide));
		const group = new Group();
		group.add(mesh, edges, ...burned(part, colour, this.paints, picture, () => this.draw()));
		group.matrixAutoUpdate = false;
		this.world.add(group);
		const base = poseOf(part);
		const low = geometry.boundingBox!.clone().applyMatrix4(base).min.z;
		const middle = geometry.boundingBox!.getCenter(new Vector3());
		return { part, from, group, mesh, paint, base, middle: middle.applyMatrix4(base), low };
	}

	/** Let go of what is not shown any more: after the next picture, which is waited for. */
	private letGo(): void {
		for (const gone of this.leaving.splice(0)) {
			gone.geometry.dispose();
			const { map } = gone.material as MeshBasicMaterial;
			if (map) {
				map.dispose();
				(gone.material as MeshBasicMaterial).dispose(); // paints are shared, pictures are not
			}
		}
	}

	private floor(): void {
		if (this.grid) this.world.remove(this.grid);
		const reach = Math.ceil(this.size / 100) * 300;
		this.grid = new GridHelper(reach, reach / 50, '#2f655b', '#2a5d53');
		this.grid.rotation.x = Math.PI / 2;
		this.grid.position.set(Math.round(this.centre.x / 50) * 50, Math.round(this.centre.y / 50) * 50, 0);
		this.world.add(this.grid);
	}

	/** 0 is together, 1 far apart. */
	setSpread(spread: number): void {
		this.spread = spread;
		this.place();
	}

	/** Move parts away from their place, as the assembly player does, and hide those not yet there. */
	setOffsets(offsets: Map<string, Pull>, hidden: Set<string>): void {
		this.offsets = offsets;
		this.hidden = hidden;
		this.place();
	}

	/** Show the way that parts of a step go to their place; none: no arrow. */
	setWay(parts: readonly string[], direction: readonly number[]): void {
		const mine = this.shown.filter((s) => parts.includes(s.part.id));
		this.arrow.visible = mine.length > 0;
		if (mine.length) {
			const end = mine.reduce((sum, s) => sum.add(s.middle), new Vector3()).divideScalar(mine.length);
			const way = new Vector3(...(direction as [number, number, number])).normalize();
			const length = this.size * 0.5;
			this.arrow.position.copy(end).addScaledVector(way, -length);
			this.arrow.setDirection(way);
			this.arrow.setLength(length, this.size * 0.06, this.size * 0.03);
		}
		this.draw();
	}

	/** Light parts up, and draw the outlines of joint features in their planes. */
	setLit(parts: Set<string>, features: Map<string, readonly (readonly number[])[][]>): void {
		for (const s of this.shown) s.mesh.material = s.paint(parts.has(s.part.id));
		for (const line of [...this.marks.children] as LineLoop[]) {
			line.geometry.dispose();
			this.marks.remove(line);
		}
		for (const s of this.shown) {
			for (const ring of features.get(s.part.id) ?? []) {
				for (const z of [s.part.low - 0.15, s.part.high + 0.15]) {
					const points = ring.map((p) => new Vector3(p[0], p[1], z));
					const line = new LineLoop(
						new BufferGeometry().setFromPoints(points),
						new LineBasicMaterial({ color: '#ffffff', depthTest: false })
					);
					line.renderOrder = 5;
					line.userData.part = s.part.id;
					line.matrixAutoUpdate = false;
					this.marks.add(line);
				}
			}
		}
		this.place();
	}

	/** Give one part handles to move it by, and what goes along with it; or none. */
	setMovable(movable: Movable | null): void {
		this.hold.offer(movable);
		this.place();
	}

	private caster(x: number, y: number): Raycaster {
		const rect = this.canvas.getBoundingClientRect();
		const caster = new Raycaster();
		caster.setFromCamera(new Vector2(((x - rect.left) / rect.width) * 2 - 1, 1 - ((y - rect.top) / rect.height) * 2), this.camera);
		return caster;
	}

	/** Take hold of the handle under a point; true when there is one. */
	grab(x: number, y: number): boolean {
		if (!this.hold.take(this.caster(x, y), this.world)) return false;
		this.controls.enabled = false;
		this.draw();
		return true;
	}
	/** Follow the pointer with what is held; tells how far it has come and whether it meets another's face. */
	drag(x: number, y: number): Moved | null {
		const told = this.hold.follow(this.caster(x, y), this.world, this.size * 0.015);
		if (told) this.place();
		return told;
	}
	/** Let go; what was held stays where it is until the design says where it belongs. */
	drop(): Moved | null {
		const moved = this.hold.letGo();
		this.controls.enabled = true;
		this.place();
		return moved;
	}

	private place(): void {
		const matrices = new Map<string, Matrix4>();
		this.hold.hide();
		let lowest = Infinity;
		for (const s of this.shown) {
			const away = s.middle
				.clone()
				.sub(this.centre)
				.multiplyScalar(this.spread * 1.1);
			const pulled = this.offsets.get(s.part.id);
			lowest = Math.min(lowest, s.low + away.z); // the player's moves do not shift the floor
			if (pulled) away.add(new Vector3(...pulled.by));
			this.hold.shift(s.part.id, away);
			if (this.hold.movable?.part === s.part.id) this.hold.show(s.middle.clone().add(away), Math.max(this.size * 0.16, 12));
			s.group.matrix.copy(
				new Matrix4()
					.makeTranslation(away)
					.multiply(tilted(pulled ?? this.hold.turned(s.part.id)))
					.multiply(s.base)
			);
			matrices.set(s.part.id, s.group.matrix);
		}
		if (this.grid && Number.isFinite(lowest)) this.grid.position.z = lowest - 0.6;
		for (const line of this.marks.children) {
			const matrix = matrices.get(line.userData.part as string);
			if (matrix) line.matrix.copy(matrix);
		}
		this.remade();
	}

	/** Bring everything into view, from the front and above. */
	fit(): void {
		const middle = this.centre.clone().applyEuler(this.world.rotation);
		this.controls.target.copy(middle);
		const away = (this.size * 1.12) / Math.min(1, this.camera.aspect * 0.85);
		this.camera.position.copy(middle).add(new Vector3(-0.62, 0.78, 1).normalize().multiplyScalar(away * 1.75));
		this.controls.update();
		this.draw();
	}

	resize(width: number, height: number): void {
		if (width < 2 || height < 2) return;
		this.renderer.setSize(width, height, false);
		this.camera.aspect = width / height;
		this.camera.updateProjectionMatrix();
		if (this.canvas.dataset.drawn) this.render(this.renderer.getPixelRatio()); // another size clears it to black, which is not to be seen
		this.draw();
	}

	/** Tell which part lies under a point of the canvas, and where on it. */
	pick(x: number, y: number): Hit | null {
		const found = this.caster(x, y).intersectObjects(this.shown.filter((s) => !this.hidden.has(s.part.id)).map((s) => s.mesh))[0];
		if (!found) return null;
		const local = found.object.worldToLocal(found.point.clone());
		return { part: found.object.userData.part as string, at: [local.x, local.y] };
	}

	draw(): void {
		if (this.frame) return;
		this.frame = requestAnimationFrame((now) => {
			this.frame = 0;
			const since = now - this.drawnAt;
			const moving = this.turning || this.hold.busy || since < STILL_MS;
			this.drawnAt = now;
			this.render(this.coarse ? this.pace.pixels : moving ? this.fine : SHARP);
			this.told();
			if (moving) this.restSoon();
		});
	}

	/** Write down how many parts were drawn; the first time once that picture has surely come to the screen, since the canvas is hidden until then. */
	private told(): void {
		const write = () => (this.canvas.dataset.drawn = String(this.shown.length));
		if (this.canvas.dataset.drawn) write();
		else requestAnimationFrame(() => requestAnimationFrame(write));
	}

	/** Draw with so many pixels a pixel: what moves with few, what stands still with more, so that edges are smooth. */
	private render(ratio: number): void {
		if (this.renderer.getPixelRatio() !== ratio) this.renderer.setPixelRatio(ratio);
		this.renderer.render(this.scene, this.camera);
		this.letGo();
	}

	dispose(): void {
		this.coarse = false;
		this.mass.drop();
		cancelAnimationFrame(this.frame);
		this.setParts([], {}, () => false);
		this.letGo();
		cancelAnimationFrame(this.frame);
		clearTimeout(this.still);
		clearTimeout(this.idle);
		this.controls.dispose();
		this.hold.dispose();
		this.arrow.dispose();
		this.paints.dispose();
		this.renderer.dispose();
	}
}
