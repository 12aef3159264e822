/** All evidence of a stock as lines of its record, newest first. */
import type { StockOut } from '../../api/types';
import { session } from '../../app/session.svelte';
import { feelName } from '../../lib/ui/feels';
import { kerfTestName } from '../../lib/ui/kerftests';
import { show, showKerf, signed, speed } from '../../lib/units/units';
import { word } from '../../words/words';
import type { RackState } from './rack.svelte';

export interface Line {
	key: string;
	on: string;
	by: string;
	what: string;
	value: string;
	how: string;
	withdrawn: boolean;
	turn: (withdrawn: boolean) => Promise<unknown>;
}

/** The lines of a stock's record; `turn` withdraws what a line tells, or puts it back. */
export function recordOf(stock: StockOut, rack: RackState): Line[] {
	const names = new Map(rack.rack!.stocks.map((s) => [s.id, s.name]));
	const odd = new Set((stock.value.findings ?? []).filter((f) => f.code === 'kerf_test_odd').map((f) => Number(f.facts?.test)));
	const readings = stock.readings.map((r) => ({
		key: `r${r.id}`,
		on: r.on,
		by: r.by,
		what: word('sheets.a-reading'),
		value: show(r.thickness_mm, session.unit, true),
		how: r.borrowed ? word('sheets.borrowed-from', { borrowed: r.borrowed }) : '',
		withdrawn: r.withdrawn,
		turn: (w: boolean) => rack.withdrawReading(r, w)
	}));
	let standing = -1;
	const kerfs = stock.kerf_tests.map((t) => {
		if (!t.withdrawn) standing += 1;
		return {
			key: `k${t.id}`,
			on: t.on,
			by: t.by,
			what: word('sheets.kerf', { kind: kerfTestName(t.kind) }),
			value: showKerf(t.kerf_mm, session.unit),
			how: [
				t.borrowed && word('sheets.borrowed-from', { borrowed: t.borrowed }),
				session.told(t.setting),
				!t.withdrawn && odd.has(standing) && word('sheets.far-from-the-others')
			]
				.filter(Boolean)
				.join(' · '),
			withdrawn: t.withdrawn,
			turn: (w: boolean) => rack.withdrawTest(t.id, w)
		};
	});
	const feels = stock.feels.map((f) => ({
		key: `f${f.id}`,
		on: f.on,
		by: f.by,
		what: word('sheets.feel-with', {
			entering: names.get(f.entering === stock.value.id ? f.opening : f.entering) ?? word('sheets.another')
		}),
		value: feelName(f.feel),
		how: [
			f.drawn_mm === null
				? word('sheets.believed', { clearancemm: signed(f.clearance_mm, session.unit) })
				: word('sheets.slot-drawn', { drawnmm: show(f.drawn_mm, session.unit, true) }),
			f.borrowed && word('sheets.borrowed-from', { borrowed: f.borrowed })
		]
			.filter(Boolean)
			.join(' · '),
		withdrawn: f.withdrawn,
		turn: (w: boolean) => rack.withdrawFeel(f.id, w)
	}));
	const settings = stock.settings_history.map((s) => ({
		key: `s${s.id}`,
		on: s.on,
		by: s.by,
		what: word('sheets.some-settings'),
		value: `${s.settings.cut.power} %, ${speed(s.settings.cut.speed, session.unit)}`,
		how: s.settings.source ?? '',
		withdrawn: s.withdrawn,
		turn: (w: boolean) => rack.withdrawSettings(s.id, w)
	}));
	return [...readings, ...kerfs, ...feels, ...settings].sort((a, b) => b.on.localeCompare(a.on));
}
