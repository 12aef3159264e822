<!-- Keep a size in view, on the screen and on the run sheet. -->
<script lang="ts">
	import type { Pin } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { word } from '../../words/words';

	let { pin, label }: { pin: Pin; label: string } = $props();
	const work = useProject();
	const there = $derived(work.design.pins?.some((p) => p.part === pin.part && p.what === pin.what) ?? false);
	let problem = $state('');
	const toggle = () => work.togglePin(pin, label).catch((e: Error) => (problem = e.message));
</script>

<button class="btn pin" aria-pressed={there} onclick={toggle}
	>{there ? word('build.in-view-also-on-the-run') : word('build.keep-in-view')}</button
>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

<style>
	.pin {
		margin-top: 6px;
	}
</style>
