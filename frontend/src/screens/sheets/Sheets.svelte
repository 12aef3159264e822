<!-- Sheets: what the sheet really is, and what the beam really removes. -->
<script lang="ts">
	import { searchParams } from 'sv-router';
	import { useProject } from '../../app/project.svelte';
	import RackList from './RackList.svelte';
	import SheetFace from './SheetFace.svelte';
	import StockGives from './StockGives.svelte';
	import { RackState } from './rack.svelte';

	const work = useProject();
	const rack = new RackState(() => work.touched());
	let problem = $state('');
	const used = $derived(new Set(work.project ? Object.values(work.project.design.stocks) : []));

	rack
		.load()
		.then(() => (rack.chosen = String(searchParams.get('stock') ?? work.project?.design.stocks.walls ?? '')))
		.catch((e: Error) => (problem = e.message));
</script>

{#if problem}<div class="note bad m-6" role="alert">{problem}</div>{/if}
{#if rack.rack && rack.stock}
	<div class="station">
		<RackList {rack} {used} />
		{#key rack.stock.value.id}
			<SheetFace {rack} stock={rack.stock} />
			<StockGives {rack} stock={rack.stock} />
		{/key}
	</div>
{:else if rack.rack}
	<div class="station">
		<RackList {rack} {used} />
		<p class="p-8">The rack is empty. Add the first stock on the left.</p>
	</div>
{/if}

<style>
	.station {
		height: 100%;
		display: grid;
		grid-template-columns: 236px minmax(0, 1fr) 296px;
		grid-template-rows: minmax(0, 1fr);
	}
	@media (max-width: 1100px) {
		.station {
			grid-template-columns: 200px minmax(0, 1fr) 262px;
		}
	}
</style>
