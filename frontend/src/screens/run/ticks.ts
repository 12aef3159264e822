/** What a person ticks: each is known by what it says in millimetres, whatever unit it is read in. */
import type { Sentence } from '../../api/types';
import { plainly } from '../../lib/units/units';

export const tickOf = (says: Sentence) => plainly(says.spans, 'mm');
export const allTicked = (all: readonly Sentence[], ticked: readonly string[]) => all.every((c) => ticked.includes(tickOf(c)));
