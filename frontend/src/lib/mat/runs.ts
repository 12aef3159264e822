/** The runs of a plan: a sheet has one, or two where its other face is burned too. */
import type { SheetPlan } from '../../api/types';
import { word } from '../../words/words';

export const runName = (s: { number?: number; run?: string }) =>
	word('common.sheet', { number: s.number ?? 1, run: s.run ? `, ${s.run}` : '' });

/** Whether the sheet is turned over between two runs. */
export const turnedBetween = (a: SheetPlan | undefined, b: SheetPlan | undefined) =>
	!!a && !!b && a.sheet === b.sheet && a.copy === b.copy && a.side !== b.side;

/** The line that a part is turned over about, through where it lies then: its direction as a unit vector. */
export function turnAxis(move: { cos?: number; sin?: number }): [number, number] {
	// Mirrored (x to -x), then turned by a: points along (a + 180°) / 2 stay on their line.
	const along = (Math.atan2(move.sin ?? 0, move.cos ?? 1) + Math.PI) / 2;
	return [Math.cos(along), Math.sin(along)];
}
