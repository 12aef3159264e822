<!-- The part that is picked, and what can be done with it. -->
<script lang="ts">
	import type { ByHand } from './byhand.svelte';
	import { word } from '../../words/words';

	let {
		hand,
		picked,
		label,
		movable,
		backed,
		why = '',
		locked
	}: {
		hand: ByHand;
		picked: string;
		label: string;
		movable: boolean;
		/** it may lie on its back */
		backed: boolean;
		/** why it cannot be moved now */
		why?: string;
		locked: boolean;
	} = $props();
</script>

<div class="tip" role="group" aria-label={word('lay-out.picked-part')}>
	<b>{label}</b>
	{#if hand.problem}<span class="bad" role="alert">{hand.problem}</span>{/if}
	{#if hand.held?.refused}
		<button class="btn main" onclick={() => hand.drop(true)}>{word('lay-out.settle-it-near-by')}</button>
		<button class="btn" onclick={() => hand.back()}>{word('lay-out.put-it-back')}</button>
	{:else if movable}
		{#if !locked}<button class="btn" onclick={() => hand.turnAt(picked)}>{word('lay-out.turn')} <kbd>t</kbd></button>{/if}
		{#if !locked && backed}<button class="btn" onclick={() => hand.turnAt(picked, true)}>{word('lay-out.turn-over')} <kbd>b</kbd></button
			>{/if}
		<button class="btn" aria-pressed={locked} onclick={() => hand.lock(picked, !locked)}
			>{locked ? word('lay-out.unlock') : word('lay-out.lock')} <kbd>l</kbd></button
		>
		<span class="quiet">{locked ? word('lay-out.stays-here-when-the-rest-is') : word('lay-out.drag-it-or-move-it-with')}</span>
	{:else}<span class="quiet">{why}</span>
	{/if}
</div>

<style>
	.tip {
		position: absolute;
		left: 16px;
		bottom: 14px;
		display: flex;
		gap: 10px;
		align-items: center;
		background: var(--bench);
		color: var(--ink);
		padding: 6px 12px;
		border-radius: 4px;
	}
	.bad {
		color: var(--bad);
	}
</style>
