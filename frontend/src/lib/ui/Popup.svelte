<!-- A small window over the page, with its title and a way out. -->
<script lang="ts">
	import type { Snippet } from 'svelte';
	import { CloseButton, Modal } from 'flowbite-svelte';
	import { word } from '../../words/words';

	let {
		open = $bindable(),
		title,
		size = 'sm',
		onoutroend,
		children
	}: { open: boolean; title: string; size?: 'xs' | 'sm' | 'lg'; onoutroend?: () => void; children: Snippet } = $props();
</script>

<Modal bind:open {size} {onoutroend} dismissable={false} outsideclose aria-label={title}>
	{#snippet header()}
		<h3>{title}</h3>
		<CloseButton name={word('common.close')} onclick={() => (open = false)} />
	{/snippet}
	{@render children()}
</Modal>
