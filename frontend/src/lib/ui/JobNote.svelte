<!-- Long work on a stage: what it does, how many come before it, and the way to end it. -->
<script lang="ts">
	import type { Snippet } from 'svelte';
	import { word } from '../../words/words';

	let {
		job,
		doing,
		stop,
		onstop,
		children
	}: {
		job: { state: string; before?: number } | null;
		/** what it does, while it runs */
		doing: string;
		/** what its button says, while it runs */
		stop: string;
		onstop: () => void;
		children?: Snippet;
	} = $props();
	const waits = $derived(job?.state === 'waiting');
	const before = $derived(job?.before ?? 0);
</script>

<div class="run" role="status">
	<b>{waits ? (before ? word('common.waiting-before-it', { before }) : word('common.waiting-for-a-worker')) : doing}</b>
	{@render children?.()}
	<button class="btn" onclick={onstop}>{waits ? word('common.take-it-back') : stop}</button>
</div>

<style>
	.run {
		display: grid;
		gap: 6px;
		justify-items: start;
		margin: 8px 0;
		padding: 10px;
		border-radius: 4px;
		background: var(--bench-2);
	}
</style>
