/** Where the settings of an operation are known from. */
import type { StockOut } from '../../api/types';
import { word } from '../../words/words';

type Settings = StockOut['settings'];
export type Operation = 'cut' | 'score' | 'engrave';
export const OPERATIONS: Operation[] = ['cut', 'score', 'engrave'];

/** Its source in words; before operations had sources of their own, one held for all. */
export function sourceOf(s: Settings, o: Operation): string {
	if (s.sources && !s.sources[o]) return word('common.default-not-tested-here');
	return (s.borrowed ? s.source : (s.sources?.[o] ?? s.source)) ?? '';
}

export const untested = (s: Settings, o: Operation) => !!s.borrowed || sourceOf(s, o).startsWith('default');
