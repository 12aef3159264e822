<script lang="ts">
	import { Button, Input, Label } from 'flowbite-svelte';
	import Mark from '../lib/ui/Mark.svelte';
	import { session } from './session.svelte';
	import { word } from '../words/words';

	let username = $state('');
	let password = $state('');
	let problem = $state('');

	async function submit(event: SubmitEvent) {
		event.preventDefault();
		problem = '';
		try {
			await session.signIn(username, password);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<main class="mat place">
	<form onsubmit={submit}>
		<div class="mb-4 flex items-center gap-3">
			<Mark />
			<h1 class="text-2xl">{word('shell.notch-board')}</h1>
		</div>
		<p class="quiet mb-5">{word('shell.measure-the-sheet-once-everything-that')}</p>
		<Label for="user">{word('shell.name')}</Label>
		<Input id="user" class="mb-3" autofocus autocomplete="username" bind:value={username} />
		<Label for="pass">{word('shell.password')}</Label>
		<Input id="pass" type="password" autocomplete="current-password" bind:value={password} />
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		<Button type="submit" class="mt-5 w-full">{word('shell.sign-in')}</Button>
	</form>
</main>

<style>
	.place {
		height: 100%;
		display: grid;
		place-items: center;
		background-image:
			linear-gradient(var(--mat-line-5) 1px, transparent 1px), linear-gradient(90deg, var(--mat-line-5) 1px, transparent 1px),
			linear-gradient(var(--mat-line) 1px, transparent 1px), linear-gradient(90deg, var(--mat-line) 1px, transparent 1px);
		background-size:
			60px 60px,
			60px 60px,
			12px 12px,
			12px 12px;
	}
	form {
		width: 340px;
		background: var(--bench);
		color: var(--ink);
		padding: 28px;
		/* the corner of a panel: a slot in the rim */
		clip-path: polygon(0 0, 60% 0, 60% 10px, 72% 10px, 72% 0, 100% 0, 100% 100%, 0 100%);
	}
</style>
