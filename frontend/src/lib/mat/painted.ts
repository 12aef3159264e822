/** Painting a drawn picture of an assembly: thousands of faces are a canvas' work, elements of the page would be too many. */
import type { PictureOut } from '../../api/types';

const SHADE = [35, 24, 10] as const; // what a stock's colour is mixed with where light does not fall
const EDGE = '#3a2a14';
const EDGE_PX = 0.8;

/** How a picture lies in its room: scale, and where its origin comes to lie [px]. */
export interface Fit {
	scale: number;
	x: number;
	y: number;
}

/** The picture's bounds with a little air, in the middle of a room. */
export function fitted(bounds: readonly number[], width: number, height: number): Fit {
	const [u0, v0, u1, v1] = bounds as [number, number, number, number];
	const air = 2 * 0.05 * Math.max(u1 - u0, v1 - v0, 1);
	const scale = Math.min(width / (u1 - u0 + air), height / (v1 - v0 + air));
	return { scale, x: width / 2 - (scale * (u0 + u1)) / 2, y: height / 2 + (scale * (v0 + v1)) / 2 };
}

/** A stock's colour, `#rrggbb`, where so much light falls on it, 0 to 1. */
export function shaded(colour: string, light: number): string {
	const mixed = SHADE.map((dark, k) => {
		const bright = Number.parseInt(colour.slice(1 + 2 * k, 3 + 2 * k), 16);
		return Math.round(dark + light * (bright - dark));
	});
	return `rgb(${mixed.join(' ')})`;
}

/** Paint the faces one over the other, far ones first, as they come. */
export function paint(
	to: CanvasRenderingContext2D,
	picture: PictureOut,
	fit: Fit,
	colourOf: (stock: string) => string,
	fine: number // pixels of the screen to one of the page
): void {
	to.setTransform(fine, 0, 0, fine, 0, 0);
	to.clearRect(0, 0, to.canvas.width, to.canvas.height);
	[to.strokeStyle, to.lineWidth, to.lineJoin] = [EDGE, EDGE_PX, 'round'];
	for (const face of picture.faces) {
		to.beginPath();
		for (const ring of [face.ring, ...(face.holes ?? [])]) {
			ring.forEach(([u, v], i) => to[i ? 'lineTo' : 'moveTo'](fit.x + fit.scale * u!, fit.y - fit.scale * v!));
			to.closePath();
		}
		to.fillStyle = shaded(colourOf(face.stock), face.light);
		to.fill('evenodd');
		to.stroke();
	}
}
