/** Where the dots of a fit strip stand: above each other where they come together, and as a heap where they are too many. */
const LEVELS = 4;
const MOST = 6 * LEVELS; // dots at one place; more are a heap
const APART = 14; // dots beside each other
export const RISE = 12; // dots above each other

/** A joint on the strip: its place, and from where to where it may be. */
export interface Spot {
	x: number;
	from: number;
	to: number;
}

/** Spots so near each other that their dots would lie on each other, in the order in which they come. */
export function spotsTogether<S extends Spot>(spots: readonly S[]): S[][] {
	const at = new Map<number, S[]>();
	for (const s of spots) {
		const key = Math.round(s.x / APART);
		const there = at.get(key);
		if (there) there.push(s);
		else at.set(key, [s]);
	}
	return [...at.values()];
}

/** The dots of places that are no heap: above each other, and beside each other about their place. */
export const dotsOf = <S extends Spot>(places: readonly S[][]): (S & { level: number })[] =>
	places
		.filter((p) => p.length <= MOST)
		.flatMap((p) => {
			const middle = Math.floor((p.length - 1) / LEVELS) / 2;
			return p.map((s, i) => ({ ...s, x: s.x + (Math.floor(i / LEVELS) - middle) * APART, level: i % LEVELS }));
		});

/** The places with too many for dots. */
export const heapsOf = <S extends Spot>(places: readonly S[][]): (Spot & { n: number; spots: readonly S[] })[] =>
	places
		.filter((p) => p.length > MOST)
		.map((p) => ({
			n: p.length,
			x: p.reduce((sum, s) => sum + s.x, 0) / p.length,
			from: Math.min(...p.map((s) => s.from)),
			to: Math.max(...p.map((s) => s.to)),
			spots: p
		}));
