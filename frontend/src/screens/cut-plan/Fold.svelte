<!-- A group of choices that folds away, with fields of one form. -->
<script lang="ts">
	import type { Snippet } from 'svelte';

	let { title, open, children }: { title: string; open: boolean; children: Snippet } = $props();
</script>

<details {open}>
	<summary><h3>{title}</h3></summary>
	{@render children()}
</details>

<style>
	h3 {
		display: inline;
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
	}
	details {
		margin: 12px 0 4px;
	}
	summary {
		cursor: pointer;
	}
	details :global(label) {
		display: block;
		margin: 6px 0;
		font-size: 12.5px;
	}
	details :global(.select) {
		display: block;
		width: 100%;
		margin-top: 2px;
	}
	details :global(.check) {
		display: flex;
		gap: 8px;
		align-items: flex-start;
		font-size: 13px;
	}
	details :global(.check input) {
		margin-top: 3px;
	}
</style>
