/** Rings around the places that a finding means. */
import type { Finding } from '../../api/types';

const CORNERS = 36;

export const placesOf = (f: Finding) => (f.places?.length ? f.places : f.place ? [f.place] : []);

/** Circles of a radius [mm] in the planes of the parts, by part. */
export function ringsOf(f: Finding, radius: number): Map<string, number[][][]> {
	const rings = new Map<string, number[][][]>();
	for (const p of placesOf(f)) {
		const ring = Array.from({ length: CORNERS }, (_, k) => {
			const a = (2 * Math.PI * k) / CORNERS;
			return [p.x + radius * Math.cos(a), p.y + radius * Math.sin(a)];
		});
		rings.set(p.part, [...(rings.get(p.part) ?? []), ring]);
	}
	return rings;
}
