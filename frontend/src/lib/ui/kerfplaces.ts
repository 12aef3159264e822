/** Where kerf is corrected, in the words of the screen; never in two places. */
export const KERF_PLACES = [
	['paths', 'in our paths'],
	['joints', 'in our paths, but only where joints are'],
	['machine', 'by the machine’s own software'],
	['none', 'nowhere: the kerf is the clearance']
] as const;
export type KerfPlace = (typeof KERF_PLACES)[number][0];
