<script lang="ts">
	import { Modal } from 'flowbite-svelte';
	import { session } from './session.svelte';

	let { open = $bindable(false) }: { open?: boolean } = $props();
	const rows = $derived([
		['1 – 6', 'go to a station; Alt 1 – 6 while typing in a field'],
		['/', 'find a part, joint or stock'],
		['Ctrl Z · Ctrl Shift Z', 'undo · redo'],
		['↑ ↓', 'move through a list'],
		['arrows, + − 0', 'move, zoom and fit the mat'],
		[
			'arrows, t, b, l',
			`move a picked part on Lay out by ${session.unit === 'mm' ? '1 mm' : '0.05 in'} (Shift ten times, Alt a tenth), turn it, turn it over, lock it`
		],
		['space, ← →', 'play and step: assembly, reel'],
		['Enter · Esc', 'keep a typed number · put the old one back'],
		['?', 'this page']
	]);
</script>

<Modal bind:open title="Keys" size="sm">
	<table>
		<tbody>
			{#each rows as [key, what] (key)}<tr><td class="fig">{key}</td><td>{what}</td></tr>{/each}
		</tbody>
	</table>
	<p class="quiet">Length fields take units and sums: 62 - 2*3, 1/8in + 2, 2 1/4 in, 7′ 6″, 120 thou.</p>
</Modal>

<style>
	td {
		padding: 4px 18px 4px 0;
	}
</style>
