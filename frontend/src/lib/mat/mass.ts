/** Many parts as one body that is shaded already: drawn in one go and with next to no work for a pixel, for turning. */
import {
	BufferAttribute,
	BufferGeometry,
	Color,
	Matrix3,
	Mesh,
	MeshBasicMaterial,
	ShapeUtils,
	Vector3,
	WebGLRenderTarget,
	type Camera,
	type Matrix4,
	type Scene,
	type WebGLRenderer
} from 'three';
import type { PartOut } from '../../api/types';
import { ringsOf, wallNormals } from './body';
import { coarseOutline } from './coarse';
import { shaded } from './lights';

export interface Piece {
	part: PartOut;
	/** from the part to where the light is */
	matrix: Matrix4;
	colour: Color;
}

const DETAILED = 60; // corners; above this a part is drawn without its notches and holes
const CORNERS = 3000; // that all parts together may have, before those that are drawn without notches get fewer

/** How many strips a part without its notches is seen as, when so many are drawn. */
export function stripsFor(parts: number): number {
	return Math.round(Math.min(12, Math.max(4, CORNERS / 2 / Math.max(parts, 1) - 1)));
}

/** The body of all pieces, where the light is, with the colour of each face as light falls on it. */
export function massOf(pieces: readonly Piece[]): BufferGeometry {
	const at: number[] = [];
	const colours: number[] = [];
	const index: number[] = [];
	const strips = stripsFor(pieces.length);
	const point = new Vector3();
	const seen = new Color();
	for (const { part, matrix, colour } of pieces) {
		const turned = new Matrix3().setFromMatrix4(matrix);
		const coarse = part.profile.outer.length > DETAILED;
		const rings = ringsOf(coarse ? { ...part.profile, outer: coarseOutline(part.profile.outer, strips), holes: [] } : part.profile);
		const paint = (x: number, y: number, z: number) => shaded(colour, point.set(x, y, z).applyMatrix3(turned), seen);
		const put = (p: { x: number; y: number }, z: number) => {
			point.set(p.x, p.y, z).applyMatrix4(matrix);
			at.push(point.x, point.y, point.z);
			colours.push(seen.r, seen.g, seen.b);
		};
		const faces = ShapeUtils.triangulateShape(rings[0]!, rings.slice(1)) as [number, number, number][];
		for (const [z, up] of [
			[part.high, 1],
			[part.low, -1]
		] as const) {
			const first = at.length / 3;
			paint(0, 0, up);
			for (const p of rings.flat()) put(p, z);
			for (const [a, b, c] of faces) index.push(first + (up > 0 ? a : c), first + b, first + (up > 0 ? c : a));
		}
		for (const ring of rings) {
			for (const [i, { x, y }] of wallNormals(ring).entries()) {
				const [a, b] = [ring[i]!, ring[(i + 1) % ring.length]!];
				const k = at.length / 3;
				paint(x, y, 0);
				put(a, part.low);
				put(b, part.low);
				put(b, part.high);
				put(a, part.high);
				index.push(k, k + 1, k + 2, k, k + 2, k + 3);
			}
		}
	}
	const made = new BufferGeometry();
	made.setAttribute('position', new BufferAttribute(new Float32Array(at), 3));
	made.setAttribute('color', new BufferAttribute(new Float32Array(colours), 3));
	return made.setIndex(index);
}

/** The mass in its scene: made when it is wanted first, and dropped when what it is made of has changed. */
export class Mass {
	private mesh: Mesh<BufferGeometry, MeshBasicMaterial> | null = null;

	constructor(
		private readonly scene: Scene,
		private readonly pieces: () => Piece[]
	) {}

	/** There and not seen yet, unless it was. */
	made(): Mesh {
		if (this.mesh) return this.mesh;
		this.mesh = new Mesh(massOf(this.pieces()), new MeshBasicMaterial({ vertexColors: true }));
		this.mesh.visible = false;
		this.scene.add(this.mesh);
		return this.mesh;
	}

	/** Draw it where nobody sees it, so that the first picture of a turn need not wait for what is done only once. */
	ready(renderer: WebGLRenderer, camera: Camera): void {
		const mesh = this.made();
		const nowhere = new WebGLRenderTarget(8, 8);
		const before = mesh.visible;
		mesh.visible = true;
		renderer.setRenderTarget(nowhere);
		renderer.render(mesh, camera);
		renderer.setRenderTarget(null);
		mesh.visible = before;
		nowhere.dispose();
	}

	show(seen: boolean): void {
		if (seen || this.mesh) this.made().visible = seen;
	}

	drop(): void {
		if (!this.mesh) return;
		this.scene.remove(this.mesh);
		this.mesh.geometry.dispose();
		this.mesh.material.dispose();
		this.mesh = null;
	}
}
