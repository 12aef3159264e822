/** What a number field shows of a value, and what it makes of typed text. */
import { api, need } from '../../api/client';
import { word } from '../../words/words';
import { bareFigure, rateTimes, RATES, show, showKerf, showRate, type Rate, type Unit } from '../units/units';

export type NumberKind = 'length' | 'count' | 'number' | Rate;

export const rateOf = (kind: NumberKind): Rate | null => (kind in RATES ? (kind as Rate) : null);

/** A value as it stands in its field; `fine` are hundredths of a millimetre, `finest` thousandths. */
export function figureOf(value: number, how: { kind: NumberKind; unit: Unit; digits: 'plain' | 'fine' | 'finest' }): string {
	const rate = rateOf(how.kind);
	if (rate) return showRate(value, rate, how.unit);
	if (how.kind !== 'length') return String(value);
	return how.digits === 'finest' ? showKerf(value, how.unit) : show(value, how.unit, how.digits === 'fine');
}

/** What was typed, in millimetres where it is a length; sums and units are read by the core. Throws what is to be told. */
export async function numberOf(typed: string, kind: NumberKind, unit: Unit): Promise<number> {
	const body = { text: typed, unit: kind === 'length' ? unit : null };
	const bare = kind === 'length' && unit !== 'mm' ? null : bareFigure(typed);
	const number = bare ?? (await need(api.POST('/api/numbers', { body }))).value;
	if (kind === 'count' && !Number.isInteger(number)) throw new Error(word('common.type-a-whole-number'));
	const rate = rateOf(kind);
	return rate ? number * rateTimes(rate, unit) : number;
}
