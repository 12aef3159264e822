<!-- A sentence of the program: lengths in the reader's unit, names that lead to what they name. -->
<script lang="ts">
	import type { Finding } from '../api/types';
	import { session } from './session.svelte';
	import { sized } from '../lib/units/units';

	type Segment = NonNullable<Finding['segments']>[number];
	let { of, ongo }: { of: Finding; ongo?: (ref: NonNullable<Segment['ref']>) => void } = $props();
	const segments = $derived(of.segments?.length ? of.segments : [{ text: of.message, mm: [], digits: 0, ref: null }]);
</script>

{#each segments as s, i (i)}{#if s.mm.length}{sized(s.mm, session.unit, s.digits)}{:else if s.ref && ongo}{@const ref = s.ref}<button
			class="name"
			onclick={() => ongo(ref)}>{s.text}</button
		>{:else}{session.said(s.text)}{/if}{/each}

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
