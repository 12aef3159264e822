<!-- How long each operation of a run takes, with what it is burned, and whether it is part of the job. -->
<script lang="ts">
	import type { Beam, PlanChoices, PlanOut, SheetPlan } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { sourceOf } from '../../lib/ui/settings';
	import { clock, far, signed, speed } from '../../lib/units/units';
	import { word } from '../../words/words';

	let {
		sheet,
		settings,
		skip,
		waiting,
		onskip
	}: {
		sheet: SheetPlan;
		settings: PlanOut['settings'][string];
		/** operations that are left out of the job */
		skip: NonNullable<PlanChoices['skip']>;
		waiting: boolean;
		onskip: (skip: NonNullable<PlanChoices['skip']>) => void;
	} = $props();
	const count = (operation: string) => sheet.strokes.filter((s) => s.path.operation === operation).length;
	const own = (operation: string) => sheet.strokes.some((s) => s.path.operation === operation && s.path.beam);
	const kinds = $derived([
		{ operation: 'engrave', name: word('cut-plan.engrave'), beam: settings.engrave },
		{ operation: 'score', name: word('cut-plan.score'), beam: settings.score },
		{ operation: 'inner', name: word('cut-plan.inner-cuts'), beam: settings.cut },
		{ operation: 'outer', name: word('cut-plan.outer-cuts'), beam: settings.cut }
	] as const);
	/** How often the beam goes over, as this run does it: passes may be shared out over both sides. */
	const passes = (operation: string, b: Beam) => {
		const some = new Set(sheet.strokes.filter((s) => s.path.operation === operation).map((s) => s.passes));
		const told = some.size ? [...some].sort((x, y) => x - y) : [b.passes ?? 1];
		return told.length > 1 || told[0]! > 1 ? ` · ${word('cut-plan.passes', { told: told.join(' or ') })}` : '';
	};
	const words = (b: Beam, operation: string) =>
		`${b.power} % · ${speed(b.speed, session.unit)}${passes(operation, b)}${b.focus ? ` · ${word('cut-plan.focus', { focus: signed(b.focus, session.unit) })}` : ''}`;
	const paths = (operation: string) => word('cut-plan.path', { operation: count(operation) });
	const leave = (operation: (typeof skip)[number], out: boolean) =>
		onskip(out ? [...skip, operation] : skip.filter((o) => o !== operation));
</script>

<table>
	<tbody>
		{#each kinds as k (k.operation)}
			{#if count(k.operation) || skip.includes(k.operation)}<tr
					><td
						><label class="burn-it"
							><input
								type="checkbox"
								checked={!skip.includes(k.operation)}
								disabled={waiting}
								onchange={(e) => leave(k.operation, !e.currentTarget.checked)}
							/>
							{k.name}</label
						><small
							>{skip.includes(k.operation) ? word('cut-plan.left-out-of-this-job') : paths(k.operation)} · {own(k.operation)
								? word('cut-plan.each-with-settings-of-its-own')
								: words(k.beam, k.operation)}{k.operation === 'inner'
								? ''
								: ` · ${sourceOf(settings, k.operation === 'outer' ? 'cut' : k.operation)}`}</small
						></td
					><td class="fig">{clock(sheet.by_operation[k.operation] ?? 0)}</td></tr
				>{/if}
		{/each}
		<tr
			><td>{word('cut-plan.moves')}<small>{word('cut-plan.with-the-beam-off', { travel: far(sheet.travel, session.unit) })}</small></td><td
				class="fig">{clock(sheet.by_operation.travel ?? 0)}</td
			></tr
		>
	</tbody>
</table>
{#each sheet.hints ?? [] as h, i (i)}<p class="hint">{session.told(h.says)}</p>{/each}

<style>
	table {
		width: 100%;
		border-collapse: collapse;
		margin-top: 6px;
	}
	td {
		padding: 5px 0;
		border-bottom: 1px solid var(--rule);
		vertical-align: top;
	}
	td.fig {
		text-align: right;
		font-size: 15px;
	}
	small {
		display: block;
		color: var(--ink-2);
		font-size: 11.5px;
	}
	.burn-it {
		display: flex;
		gap: 7px;
		align-items: center;
	}
	td small {
		padding-left: 20px;
	}
	.hint {
		margin: 6px 0 0;
		padding-left: 10px;
		border-left: 3px solid var(--color-mat);
		font-size: 12.5px;
	}
</style>
