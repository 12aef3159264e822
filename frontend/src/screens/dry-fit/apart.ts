/** Sub-assemblies and notes of a design: what is put together apart before it goes in, and a person's words on a step. */
import type { Design, GuideStep } from '../../api/types';

/** Chosen parts in the order in which the steps bring them. */
export const inOrder = (steps: readonly GuideStep[], chosen: readonly string[]) =>
	steps.flatMap((s) => s.parts).filter((p, i, all) => chosen.includes(p) && all.indexOf(p) === i);

/** The design with some parts put together apart, where the last of them went in, so that what was there before still is. */
export function putApart(design: Design, steps: readonly GuideStep[], group: string[]): Design {
	const order = steps.map((s) => s.key).filter((k) => !group.includes(k));
	const last = Math.max(...group.map((p) => steps.findIndex((s) => s.key === p)));
	const before = steps.slice(0, last).filter((s) => !group.includes(s.key)).length;
	order.splice(before, 0, ...group);
	return { ...design, order, apart: [...(design.apart ?? []), group] };
}

/** The design in which the parts of a sub-assembly go in one by one again. */
export function takenApart(design: Design, key: string): Design {
	const apart = (design.apart ?? []).filter((g) => [...g].sort().join('+') !== key);
	return { ...design, apart, order: (design.order ?? []).filter((k) => k !== key) };
}

/** The design with a note on a step, or without one. */
export function withNote(design: Design, key: string, text: string): Design {
	const notes = { ...design.notes };
	if (text) notes[key] = text;
	else delete notes[key];
	return { ...design, notes };
}
