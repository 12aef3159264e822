<!-- A new project: what to begin with, its name, and three numbers. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { bringIn } from '../../api/files';
	import type { DesignFamily, Values } from '../../api/types';
	import { allFamilies } from '../../app/families';
	import { session } from '../../app/session.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import NumbersForm from '../../lib/ui/NumbersForm.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import FamilyChoice from './FamilyChoice.svelte';
	import { word } from '../../words/words';

	let { onmade }: { onmade: (id: number) => void } = $props();
	let families = $state.raw<DesignFamily[]>([]);
	let chosen = $state.raw<DesignFamily | null>(null);
	let values = $state.raw<Values>({});
	let name = $state('');
	const attempt = new Attempt();
	const busy = $derived(attempt.busy);
	const id = $props.id();
	allFamilies()
		.then((all) => {
			families = all;
			choose(all[0]!);
		})
		.catch(attempt.failed);

	const first = $derived(chosen ? chosen.numbers.filter((n) => chosen!.first.includes(n.name)) : []);
	function choose(family: DesignFamily) {
		chosen = family;
		values = { ...(family.defaults as unknown as Values) };
	}

	async function taken(event: Event & { currentTarget: HTMLInputElement }) {
		const file = event.currentTarget.files?.[0];
		event.currentTarget.value = '';
		if (file) await attempt.at(async () => onmade((await bringIn(file)).id));
	}

	async function start(event: SubmitEvent) {
		event.preventDefault();
		if (!chosen || !(await settled(event))) return;
		const body = { name, numbers: values as never, feel: 'snug' as const };
		await attempt.at(async () => onmade((await need(api.POST('/api/projects', { body }))).id));
	}
</script>

<form onsubmit={start} aria-label={word('start.new-project')}>
	<FamilyChoice {families} {chosen} onchoose={choose} />
	<div class="given">
		<span class="name"
			><label for="{id}n">{word('start.name')}</label><input
				id="{id}n"
				class="input"
				maxlength="80"
				placeholder={word('start.seed-packet-drawer')}
				bind:value={name}
			/></span
		>
		<NumbersForm
			numbers={first}
			{values}
			unit={session.unit}
			plain={first.map((n) => n.group)}
			onchange={(number, value) => void (values = { ...values, [number]: value })}
		/>
		<button class="btn main" disabled={busy || !chosen}>{word('start.start-building')}</button>
		<label class="btn bring" title={word('start.a-project-that-was-taken-out')}
			>{word('start.bring-one-in')}<input type="file" accept=".zip" disabled={busy} onchange={taken} /></label
		>
	</div>
	{#if chosen}<p class="quiet">{chosen.says}{chosen.caution ? ` ${chosen.caution}` : ''}</p>{/if}
	{#if attempt.problem}<p role="alert" class="note bad">{attempt.problem}</p>{/if}
</form>

<style>
	form {
		background: var(--bench);
		color: var(--ink);
		border-radius: 4px;
		padding: 12px 16px;
	}
	.given {
		display: flex;
		flex-wrap: wrap;
		gap: 6px 14px;
		align-items: center;
		margin-top: 10px;
	}
	.given :global(.field) {
		grid-template-columns: auto 88px;
	}
	.bring {
		position: relative;
		cursor: pointer;
	}
	.bring:focus-within {
		box-shadow: 0 0 0 2px #57b39f;
	}
	.bring input {
		position: absolute;
		inset: 0;
		opacity: 0;
		pointer-events: none;
	}
	.name {
		display: flex;
		align-items: center;
		gap: 8px;
	}
	.name input {
		width: 170px;
	}
	p {
		margin-top: 6px;
	}
</style>
