<!-- A substance that may only be cut by its maker's data: who has read it, and where. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { day } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	const attempt = new Attempt();
	let data = $state('');
	const id = $props.id();
</script>

{#if stock.confirmed_on}
	<p>
		{word('sheets.has-its-makers-data', {
			confirmedby: stock.confirmed_by,
			confirmedon: day(stock.confirmed_on),
			confirmeddata: stock.confirmed_data
		})}
		<button class="underline" onclick={() => attempt.at(() => rack.confirmData(''))}>{word('sheets.take-it-back')}</button>
	</p>
{:else}
	<label for="{id}data"
		>{word('sheets.which-data-sheet-and-what-it')}<input class="input" id="{id}data" maxlength="200" bind:value={data} /></label
	>
	<button class="btn" disabled={!data.trim()} onclick={() => attempt.at(() => rack.confirmData(data))}
		>{word('sheets.i-have-read-it', { username: session.me?.username })}</button
	>
{/if}
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
