<!-- So many more of a feature, each so far from the one before. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import { word } from '../../words/words';

	let { onmake }: { onmake: (more: number, dx: number, dy: number) => void } = $props();
	let more = $state(3);
	let dx = $state(session.unit === 'mm' ? 25 : 25.4); // [mm] a round figure in the reader's unit
	let dy = $state(0);
	async function make(event: SubmitEvent) {
		event.preventDefault();
		if (await settled(event)) onmake(more, dx, dy);
	}
</script>

<form onsubmit={make} aria-label={word('build.in-a-row')}>
	<NumberField label={word('build.so-many-more')} kind="count" value={more} oncommit={(v) => void (more = Math.min(Math.max(v, 1), 60))} />
	<NumberField label={word('build.each-to-the-right-by')} unit={session.unit} value={dx} oncommit={(v) => void (dx = v)} />
	<NumberField label={word('build.each-up-by')} unit={session.unit} value={dy} oncommit={(v) => void (dy = v)} />
	<button class="btn main">{word('build.put-them-in-a-row')}</button>
</form>

<style>
	form {
		border-left: 3px solid var(--color-mat);
		padding: 4px 0 6px 10px;
		display: grid;
		gap: 4px;
	}
	form .btn {
		justify-self: start;
	}
</style>
