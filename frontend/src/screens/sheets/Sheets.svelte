<!-- Sheets: what the sheet really is, and what the beam really removes. -->
<script lang="ts">
	import { searchParams } from 'sv-router';
	import { useProject } from '../../app/project.svelte';
	import CardTable from './cards/CardTable.svelte';
	import Contrast from './Contrast.svelte';
	import FilesInOut from './FilesInOut.svelte';
	import MachineProfile from './MachineProfile.svelte';
	import RackList from './RackList.svelte';
	import Record from './Record.svelte';
	import SheetFace from './SheetFace.svelte';
	import StockGives from './StockGives.svelte';
	import { RackState } from './rack.svelte';
	import { stocksOf } from '../../app/items';
	import { word } from '../../words/words';

	const work = useProject();
	const used = $derived(work.project ? stocksOf(work.project.design) : new Set<string>());
	const rack = new RackState(
		() => work.touched(),
		() => [...used]
	);
	let problem = $state('');
	const say = (message: string) => (problem = message);

	async function begin() {
		rack.machineId = work.project?.machine ?? '';
		await rack.load();
		const wanted = String(searchParams.get('stock') ?? work.project?.design.stocks.walls ?? work.project?.design.stocks.sheet ?? '');
		const first = rack.rack!.stocks.find((s) => s.id === wanted) ?? rack.rack!.stocks[0];
		if (first) await rack.choose(first.id);
		const card = work.project?.is_test ? rack.cards.find((c) => c.project === work.id) : undefined;
		if (card) await rack.openCard(card.id);
	}
	begin().catch((e: Error) => say(e.message));
	$effect(() => {
		const wanted = searchParams.get('stock');
		if (wanted && rack.rack && String(wanted) !== rack.stock?.value.id)
			void rack.choose(String(wanted)).catch((e: Error) => say(e.message));
	});
</script>

{#if rack.rack}
	<div class="station">
		<RackList {rack} {used} onproblem={say} />
		{#if problem}<div class="note bad told" role="alert">
				{problem} <button class="underline" onclick={() => (problem = '')}>{word('sheets.close')}</button>
			</div>{/if}
		{#if rack.pane === 'contrast'}<Contrast {rack} />
		{:else if rack.pane === 'machine' && rack.machine}{#key rack.machine.id}<MachineProfile {rack} machine={rack.machine} />{/key}
		{:else if rack.pane === 'files'}<FilesInOut {rack} />
		{:else if rack.stock}
			{#key rack.stock.value.id}
				{#if rack.pane === 'card' && rack.card}{#key rack.card.id}<CardTable {rack} card={rack.card} />{/key}
				{:else if rack.pane === 'record'}<Record {rack} stock={rack.stock} />
				{:else}<SheetFace {rack} stock={rack.stock} />{/if}
				<div class="gives" inert={!!rack.coming}><StockGives {rack} stock={rack.stock} /></div>
			{/key}
		{:else if !rack.rack.stocks.length}<p class="p-8">{word('sheets.the-rack-is-empty-add-the')}</p>{/if}
	</div>
{:else if problem}<div class="note bad m-6" role="alert">{problem}</div>{/if}

<style>
	.gives {
		display: contents;
	}
	.station {
		position: relative;
		grid-template-columns: 236px minmax(0, 1fr) 304px;
		grid-template-rows: minmax(0, 1fr);
	}
	.told {
		position: absolute;
		z-index: 5;
		top: 10px;
		left: 260px;
		background: var(--bench);
		padding: 8px 14px;
	}
	@media (max-width: 1100px) {
		.station {
			grid-template-columns: 200px minmax(0, 1fr) 270px;
		}
	}
</style>
