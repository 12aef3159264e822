<!-- What came of a question: all its figures, and how they come about. -->
<script lang="ts">
	import type { Answer } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import Ledger from '../../lib/ui/Ledger.svelte';
	import { figure } from './ask.svelte';
	import { word } from '../../words/words';

	/** A joint's ledger ends in what is drawn in the file; others are plain sums. */
	let { answer, joint }: { answer: Answer; joint: boolean } = $props();
</script>

<dl>
	{#each answer.results as r, i (i)}<dt>{session.told(r.label)}</dt>
		<dd class="fig">{figure(r)}</dd>{/each}
</dl>
{#if answer.ledger && joint}<Ledger drawn={answer.ledger} unit={session.unit} />
{:else if answer.ledger}
	<h3>{word('answers.how-it-comes-about')}</h3>
	<dl>
		{#each answer.ledger.terms as t, i (i)}<dt>{session.told(t.label)}</dt>
			<dd class="fig">{figure({ value: t.value, kind: answer.results[0]!.kind })}</dd>{/each}
	</dl>
{/if}

<style>
	dl {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 3px 10px;
		margin: 10px 0;
		padding-top: 8px;
		border-top: 1px solid var(--rule);
	}
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
	}
	dd {
		text-align: right;
	}
</style>
