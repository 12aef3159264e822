/** Where sheets stand on the mat: side by side at one scale, in the number of rows that shows them largest. */
import type { SheetLayout } from '../../api/types';
import type { OnMat } from './byhand.svelte';

const GAP = 40; // [mm] between two sheets
const WORDS_PX = 46; // room above and below a sheet for its words
const BESIDE_PX = 60;
const AROUND_PX = 156;

interface Arranged {
	sheets: OnMat[];
	width: number;
	height: number;
	scale: number;
}

function inRows(sheets: SheetLayout[], rows: number, w: number, h: number): Arranged {
	const each = Math.ceil(sheets.length / rows);
	const lines = Array.from({ length: Math.ceil(sheets.length / each) }, (_, i) => sheets.slice(i * each, (i + 1) * each));
	const width = Math.max(...lines.map((l) => l.reduce((sum, s) => sum + s.width + GAP, -GAP)));
	const high = lines.map((l) => Math.max(...l.map((s) => s.height)));
	const bare = high.reduce((a, b) => a + b, 0);
	const words = (high.length - 1) * WORDS_PX;
	const scale = Math.min((w - BESIDE_PX) / width, Math.max(h - AROUND_PX - words, 60) / bare);
	const gap = WORDS_PX / scale;
	let top = 0;
	const done: OnMat[] = [];
	for (const [i, line] of [...lines.entries()].reverse()) {
		let x = 0;
		for (const sheet of line) {
			done.push({ sheet, x, y: top });
			x += sheet.width + GAP;
		}
		top += high[i]! + gap;
	}
	return { sheets: done, width, height: top - gap, scale };
}

/** Return where each sheet stands on a mat of so many pixels. */
export function sideBySide(sheets: SheetLayout[], w: number, h: number): Arranged {
	const ways = sheets.map((_, i) => inRows(sheets, i + 1, w, h));
	return ways.reduce((best, way) => (way.scale > best.scale ? way : best), ways[0] ?? { sheets: [], width: 600, height: 400, scale: 1 });
}
