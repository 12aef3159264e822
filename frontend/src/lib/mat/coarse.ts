/** Outlines with few corners, for drawing very many parts while they are turned. */
import type { Point } from '../../api/types';

/** Return the outline as strips across its longer side see it: notches are filled, and it has 2 (strips + 1) corners. */
export function coarseOutline(outer: readonly (readonly number[])[], strips = 12): Point[] {
	const along = (p: readonly number[], flip: boolean) => p[flip ? 1 : 0]!;
	const spans = [0, 1].map((i) => Math.max(...outer.map((p) => p[i]!)) - Math.min(...outer.map((p) => p[i]!)));
	const flip = spans[1]! > spans[0]!;
	const start = Math.min(...outer.map((p) => along(p, flip)));
	const step = Math.max(spans[0]!, spans[1]!) / strips;
	const low = Array<number>(strips + 1).fill(Infinity);
	const high = Array<number>(strips + 1).fill(-Infinity);
	const see = (k: number, y: number) => {
		if (k < 0 || k > strips) return;
		low[k] = Math.min(low[k]!, y);
		high[k] = Math.max(high[k]!, y);
	};
	outer.forEach((a, i) => {
		const b = outer[(i + 1) % outer.length]!;
		const [from, to] = along(a, flip) <= along(b, flip) ? [a, b] : [b, a];
		const [u, v] = [(along(from, flip) - start) / step, (along(to, flip) - start) / step];
		see(Math.round(u), along(from, !flip));
		see(Math.round(v), along(to, !flip));
		for (let k = Math.ceil(u); k <= v; k++)
			see(k, along(from, !flip) + ((along(to, !flip) - along(from, !flip)) * (k - u)) / Math.max(v - u, 1e-9));
	});
	const at = (k: number, y: number): Point => (flip ? [y, start + k * step] : [start + k * step, y]);
	return [...low.map((y, k) => at(k, y)), ...high.map((y, k) => at(k, y)).reverse()];
}
