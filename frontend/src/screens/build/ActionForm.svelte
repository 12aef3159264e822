<!-- What is asked before something is done with a panel: the numbers, and the button that does it once they are read. -->
<script lang="ts">
	import type { Snippet } from 'svelte';
	import { intoView } from '../../lib/ui/intoview';
	import { settled } from '../../lib/ui/pending.svelte';

	let {
		label,
		does,
		problem = '',
		possible = true,
		ondo,
		children
	}: { label: string; does: string; problem?: string; possible?: boolean; ondo: () => Promise<void> | void; children: Snippet } = $props();
	async function submit(event: SubmitEvent) {
		event.preventDefault();
		if (await settled(event)) await ondo();
	}
</script>

<form {@attach intoView()} onsubmit={submit} aria-label={label}>
	{@render children()}
	<button class="btn main" disabled={!possible}>{does}</button>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
</form>

<style>
	form {
		border-left: 3px solid var(--color-mat);
		padding: 6px 0 8px 10px;
		margin-top: 8px;
		display: grid;
		gap: 4px;
	}
	.btn {
		justify-self: start;
	}
</style>
