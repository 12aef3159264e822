/** Showing lengths. Reading what people type is the server's (`/api/numbers`), one place, one answer; but for a bare figure, which has only one reading. */
import { locale, word } from '../../words/words';
export type Unit = 'mm' | 'in' | 'in/64' | 'thou';
/** What each is called where it is chosen, and what figures in it are. */
export const UNITS: { value: Unit; name: string; figures: string }[] = [
	{ value: 'mm', name: 'mm', figures: word('common.millimetres') },
	{ value: 'in', name: word('common.inch-decimal'), figures: word('common.inches') },
	{ value: 'in/64', name: word('common.inch-fractions'), figures: word('common.inches') },
	{ value: 'thou', name: word('common.thousandths'), figures: word('common.thousandths-of-an-inch') }
];
export const MM_PER_INCH = 25.4;

function fraction(inches: number): string {
	const parts = Math.round(Math.abs(inches) * 64);
	const whole = Math.floor(parts / 64);
	let top = parts % 64;
	let bottom = 64;
	while (top && top % 2 === 0) {
		top /= 2;
		bottom /= 2;
	}
	const sign = inches < 0 && parts > 0 ? '-' : '';
	if (!top) return `${sign}${whole}`;
	return `${sign}${whole ? `${whole} ` : ''}${top}/${bottom}`;
}

/** Numbers that hold for a millimetre or a second: how they are read in millimetres and in inches, and how many of the one are one of the other. */
export const RATES = {
	speed: { mm: 'mm/s', inch: 'in/s', times: MM_PER_INCH },
	acceleration: { mm: 'mm/s²', inch: 'in/s²', times: MM_PER_INCH },
	pulses: { mm: '/mm', inch: '/in', times: 1 / MM_PER_INCH }
} as const;
export type Rate = keyof typeof RATES;
export const rateName = (rate: Rate, unit: Unit) => (unit === 'mm' ? RATES[rate].mm : RATES[rate].inch);
/** How many of what is stored are one of what a person reads and types. */
export const rateTimes = (rate: Rate, unit: Unit) => (unit === 'mm' ? 1 : RATES[rate].times);
export function showRate(value: number, rate: Rate, unit: Unit): string {
	return String(unit === 'mm' ? value : Number((value / RATES[rate].times).toPrecision(4)));
}
/** A speed in mm/s with its unit. */
export const speed = (value: number, unit: Unit) => `${showRate(value, 'speed', unit)} ${rateName('speed', unit)}`;

/** A way of metres or feet. */
export const far = (mm: number, unit: Unit) =>
	unit === 'mm' ? `${(mm / 1000).toFixed(1)} m` : word('common.ft', { INCH: (mm / MM_PER_INCH / 12).toFixed(1) });

/** A length in mm as text in a unit; `fine` is for widths of joints, where hundredths matter. */
export function show(mm: number, unit: Unit, fine = false): string {
	if (unit === 'mm') return mm.toFixed(fine ? 2 : 1);
	if (unit === 'in') return (mm / MM_PER_INCH).toFixed(fine ? 4 : 3);
	if (unit === 'thou') return ((mm / MM_PER_INCH) * 1000).toFixed(fine ? 1 : 0);
	return fine ? (mm / MM_PER_INCH).toFixed(4) : fraction(mm / MM_PER_INCH);
}

/** A kerf: a thousandth of a millimetre still shows in ten stacked strips. */
export function showKerf(mm: number, unit: Unit): string {
	return unit === 'mm' ? mm.toFixed(3) : show(mm, unit, true);
}

/** The short name of a unit, said once beside a group of figures. */
export function unitName(unit: Unit): string {
	return unit === 'thou' ? 'thou' : unit === 'mm' ? 'mm' : 'in';
}

/** What the figures of a sentence's piece are; bare: a length whose unit comes later. */
export type Figures = 'length' | 'bare' | 'area' | 'volume' | 'speed';
const POWERS = { area: ['²', 2], volume: ['³', 3] } as const;

/** A size with its unit: 12.0 mm, 20 × 12 mm, 3 mm², 40 mm/s; in mm with as many digits as the sentence wants, null for as many as it has. */
export function sized(mm: readonly number[], unit: Unit, digits: number | null, of: Figures = 'length'): string {
	if (of === 'speed') return mm.map((v) => speed(v, unit)).join(' × ');
	if (of === 'bare') return mm.map((v) => show(v, unit, (digits ?? 0) > 1)).join(' × ');
	const [sign, power] = of === 'length' ? (['', 1] as const) : POWERS[of];
	const exact = (v: number) => (digits === null ? String(v) : v.toFixed(digits));
	const one = (v: number) =>
		unit === 'mm' ? exact(v) : power > 1 ? String(Number((v / MM_PER_INCH ** power).toPrecision(3))) : show(v, unit, (digits ?? 0) > 1);
	return `${mm.map(one).join(' × ')} ${unit !== 'mm' && power > 1 ? 'in' : unitName(unit)}${sign}`;
}

/** A sentence of the program as text, its lengths in a person's unit. */
export function plainly(spans: readonly { text: string; mm: readonly number[]; digits: number | null; of: Figures }[], unit: Unit): string {
	return spans.map((s) => (s.mm.length && unit !== 'mm' ? sized(s.mm, unit, s.digits, s.of) : s.text)).join('');
}

/** With a sign, as the lines of a ledger have it. */
export function signed(mm: number, unit: Unit): string {
	const text = show(Math.abs(mm), unit, true);
	return mm < 0 ? `−${text}` : `+${text}`;
}

/** Seconds as minutes and seconds, or hours and minutes. */
export function clock(seconds: number): string {
	const s = Math.max(0, Math.round(seconds));
	if (s < 3600) return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;
	return `${Math.floor(s / 3600)} h ${String(Math.floor((s % 3600) / 60)).padStart(2, '0')}`;
}

/** A day as people say it. */
export function day(iso: string | null | undefined): string {
	if (!iso) return '';
	return new Date(iso).toLocaleDateString(locale(), { day: 'numeric', month: 'short' });
}

/** A bare figure such as 12 or 0,5 as a number; null for whatever has to be read: units, sums, fractions, or more than any bed is long. */
export function bareFigure(text: string): number | null {
	return /^\s*\d{1,4}([.,]\d{1,9})?\s*$/.test(text) ? Number(text.replace(',', '.')) : null;
}
