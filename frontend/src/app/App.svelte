<script lang="ts">
	import { Router } from 'sv-router';
	import './router';
	import { session } from './session.svelte';
	import SignIn from './SignIn.svelte';

	let problem = $state('');
	const dark = localStorage.getItem('bench') === 'dark';
	document.documentElement.classList.toggle('dark', dark);
	session.load().catch((e: Error) => (problem = e.message));
</script>

{#if problem}
	<main class="p-10"><div class="note bad" role="alert">{problem}</div></main>
{:else if session.me}
	{#if session.me.username}<Router />{:else}<SignIn />{/if}
{/if}
