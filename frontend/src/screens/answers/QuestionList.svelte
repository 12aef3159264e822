<!-- The questions that are answered without a project. -->
<script lang="ts">
	import { QUESTIONS } from './questions';
	import { word } from '../../words/words';

	let { at = $bindable() }: { at: number } = $props();
	function key(event: KeyboardEvent) {
		const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
		if (!step) return;
		event.preventDefault();
		at = Math.min(Math.max(at + step, 0), QUESTIONS.length - 1);
		(event.currentTarget as HTMLElement).querySelectorAll('button')[at]?.focus();
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<nav class="side" aria-label={word('answers.questions')} onkeydown={key}>
	{#each QUESTIONS as question, i (question.kind)}
		<button class:on={i === at} aria-current={i === at} onclick={() => (at = i)}
			><b>{question.name}</b><small>{question.asks}</small></button
		>
	{/each}
</nav>

<style>
	nav button {
		display: block;
		width: 100%;
		text-align: left;
		padding: 8px 14px;
		border-left: 3px solid transparent;
	}
	nav button:hover {
		background: var(--bench-2);
	}
	nav button.on {
		background: var(--pick);
		border-color: var(--color-mat);
	}
	nav b {
		font-weight: 600;
	}
	small {
		display: block;
		color: var(--ink-2);
		font-size: 11.5px;
	}
</style>
