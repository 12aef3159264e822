/** Where kerf is corrected, in the words of the screen; never in two places. */
import { word } from '../../words/words';
export const KERF_PLACES = [
	['paths', word('common.in-our-paths')],
	['joints', word('common.in-our-paths-but-only-where')],
	['machine', word('common.by-the-machines-own-software')],
	['none', word('common.nowhere-the-kerf-is-the-clearance')]
] as const;
export type KerfPlace = (typeof KERF_PLACES)[number][0];
