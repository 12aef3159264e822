/** Where the head is at a moment of a sheet's plan, and what is burned by then. */
import type { Point, SheetPlan, Stroke } from '../../api/types';
import { along, contourPoints } from './outlines';

export interface Drawn {
	stroke: Stroke;
	points: Point[];
	d: string;
}

export function drawnStrokes(sheet: SheetPlan): Drawn[] {
	return sheet.strokes.map((stroke) => {
		const points = contourPoints(stroke.path.contour);
		const d = points.map((p, i) => `${i ? 'L' : 'M'}${p[0].toFixed(2)} ${p[1].toFixed(2)}`).join('');
		return { stroke, points, d };
	});
}

export interface Head {
	at: Point;
	from: Point | null;
	burning: boolean;
	/** index of the stroke under way */
	stroke: number;
	/** how much of it is burned, 0..1 */
	share: number;
}

export function headAt(drawn: Drawn[], t: number): Head {
	let last: Point = [0, 0];
	for (let i = 0; i < drawn.length; i++) {
		const { stroke, points } = drawn[i]!;
		const start = points[0]!;
		if (t < stroke.burn_from) {
			const share = Math.max(0, (t - stroke.travel_from) / Math.max(stroke.burn_from - stroke.travel_from, 1e-9));
			return {
				at: [last[0] + (start[0] - last[0]) * share, last[1] + (start[1] - last[1]) * share],
				from: last,
				burning: false,
				stroke: i,
				share: 0
			};
		}
		if (t < stroke.end) {
			const share = (t - stroke.burn_from) / Math.max(stroke.end - stroke.burn_from, 1e-9);
			return { at: along(points, share), from: null, burning: true, stroke: i, share };
		}
		last = points[points.length - 1]!;
	}
	return { at: last, from: null, burning: false, stroke: drawn.length, share: 1 };
}
