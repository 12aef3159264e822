/** What is burned on the faces of a part, in 3D. */
import {
	BackSide,
	BufferGeometry,
	DoubleSide,
	Float32BufferAttribute,
	FrontSide,
	LineSegments,
	Mesh,
	MeshBasicMaterial,
	PlaneGeometry,
	Shape,
	ShapeGeometry,
	SRGBColorSpace,
	TextureLoader,
	Vector2,
	type Side
} from 'three';
import type { PartOut } from '../../api/types';
import type { Paints } from './paints';

const ABOVE_FACE = 0.04; // [mm] marks lie this far above the sheet, so that they are not lost in it

/** Where the dots of a part's picture are to be had. */
export type PictureOf = (part: string, mark: number) => string;

/** A picture's dots in its frame, whose corners begin at the lower left of the image. */
function pictured(frame: number[][], url: string, side: Side, ondone: () => void): Mesh {
	const [a, b, , d] = frame as [number[], number[], number[], number[]];
	const width = Math.hypot(b[0]! - a[0]!, b[1]! - a[1]!);
	const height = Math.hypot(d[0]! - a[0]!, d[1]! - a[1]!);
	const map = new TextureLoader().load(url, ondone);
	map.colorSpace = SRGBColorSpace;
	const mirrored = (b[0]! - a[0]!) * (d[1]! - a[1]!) < (b[1]! - a[1]!) * (d[0]! - a[0]!);
	const mesh = new Mesh(new PlaneGeometry(width, height), new MeshBasicMaterial({ map, side, transparent: true, depthWrite: false }));
	mesh.position.set((b[0]! + d[0]!) / 2, (b[1]! + d[1]!) / 2, 0);
	mesh.rotation.z = Math.atan2(b[1]! - a[1]!, b[0]! - a[0]!);
	if (mirrored) mesh.scale.y = -1;
	return mesh;
}

/** What is burned on both faces: engraved areas filled, pictures as dots, scored lines as lines. */
export function burned(part: PartOut, colour: string, paints: Paints, picture: PictureOf, ondone: () => void): (Mesh | LineSegments)[] {
	return [false, true].flatMap((back) => onFace(part, back, colour, paints, picture, ondone));
}

function onFace(
	part: PartOut,
	back: boolean,
	colour: string,
	paints: Paints,
	picture: PictureOf,
	ondone: () => void
): (Mesh | LineSegments)[] {
	const side = part.reverse ? DoubleSide : back ? BackSide : FrontSide; // a reversed part's marks are seen through the sheet
	const areas: Shape[] = [];
	const ends: number[] = [];
	const made: (Mesh | LineSegments)[] = [];
	for (const [i, mark] of part.marks.entries()) {
		if (!!mark.back !== back) continue;
		const line = mark.line as number[][];
		if (mark.photo) {
			made.push(pictured(line, picture(part.id, i), side, ondone));
			continue;
		}
		if (mark.operation === 'engrave' && mark.closed) {
			areas.push(new Shape(line.map((p) => new Vector2(p[0], p[1]))));
			continue;
		}
		const last = mark.closed ? line.length : line.length - 1;
		for (let i = 0; i < last; i++) {
			const [a, b] = [line[i]!, line[(i + 1) % line.length]!];
			ends.push(a[0]!, a[1]!, 0, b[0]!, b[1]!, 0);
		}
	}
	if (areas.length) made.push(new Mesh(new ShapeGeometry(areas), paints.area(colour, side)));
	if (ends.length) {
		const geometry = new BufferGeometry().setAttribute('position', new Float32BufferAttribute(ends, 3));
		made.push(new LineSegments(geometry, paints.line(colour, side)));
	}
	for (const m of made) {
		m.position.z = part.reverse || back ? part.low - ABOVE_FACE : part.high + ABOVE_FACE;
		m.raycast = () => {}; // picking is of the sheet
	}
	return made;
}
