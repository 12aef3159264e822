<!-- How the beam starts, where parts get their numbers, and what happens to a film. -->
<script lang="ts">
	import type { PlanChoices, PlanOut, SheetPlan } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import Fold from './Fold.svelte';
	import { word } from '../../words/words';

	let { out, sheet, onchoose }: { out: PlanOut; sheet: SheetPlan; onchoose: (change: Partial<PlanChoices>) => Promise<void> } = $props();
	const c = $derived(out.choices);
	const stock = $derived(out.stocks[sheet.stock]);
	const bare = $derived((c.bare ?? []).includes(sheet.stock));
	const chosen = $derived(!!c.lead || (c.numbers ?? 'map') !== 'map' || bare);
</script>

<Fold title={word('cut-plan.starts-numbers', { film: stock?.film ? `, ${word('cut-plan.film')}` : '' })} open={chosen}>
	<NumberField
		label={word('cut-plan.the-beam-starts-beside-the-edge')}
		value={c.lead || null}
		placeholder="0"
		unit={session.unit}
		oncommit={(v) => onchoose({ lead: v })}
	/>
	<p class="quiet hint">{word('cut-plan.in-what-falls-away-on-long')}</p>
	<label
		>{word('cut-plan.numbers-of-the-map')}
		<select class="select" value={c.numbers} onchange={(e) => onchoose({ numbers: e.currentTarget.value as PlanChoices['numbers'] })}>
			<option value="map">{word('cut-plan.only-on-the-printed-map')}</option>
			<option value="front">{word('cut-plan.scored-small-on-the-front-of')}</option>
			<option value="back">{word('cut-plan.scored-small-on-the-back-of')}</option>
		</select></label
	>
	{#if stock?.film}<label class="check"
			><input
				type="checkbox"
				checked={bare}
				onchange={(e) =>
					onchoose({
						bare: e.currentTarget.checked ? [...(c.bare ?? []), sheet.stock] : (c.bare ?? []).filter((s) => s !== sheet.stock)
					})}
			/>
			{word('cut-plan.the-film-of-comes-off-before', { name: stock.name })}</label
		>{/if}
</Fold>

<style>
	.hint {
		font-size: 11.5px;
		margin: 0 0 6px;
	}
</style>
