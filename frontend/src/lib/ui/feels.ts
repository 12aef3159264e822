/** The five feels, loosest first: one scale, used wherever a fit is shown. */
import type { Boundaries, Chances } from '../../api/types';
import { word } from '../../words/words';

export const FEELS = [
	{ key: 'rattles', name: word('common.rattles'), colour: 'var(--rattles)', width: 0.16 },
	{ key: 'slides', name: word('common.slides'), colour: 'var(--slides)', width: 0.19 },
	{ key: 'snug', name: word('common.snug'), colour: 'var(--snug)', width: 0.33 },
	{ key: 'mallet', name: word('common.mallet'), colour: 'var(--mallet)', width: 0.18 },
	{ key: 'wont_go', name: word('common.wont-go'), colour: 'var(--wontgo)', width: 0.14 }
] as const;
/** Those that a person may ask for. */
export const ASKED_FEELS = FEELS.slice(1, 4).map(({ key, name }) => ({ value: key as 'slides' | 'snug' | 'mallet', name }));
export type FeelKey = (typeof FEELS)[number]['key'];
export const feelName = (key: string) => FEELS.find((f) => f.key === key)?.name ?? key;

/** Where a clearance stands on the band, 0 (loose) to 1 (tight): straight within each step between its boundaries. */
export function onBand(clearance: number, b: Boundaries): number {
	const edges = [b.rattles, b.slides, b.snug, b.mallet];
	const reach = (b.rattles - b.mallet) * 0.5;
	const marks = [b.rattles + reach, ...edges, b.mallet - reach];
	let at = 0;
	for (let i = 0; i < FEELS.length; i++) {
		const [high, low] = [marks[i]!, marks[i + 1]!];
		if (clearance >= low || i === FEELS.length - 1) {
			const share = Math.min(Math.max((high - clearance) / Math.max(high - low, 1e-9), 0), 1);
			return at + share * FEELS[i]!.width;
		}
		at += FEELS[i]!.width;
	}
	return 1;
}

/** The chances in three words' worth: too loose, as wanted, will not go. */
export function chancesLine(chances: Chances, wanted: string): { name: string; share: number; strong: boolean }[] {
	return FEELS.map((f) => ({ name: f.name, share: chances[f.key], strong: f.key === wanted })).filter((o) => o.share >= 0.005 || o.strong);
}
