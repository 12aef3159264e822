/** Where the settings of an operation are known from. */
import type { StockOut } from '../../api/types';

type Settings = StockOut['settings'];
export type Operation = 'cut' | 'score' | 'engrave';
export const OPERATIONS: Operation[] = ['cut', 'score', 'engrave'];

/** Its source in words; before operations had sources of their own, one held for all. */
export const sourceOf = (s: Settings, o: Operation) => (s.sources ? (s.sources[o] ?? 'default, not tested here') : (s.source ?? ''));

export const untested = (s: Settings, o: Operation) => !!s.borrowed || sourceOf(s, o).startsWith('default');
