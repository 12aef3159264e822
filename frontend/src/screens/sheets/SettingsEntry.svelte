<!-- How this stock is cut and scored, as tried here. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending';
	import type { RackState } from './rack.svelte';

	let { rack, stock, ondone }: { rack: RackState; stock: StockOut; ondone: () => void } = $props();
	// svelte-ignore state_referenced_locally (a fresh form each time it opens)
	let s = $state({ ...stock.settings });
	let problem = $state('');

	async function keep(event: Event) {
		if (!(await settled(event))) return;
		problem = '';
		try {
			await rack.keepSettings(s);
			ondone();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<section aria-label="Settings">
	<NumberField label="Cut power" kind="number" suffix="%" value={s.cut_power ?? 0} oncommit={(v) => void (s.cut_power = v)} />
	<NumberField label="Cut speed" kind="number" suffix="mm/s" value={s.cut_speed ?? 0} oncommit={(v) => void (s.cut_speed = v)} />
	<NumberField label="Passes" kind="count" value={s.passes ?? 1} oncommit={(v) => void (s.passes = v)} />
	<NumberField label="Score power" kind="number" suffix="%" value={s.score_power ?? 0} oncommit={(v) => void (s.score_power = v)} />
	<NumberField label="Score speed" kind="number" suffix="mm/s" value={s.score_speed ?? 0} oncommit={(v) => void (s.score_speed = v)} />
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<p class="quiet my-2">Try them on a scrap of this sheet before a whole job, lid shut and air on.</p>
	<button class="btn main" onclick={keep}>Keep as tried here</button>
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
	}
</style>
