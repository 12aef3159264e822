<!-- A person's own words on a step of assembly. -->
<script lang="ts">
	import { word } from '../../words/words';

	let {
		note,
		about,
		offered,
		onwrite
	}: {
		note: string;
		/** what the step is called */
		about: string;
		/** whether a note is offered where there is none */
		offered: boolean;
		onwrite: (text: string) => void;
	} = $props();
	let writing = $state(false);
	function write(text: string) {
		writing = false;
		onwrite(text);
	}
</script>

{#if writing}
	<!-- svelte-ignore a11y_autofocus -->
	<textarea
		class="input"
		aria-label={word('dry-fit.note-on', { s: about })}
		autofocus
		value={note}
		onblur={(e) => write(e.currentTarget.value)}
		onkeydown={(e) => e.key === 'Enter' && !e.shiftKey && e.currentTarget.blur()}></textarea>
{:else if note}<button class="own" onclick={() => (writing = true)}>{note}</button>
{:else if offered}<button class="quiet" onclick={() => (writing = true)}>{word('dry-fit.add-a-note')}</button>{/if}

<style>
	.own {
		text-align: left;
		font-style: italic;
	}
	.own:hover {
		text-decoration: underline;
	}
	textarea {
		width: 100%;
		min-height: 52px;
	}
</style>
