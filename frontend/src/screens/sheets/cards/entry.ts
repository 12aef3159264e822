/** What can be said about a cell on each kind of card: one of a few words, or a measured number. */
import type { CardOut, Cell } from '../../../api/types';
import { FEELS } from '../../../lib/ui/feels';
import { word } from '../../../words/words';

export interface Option {
	name: string;
	/** for small cells */
	short: string;
	colour: string;
	value: Record<string, unknown>;
}

const CHARS = ['clean', word('sheets.light-char'), 'charred', 'burnt'];
const SHADES = ['var(--snug)', 'var(--slides)', 'var(--mallet)', '#8a5a3b'];

/** The words to choose from; empty where a number is measured. */
export function optionsFor(kind: string): Option[] {
	if (kind === 'gauge') return FEELS.map((f) => ({ name: f.name, short: f.name, colour: f.colour, value: { feel: f.key } }));
	if (kind === 'power')
		return [
			{ name: word('sheets.not-through'), short: 'no', colour: 'var(--wontgo)', value: { through: false, char: 0 } },
			...CHARS.map((name, char) => ({ name, short: name.split(' ')[0]!, colour: SHADES[char]!, value: { through: true, char } }))
		];
	if (kind === 'legibility')
		return [
			{ name: word('sheets.good'), short: 'good', colour: 'var(--snug)', value: { good: true } },
			{ name: word('sheets.lost'), short: 'lost', colour: 'var(--wontgo)', value: { good: false } }
		];
	return [];
}

/** The field of a measured result, and what to measure. */
export function measureOf(card: CardOut, cell: Cell): { field: string; ask: string } {
	if (card.kind === 'steps') return { field: 'depth_mm', ask: word('sheets.how-deep-is-the-square-of', { passes: Number(cell.label) }) };
	if (card.kind === 'strips') return { field: 'measured_mm', ask: word('sheets.stack-all-strips-how-high-is') };
	return { field: 'measured_mm', ask: word('sheets.how-wide-is-the-that-was', { what: cell.what, label: cell.label }) };
}

export function standing(card: CardOut): Map<string, Record<string, unknown>> {
	return new Map(card.found.results.filter((r) => !r.withdrawn).map((r) => [r.cell, r.value as Record<string, unknown>]));
}

/** The option that a result stands for. */
export function chosen(options: Option[], value: Record<string, unknown> | undefined): Option | undefined {
	return value && options.find((o) => Object.entries(o.value).every(([k, v]) => value[k] === v));
}

/** Where to go from a cell: along a row, or to the nearest in the next row. */
export function neighbour(cells: readonly Cell[], from: number, key: string): number {
	const here = cells[from];
	if (!here) return 0;
	const middle = (c: Cell) => [(c.box[0]! + c.box[2]!) / 2, (c.box[1]! + c.box[3]!) / 2] as const;
	const [x, y] = middle(here);
	const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[key] as [number, number];
	let [best, at] = [Infinity, from];
	cells.forEach((c, i) => {
		if (i === from || c.part !== here.part) return;
		const [cx, cy] = middle(c);
		const along = (cx - x) * way[0] + (cy - y) * way[1];
		const off = Math.abs((cx - x) * way[1]) + Math.abs((cy - y) * way[0]);
		if (along > 0.5 && along + 3 * off < best) [best, at] = [along + 3 * off, i];
	});
	if (at !== from) return at;
	const step = key === 'ArrowLeft' || key === 'ArrowUp' ? -1 : 1;
	return Math.min(Math.max(from + step, 0), cells.length - 1);
}
