/** What comes from a drawing keeps its proportions unless a person wants it otherwise. */
import type { DrawingOut, Values } from '../../api/types';

type Ring = readonly (readonly number[])[];

/** Height of a ring as a share of its width. */
export function heightOf(ring: Ring): number {
	const [xs, ys] = [ring.map((p) => p[0]!), ring.map((p) => p[1]!)];
	return (Math.max(...ys) - Math.min(...ys)) / (Math.max(...xs) - Math.min(...xs) || 1);
}

/** The other size of a figure with an outline of its own, when one of the two is typed. */
export function inProportion(values: Values, name: string, value: number | string): Values {
	const ring = (values.silhouette ?? []) as unknown as Ring;
	if (ring.length < 3 || values.stretch || typeof value !== 'number') return {} as Values;
	const share = heightOf(ring);
	if (name === 'width') return { height: value * share } as unknown as Values;
	if (name === 'height' && share > 0) return { width: value / share } as unknown as Values;
	return {} as Values;
}

/** Height of a drawing as a share of its width. */
export const shareOf = (d: DrawingOut | undefined) => (d ? d.size[1]! / (d.size[0]! || 1) : 0);
