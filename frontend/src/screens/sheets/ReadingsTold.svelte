<!-- What became of the readings that were typed, and what to do next. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import { show } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, wrong, onmend }: { rack: RackState; wrong: string; onmend: (key: number, text: string) => void } = $props();
	const queue = $derived(rack.typed);
</script>

<p class="told" role={wrong ? 'alert' : undefined}>
	{#each queue.failed as t (t.key)}<span class="lost"
			><b>{t.text}</b>
			{word('sheets.was-not-kept', { wrong: t.wrong })}
			<button class="underline" onclick={() => onmend(t.key, t.text)}>{word('sheets.type-it-again')}</button>
			<button class="underline" onclick={() => queue.again(t.key, t.text)}>{word('sheets.send-it-again')}</button></span
		>{/each}
	{#if queue.unread}<b>{queue.unread}</b>{:else if wrong}{:else if rack.withdrawn}{word('sheets.the-reading-no-longer-counts', {
			thicknessmm: show(rack.withdrawn.thickness_mm, session.unit, true)
		})}
		<button class="underline" onclick={() => rack.withdrawReading(rack.withdrawn!, false)}>{word('sheets.put-it-back')}</button
		>{:else}{word('sheets.type-a-reading-and-press-enter')}{/if}
</p>

<style>
	.lost {
		display: block;
	}
	.told {
		margin: 30px 0 6px;
		color: var(--mat-ink-2);
		font-size: 12.5px;
	}
	.told b {
		color: #ffd4a3;
		font-weight: 600;
	}
</style>
