<!-- How the beam starts, where parts get their numbers, and what happens to a film. -->
<script lang="ts">
	import type { PlanChoices, PlanOut, SheetPlan } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import Fold from './Fold.svelte';

	let { out, sheet, onchoose }: { out: PlanOut; sheet: SheetPlan; onchoose: (change: Partial<PlanChoices>) => Promise<void> } = $props();
	const c = $derived(out.choices);
	const stock = $derived(out.stocks[sheet.stock]);
	const bare = $derived((c.bare ?? []).includes(sheet.stock));
	const chosen = $derived(!!c.lead || (c.numbers ?? 'map') !== 'map' || bare);
</script>

<Fold title={`Starts, numbers${stock?.film ? ', film' : ''}`} open={chosen}>
	<NumberField
		label="The beam starts beside the edge by"
		value={c.lead || null}
		placeholder="0"
		unit={session.unit}
		oncommit={(v) => onchoose({ lead: v })}
	/>
	<p class="quiet hint">In what falls away, on long edges, never at a corner or a joint. 0: on the edge.</p>
	<label
		>Numbers of the map
		<select class="select" value={c.numbers} onchange={(e) => onchoose({ numbers: e.currentTarget.value as PlanChoices['numbers'] })}>
			<option value="map">only on the printed map</option>
			<option value="front">scored small on the front of each part</option>
			<option value="back">scored small on the back of each part</option>
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
			the film of {stock.name} comes off before it is burned</label
		>{/if}
</Fold>

<style>
	.hint {
		font-size: 11.5px;
		margin: 0 0 6px;
	}
</style>
