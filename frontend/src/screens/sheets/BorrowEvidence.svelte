<!-- Start from the evidence of another stock or machine; it is marked as borrowed and gives way to own tests. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stock, ondone }: { rack: RackState; stock: StockOut; ondone: () => void } = $props();
	// svelte-ignore state_referenced_locally (the likeliest to begin with: another batch of the material)
	let from = $state(rack.rack!.stocks.find((s) => s.id !== stock.value.id && s.material === stock.value.material)?.id ?? stock.value.id);
	// svelte-ignore state_referenced_locally
	let machine = $state(rack.machine!.id);
	let problem = $state('');
	const id = $props.id();

	async function borrow() {
		problem = '';
		try {
			await rack.borrow(Number(from), Number(machine));
			ondone();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<section aria-label={word('sheets.borrow-evidence')}>
	<p class="quiet">
		{word('sheets.readings-kerf-and-settings-of-another')}
	</p>
	<label for="{id}s"
		>{word('sheets.from')}
		<select class="select" id="{id}s" bind:value={from}>
			{#each rack.rack!.stocks as s (s.id)}<option value={s.id}>{s.id === stock.value.id ? word('sheets.this-stock') : s.name}</option
				>{/each}
		</select></label
	>
	<label for="{id}m"
		>{word('sheets.on')}
		<select class="select" id="{id}m" bind:value={machine}>
			{#each rack.rack!.machines as m (m.id)}<option value={m.id}>{m.name}</option>{/each}
		</select></label
	>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<button class="btn main mt-2" onclick={borrow}>{word('sheets.borrow')}</button>
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
	}
</style>
