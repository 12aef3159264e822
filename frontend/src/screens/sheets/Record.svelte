<!-- All evidence of a stock, newest first: who found it, where, and whether it counts. Nothing is ever overwritten. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { feelName } from '../../lib/ui/feels';
	import { day, show, showKerf, signed, speed } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';
	import { kerfTestName } from '../../lib/ui/kerftests';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	let problem = $state('');
	interface Line {
		key: string;
		on: string;
		by: string;
		what: string;
		value: string;
		how: string;
		withdrawn: boolean;
		turn: (withdrawn: boolean) => Promise<unknown>;
	}
	const names = $derived(new Map(rack.rack!.stocks.map((s) => [s.id, s.name])));
	const odd = $derived(new Set((stock.value.findings ?? []).filter((f) => f.code === 'kerf_test_odd').map((f) => Number(f.facts?.test))));
	const lines = $derived.by((): Line[] => {
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
	});
	async function turn(line: Line) {
		problem = '';
		try {
			await line.turn(!line.withdrawn);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<div class="mat record">
	<div class="title">
		<button class="on-mat" onclick={() => (rack.pane = 'sheet')}>{word('sheets.sheet')}</button>
		<h2>{word('sheets.the-record', { name: stock.value.name })}</h2>
		<span>{word('sheets.entries-on', { lines: lines.length, name: rack.machine?.name })}</span>
	</div>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<table>
		<thead
			><tr
				><th>{word('sheets.day')}</th><th>{word('sheets.what')}</th><th>{word('sheets.found')}</th><th>{word('sheets.how')}</th><th
					>{word('sheets.by')}</th
				><th></th></tr
			></thead
		>
		<tbody>
			{#each lines as l (l.key)}
				<tr class:gone={l.withdrawn}>
					<td class="fig">{day(l.on)}</td><td>{l.what}</td><td class="fig value">{l.value}</td><td class="how">{l.how}</td><td>{l.by}</td>
					<td
						><button class="underline" onclick={() => turn(l)}>{l.withdrawn ? word('sheets.put-back') : word('sheets.withdraw')}</button
						></td
					>
				</tr>
			{/each}
		</tbody>
	</table>
</div>

<style>
	.record {
		overflow: auto;
		padding: 14px 22px;
	}
	.title {
		display: flex;
		align-items: baseline;
		gap: 14px;
		margin-bottom: 10px;
	}
	.title span,
	th {
		color: var(--mat-ink-2);
		font-weight: 500;
		text-align: left;
	}
	table {
		width: 100%;
		max-width: 860px;
		border-collapse: collapse;
	}
	td,
	th {
		padding: 4px 10px 4px 0;
		border-bottom: 1px solid rgba(190, 230, 218, 0.16);
		white-space: nowrap;
	}
	.how {
		white-space: normal;
		color: var(--mat-ink-2);
		font-size: 12px;
	}
	.value {
		color: #fff;
	}
	.gone td {
		opacity: 0.6;
		text-decoration: line-through;
	}
	.gone td:last-child {
		text-decoration: none;
		opacity: 1;
	}
</style>
