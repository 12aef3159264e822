<!-- Who works in this shop and what they may do; an owner may add people and change roles. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { Person } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { word } from '../../words/words';

	let people = $state<Person[]>([]);
	let adding = $state(false);
	let username = $state('');
	let password = $state('');
	let problem = $state('');
	const id = $props.id();
	const owner = $derived(session.me?.role === 'owner');
	const roles: { value: Person['role']; name: string }[] = [
		{ value: 'owner', name: word('start.owner') },
		{ value: 'designer', name: word('start.designer') },
		{ value: 'operator', name: word('start.operator') },
		{ value: 'viewer', name: word('start.viewer') }
	];

	async function change(asked: Promise<Person[]>): Promise<boolean> {
		problem = '';
		try {
			people = await asked;
			return true;
		} catch (e) {
			problem = (e as Error).message;
			people = people.map((p) => ({ ...p })); // a refused choice springs back
			return false;
		}
	}
	void change(need(api.GET('/api/people')));

	const setRole = (person: Person, role: Person['role'] | null) =>
		change(
			need(
				api.PUT('/api/people/{member_id}', {
					params: { path: { member_id: person.id } },
					body: { role }
				})
			)
		);
	async function add(event: SubmitEvent) {
		event.preventDefault();
		const body = { username, password, role: 'designer' as const };
		if (await change(need(api.POST('/api/people', { body })))) [username, password, adding] = ['', '', false];
	}
</script>

<section aria-label={word('start.people')}>
	<h2>{word('start.who-works-here')}</h2>
	{#each people as person (person)}
		<div class="person">
			<span>{person.username}{person.username === session.me?.username ? ` ${word('start.you')}` : ''}</span>
			{#if owner}
				<select
					aria-label={word('start.role-of', { username: person.username })}
					value={person.role}
					onchange={(e) => setRole(person, (e.currentTarget.value || null) as Person['role'] | null)}
				>
					{#each roles as r (r.value)}<option value={r.value}>{r.name}</option>{/each}
					<option value="">{word('start.take-out-of-the-shop')}</option>
				</select>
			{:else}<span class="quiet">{person.role}</span>{/if}
		</div>
	{/each}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	{#if owner && adding}
		<form onsubmit={add}>
			<label for="{id}n">{word('start.name-to-sign-in-with')}</label>
			<input id="{id}n" autocomplete="off" maxlength="60" bind:value={username} />
			<label for="{id}p">{word('start.first-password')}</label>
			<input id="{id}p" type="password" autocomplete="new-password" maxlength="200" bind:value={password} />
			<button class="btn main">{word('start.add-as-designer')}</button>
		</form>
	{:else if owner}<button class="btn mt-2" onclick={() => (adding = true)}>{word('start.add-a-person')}</button>{/if}
</section>

<style>
	section {
		margin-top: 22px;
	}
	.person {
		display: flex;
		justify-content: space-between;
		align-items: center;
		border-bottom: 1px solid var(--rule);
		padding: 3px 0;
	}
	select {
		border: 0;
		background-color: transparent;
		color: var(--ink);
		font-size: 13px;
		padding: 3px 26px 3px 6px;
	}
	form {
		display: grid;
		gap: 3px;
		margin-top: 10px;
	}
	form input {
		border: 1px solid var(--rule);
		border-radius: 4px;
		background: var(--bench);
		padding: 4px 8px;
	}
	form button {
		margin-top: 6px;
		justify-self: start;
	}
</style>
