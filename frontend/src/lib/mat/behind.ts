/** A part as it is seen from its back. */
import type { PartOut } from '../../api/types';

type Ring = readonly (readonly number[])[];
const over = (ring: Ring) => ring.map((p) => [-p[0]!, p[1]!]);

export function fromBehind(part: PartOut): PartOut {
	const profile = {
		...part.profile,
		outer: over(part.profile.outer as Ring),
		holes: (part.profile.holes ?? []).map((h) => over(h as Ring)),
		circles: (part.profile.circles ?? []).map((c) => ({ ...c, x: -c.x }))
	};
	const marks = part.marks.map((m) => ({ ...m, line: over(m.line as Ring) }));
	const features = part.features.map((f) => ({ ...f, corners: over(f.corners as unknown as Ring) }));
	return { ...part, profile, marks, features } as unknown as PartOut;
}
