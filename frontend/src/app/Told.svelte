<!-- A sentence of the program: lengths in the reader's unit, names that lead to what they name. -->
<script lang="ts">
	import type { Sentence, Span } from '../api/types';
	import { plainly } from '../lib/units/units';
	import { session } from './session.svelte';

	let { of, ongo }: { of: Sentence; ongo?: (ref: NonNullable<Span['ref']>) => void } = $props();
</script>

{#each of.spans as s, i (i)}{#if s.ref && ongo}{@const ref = s.ref}<button class="name" onclick={() => ongo(ref)}>{s.text}</button
		>{:else}{plainly([s], session.unit)}{/if}{/each}

<style>
	.name {
		font: inherit;
		color: inherit;
		text-decoration: underline dotted;
		text-underline-offset: 3px;
	}
	.name:hover {
		color: var(--color-mat);
		text-decoration-style: solid;
	}
</style>
