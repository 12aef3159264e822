<!-- How the other face of a sheet is burned, and what else is chosen about its runs. -->
<script lang="ts">
	import type { PlanChoices, PlanOut, SheetPlan } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { show, unitName } from '../../lib/units/units';
	import Fold from './Fold.svelte';
	import { word } from '../../words/words';

	let { out, sheet, onchoose }: { out: PlanOut; sheet: SheetPlan; onchoose: (change: Partial<PlanChoices>) => Promise<void> } = $props();
	const c = $derived(out.choices);
	const stock = $derived(out.stocks[sheet.stock]);
	const runs = $derived(out.plan!.sheets.filter((s) => s.sheet === sheet.sheet && s.copy === sheet.copy));
	const second = $derived(runs.length > 1 ? runs[1]! : null);
	const lay = $derived(second?.lay ?? (sheet.lay?.kind === 'printed' ? sheet.lay : null));
	const thick = $derived((c.thick ?? []).includes(sheet.stock));
	const printed = $derived((c.printed ?? []).includes(sheet.stock));
	const engraves = $derived(printed || sheet.strokes.some((s) => s.path.operation === 'engrave'));
	const toggled = (all: readonly string[] | undefined, on: boolean) =>
		on ? [...(all ?? []), sheet.stock] : (all ?? []).filter((s) => s !== sheet.stock);
	const open = $derived(!!lay || out.has_backs);
</script>

<Fold title={word('cut-plan.both-sides')} {open}>
	{#if lay}
		<p>{session.told(lay.why)}</p>
		<p class="quiet">
			{word('cut-plan.both-agree-within')} <span class="fig">{show(lay.mismatch ?? 0, session.unit, true)}</span>
			{unitName(session.unit)}{thick ? `: ${word('cut-plan.so-large-a-step-may-show')}` : ''}.
		</p>
	{:else if c.second === 'none' && out.has_backs}<p class="quiet">{word('cut-plan.backs-are-left-out-only-the')}</p>
	{:else}<p class="quiet">{word('cut-plan.this-sheet-needs-one-run-nothing')}</p>{/if}
	{#if out.has_backs || (c.second ?? 'auto') !== 'auto'}
		<label
			>{word('cut-plan.backs')}
			<select class="select" value={c.second} onchange={(e) => onchoose({ second: e.currentTarget.value as PlanChoices['second'] })}>
				<option value="auto">{word('cut-plan.turn-parts-over-in-their-holes')}</option>
				<option value="marks">{word('cut-plan.turn-the-whole-sheet-over-by')}</option>
				<option value="none">{word('cut-plan.leave-them-out')}</option>
			</select></label
		>
	{/if}
	{#if second?.lay?.kind === 'turned'}
		<label
			>{word('cut-plan.the-sheet-is-turned-over')}
			<select class="select" value={c.turn} onchange={(e) => onchoose({ turn: e.currentTarget.value as PlanChoices['turn'] })}>
				<option value="sideways">{word('cut-plan.left-to-right-like-a-page')}</option>
				<option value="upwards">{word('cut-plan.top-to-bottom')}</option>
			</select></label
		>
	{/if}
	<label class="check"
		><input type="checkbox" checked={thick} onchange={(e) => onchoose({ thick: toggled(c.thick, e.currentTarget.checked) })} />
		{word('cut-plan.cut-from-both-sides-where-one', { name: stock?.name })}</label
	>
	{#if engraves}<label class="check"
			><input type="checkbox" checked={printed} onchange={(e) => onchoose({ printed: toggled(c.printed, e.currentTarget.checked) })} />
			{word('cut-plan.what-is-engraved-comes-printed-cut')}</label
		>{/if}
	{#if out.has_backs}<label class="check"
			><input type="checkbox" checked={c.locate} onchange={(e) => onchoose({ locate: e.currentTarget.checked })} />
			{word('cut-plan.score-places-of-joints-on-backs')}</label
		>{/if}
</Fold>
