<script lang="ts">
	import Popup from '../lib/ui/Popup.svelte';
	import { session } from './session.svelte';
	import { word } from '../words/words';

	let { open = $bindable(false) }: { open?: boolean } = $props();
	const rows = $derived([
		['1 – 6', word('shell.go-to-a-station-alt-1')],
		['/', word('shell.find-a-part-joint-or-stock-2')],
		[word('shell.ctrl-z-ctrl-shift-z'), word('shell.undo-redo')],
		['↑ ↓', word('shell.move-through-a-list')],
		[word('shell.arrows-0'), word('shell.move-zoom-and-fit-the-mat')],
		[word('shell.arrows-t-b-l'), word('shell.move-a-picked-part-on-lay', { size: session.unit === 'mm' ? '1 mm' : word('shell.0-05-in') })],
		[word('shell.space'), word('shell.play-and-step-assembly-reel')],
		[word('shell.enter-esc'), word('shell.keep-a-typed-number-put-the')],
		['?', word('shell.this-page')]
	]);
</script>

<Popup bind:open title={word('shell.keys')} size="sm">
	<table>
		<tbody>
			{#each rows as [key, what] (key)}<tr><td class="fig">{key}</td><td>{what}</td></tr>{/each}
		</tbody>
	</table>
	<p class="quiet">{word('shell.length-fields-take-units-and-sums')}</p>
</Popup>

<style>
	td {
		padding: 4px 18px 4px 0;
	}
</style>
