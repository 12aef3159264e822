<!-- Above a card on the mat: what it is, how much is entered, and how it comes to the machine. -->
<script lang="ts">
	import type { CardOut } from '../../../api/types';
	import type { RackState } from '../rack.svelte';
	import { standing } from './entry';
	import { word } from '../../../words/words';

	let { rack, card }: { rack: RackState; card: CardOut } = $props();
	const tongue = $derived(rack.rack!.stocks.find((s) => s.id === card.tongue));
</script>

<div class="mat title">
	<button class="on-mat" onclick={() => (rack.pane = 'sheet')}>{word('sheets.sheet')}</button>
	<h2>{card.name}</h2>
	<span
		>{word('sheets.of-entered', {
			size: standing(card).size,
			cells: card.asked,
			kind: card.kind === 'gauge' && tongue ? ` · ${word('sheets.tongue-of-2', { name: tongue.name })}` : ''
		})}</span
	>
	<span class="grow"></span>
	{#if card.planned}
		<span>{word('sheets.min-2', { minutes: card.minutes!.toFixed(0) })}</span>
		<a class="on-mat" href="/api/projects/{card.project}/files/all.zip" download>{word('sheets.files')}</a>
		<a class="on-mat burn" href="/projects/{card.project}/run">{word('sheets.cut-it')}</a>
	{:else}
		<a class="on-mat" href="/projects/{card.project}/lay-out">{word('sheets.find-a-sheet-for-it')}</a>
	{/if}
</div>

<style>
	.title {
		display: flex;
		align-items: center;
		gap: 14px;
		padding: 10px 16px;
		white-space: nowrap;
		overflow: hidden;
	}
	.title span {
		color: var(--mat-ink-2);
		min-width: 0;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.title > a,
	.title > button,
	.title h2 {
		flex: none;
	}
	.title .grow {
		flex: 1 0 0;
	}
	.burn {
		background: var(--color-ember);
		border-color: var(--color-ember);
		color: #2a0d02;
		font-weight: 650;
	}
</style>
