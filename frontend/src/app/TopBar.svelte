<!-- Project name, revision, units, undo and redo, finding, keys. -->
<script lang="ts">
	import { UNITS, type Unit } from '../lib/units/units';
	import Mark from '../lib/ui/Mark.svelte';
	import { underway } from '../lib/ui/pending.svelte';
	import { useProject } from './project.svelte';
	import { p } from './router';
	import { session } from './session.svelte';
	import { word } from '../words/words';

	let { onfind, onkeys }: { onfind: () => void; onkeys: () => void } = $props();
	const work = useProject();
	let problem = $state('');

	async function rename(input: HTMLInputElement) {
		try {
			problem = '';
			if (input.value.trim() !== work.project!.name) await work.rename(input.value);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	function bench() {
		const dark = document.documentElement.classList.toggle('dark');
		localStorage.setItem('bench', dark ? 'dark' : 'light');
	}
</script>

<header>
	<a href={p('/')} aria-label={word('shell.shop-board')} title={word('shell.shop-board')}><Mark /></a>
	<input
		class="title"
		aria-label={word('shell.project-name')}
		value={work.project!.name}
		size={Math.max(work.project!.name.length, 8)}
		onblur={(e) => rename(e.currentTarget)}
		onkeydown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
	/>
	<span class="quiet" data-testid="revision"
		>{word('shell.revision', {
			revision: work.project!.revision,
			saving: work.saving || underway() ? word('shell.saving') : word('shell.saved')
		})}</span
	>
	{#if problem}<span role="alert" style:color="var(--bad)">{problem}</span>{/if}
	<span class="grow"></span>
	<select aria-label={word('shell.units')} value={session.unit} onchange={(e) => session.chooseUnit(e.currentTarget.value as Unit)}>
		{#each UNITS as u (u.value)}<option value={u.value}>{u.name}</option>{/each}
	</select>
	<button
		title={word('shell.undo-ctrl-z')}
		aria-label={word('shell.undo')}
		disabled={!work.project!.can_undo || work.saving}
		onclick={() => work.undo()}>↶</button
	>
	<button
		title={word('shell.redo-ctrl-shift-z')}
		aria-label={word('shell.redo')}
		disabled={!work.project!.can_redo || work.saving}
		onclick={() => work.redo()}>↷</button
	>
	<a class="word quiet" href={p('/answers')}>{word('shell.answers')}</a>
	<button class="word" onclick={onfind}><kbd>/</kbd> {word('shell.find-2')}</button>
	<button class="word" onclick={onkeys}><kbd>?</kbd> {word('shell.keys-2')}</button>
	<button class="word" onclick={bench} title={word('shell.light-or-dark-bench')}>◐</button>
	<button class="word" onclick={() => session.signOut()} title={word('shell.sign-out', { username: session.me?.username })}
		>{session.me?.username}</button
	>
</header>

<style>
	header {
		display: flex;
		align-items: center;
		gap: 10px;
		padding: 7px 14px;
		background: var(--bench-2);
		white-space: nowrap;
	}
	.title {
		font-weight: 680;
		font-size: 17px;
		background: none;
		border: 1px solid transparent;
		border-radius: 4px;
		padding: 1px 5px;
		color: var(--ink);
		min-width: 60px;
		field-sizing: content;
		max-width: 40%;
	}
	.title:hover {
		border-color: var(--rule);
	}
	.grow {
		flex: 1;
	}
	select {
		background-color: transparent;
		background-size: 14px;
		border: 0;
		padding: 2px 28px 2px 4px;
		font-size: 13px;
	}
	button {
		font-size: 15px;
		padding: 1px 5px;
		border-radius: 4px;
	}
	button.word {
		font-size: 13px;
		color: var(--ink-2);
	}
	button:hover:not(:disabled) {
		background: var(--pick);
	}
	button:disabled {
		opacity: 0.35;
	}
	kbd {
		font-family: var(--font-mono);
	}
</style>
