<!-- How the beam starts, where parts get their numbers, and what happens to a film. -->
<script lang="ts">
	import type { PlanChoices, PlanOut, SheetPlan } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';

	let { out, sheet, onchoose }: { out: PlanOut; sheet: SheetPlan; onchoose: (change: Partial<PlanChoices>) => Promise<void> } = $props();
	const c = $derived(out.choices);
	const stock = $derived(out.stocks[sheet.stock]);
	const bare = $derived((c.bare ?? []).includes(sheet.stock));
	const chosen = $derived(!!c.lead || (c.numbers ?? 'map') !== 'map' || bare);
</script>

<details class="how" open={chosen}>
	<summary><h3>Starts, numbers{stock?.film ? ', film' : ''}</h3></summary>
	<NumberField
		label="The beam starts beside the edge by"
		value={c.lead || null}
		placeholder="0"
		unit={session.unit}
		oncommit={(v) => onchoose({ lead: v })}
	/>
	<p class="quiet">In what falls away, on long edges, never at a corner or a joint. 0: on the edge.</p>
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
</details>

<style>
	h3 {
		display: inline;
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
	}
	.how {
		margin: 12px 0 4px;
	}
	summary {
		cursor: pointer;
	}
	p {
		font-size: 11.5px;
		margin: 0 0 6px;
	}
	label {
		display: block;
		margin: 6px 0;
		font-size: 12.5px;
	}
	.select {
		display: block;
		width: 100%;
		margin-top: 2px;
	}
	.check {
		display: flex;
		gap: 8px;
		align-items: flex-start;
		font-size: 13px;
	}
	.check input {
		margin-top: 3px;
	}
</style>
