<!-- What a person ticks before a beam starts. -->
<script lang="ts">
	import type { Sentence } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { tickOf } from './ticks';

	let { title, items, ticked = $bindable() }: { title: string; items: readonly Sentence[]; ticked: string[] } = $props();
</script>

<h3>{title}</h3>
{#each items as c (tickOf(c))}<label class="tick"><input type="checkbox" value={tickOf(c)} bind:group={ticked} />{session.told(c)}</label
	>{/each}

<style>
	.tick {
		display: flex;
		gap: 10px;
		padding: 5px 0;
		align-items: flex-start;
	}
	.tick input {
		margin-top: 2px;
	}
</style>
