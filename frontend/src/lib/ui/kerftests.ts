/** The three ways to test a kerf, as they are called. */
import { word } from '../../words/words';

export const KERF_TESTS: { value: 'strips' | 'gap' | 'peg'; name: string }[] = [
	{ value: 'strips', name: word('common.test-strips') },
	{ value: 'gap', name: word('common.test-gap') },
	{ value: 'peg', name: word('common.test-peg') }
];
export const kerfTestName = (kind: string) => KERF_TESTS.find((k) => k.value === kind)?.name ?? '';
