<!-- Project name, revision, units, undo and redo, finding, keys. -->
<script lang="ts">
	import { UNITS, type Unit } from '../lib/units/units';
	import Mark from '../lib/ui/Mark.svelte';
	import { underway } from '../lib/ui/pending.svelte';
	import { useProject } from './project.svelte';
	import { p } from './router';
	import { session } from './session.svelte';

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
	<a href={p('/')} aria-label="Shop board" title="Shop board"><Mark /></a>
	<input
		class="title"
		aria-label="Project name"
		value={work.project!.name}
		size={Math.max(work.project!.name.length, 8)}
		onblur={(e) => rename(e.currentTarget)}
		onkeydown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
	/>
	<span class="quiet" data-testid="revision">revision {work.project!.revision} · {work.saving || underway() ? 'saving …' : 'saved'}</span>
	{#if problem}<span role="alert" style:color="var(--bad)">{problem}</span>{/if}
	<span class="grow"></span>
	<select aria-label="Units" value={session.unit} onchange={(e) => session.chooseUnit(e.currentTarget.value as Unit)}>
		{#each UNITS as u (u.value)}<option value={u.value}>{u.name}</option>{/each}
	</select>
	<button title="Undo (Ctrl Z)" aria-label="Undo" disabled={!work.project!.can_undo || work.saving} onclick={() => work.undo()}>↶</button>
	<button title="Redo (Ctrl Shift Z)" aria-label="Redo" disabled={!work.project!.can_redo || work.saving} onclick={() => work.redo()}
		>↷</button
	>
	<a class="word quiet" href={p('/answers')}>answers</a>
	<button class="word" onclick={onfind}><kbd>/</kbd> find</button>
	<button class="word" onclick={onkeys}><kbd>?</kbd> keys</button>
	<button class="word" onclick={bench} title="Light or dark bench">◐</button>
	<button class="word" onclick={() => session.signOut()} title="Sign out {session.me?.username}">{session.me?.username}</button>
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
