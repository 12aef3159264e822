<!-- One thing that varies, opened: names, alternatives, what it sets. -->
<script lang="ts">
	import type { Design, DesignFamily, Variation } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import {
		renamedAlternative,
		renamedVariation,
		setsOf,
		setting,
		type Sets,
		withAlternative,
		withoutAlternative,
		withoutVariation
	} from '../../app/variations';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { word } from '../../words/words';
	import SetsChoice from './SetsChoice.svelte';
	import { setName } from './variationnames';

	let { variation, family }: { variation: Variation; family: DesignFamily } = $props();
	const work = useProject();
	const name = $derived(variation.name);
	const sets = $derived(setsOf(variation));
	const also = $derived(new Set(variation.alternatives.map((a) => a.name)));
	let more = $state('');
	const attempt = new Attempt();

	const save = (change: (d: Design) => Design, said: string) => attempt.at(() => work.save(change, said));
	function rename(alternative: string, field: HTMLInputElement) {
		const wanted = field.value.trim();
		if (!wanted || wanted === alternative) return void (field.value = alternative);
		void save((d) => renamedAlternative(d, name, alternative, wanted), word('build.alternative-renamed', { name, alternative, wanted }));
	}
	async function add(event: SubmitEvent) {
		event.preventDefault();
		const wanted = more.trim();
		if (!wanted || also.has(wanted)) return;
		await save((d) => withAlternative(d, name, wanted), word('build.alternative-added', { name, alternative: wanted }));
		more = '';
	}
	const set = (what: Sets, on: boolean) =>
		save((d) => setting(d, name, what, on), word(on ? 'build.now-sets' : 'build.sets-no-longer', { name, what: setName(what, family) }));
</script>

<label class="row"
	><span>{word('build.name-of-variation')}</span>
	<input
		class="input"
		maxlength="40"
		value={name}
		onchange={(e) => {
			const wanted = e.currentTarget.value.trim();
			if (wanted && wanted !== name) void save((d) => renamedVariation(d, name, wanted), word('build.variation-renamed', { name, wanted }));
		}}
	/></label
>
{#each variation.alternatives as a (a.name)}
	<div class="row">
		<input
			class="input"
			maxlength="40"
			aria-label={word('build.alternative-called', { name: a.name })}
			value={a.name}
			onchange={(e) => rename(a.name, e.currentTarget)}
		/>
		{#if a.name !== variation.chosen && variation.alternatives.length > 1}<button
				class="quiet"
				aria-label={word('build.remove-alternative', { alternative: a.name, name })}
				onclick={() =>
					void save((d) => withoutAlternative(d, name, a.name), word('build.alternative-removed', { name, alternative: a.name }))}
				>{word('build.remove-3')}</button
			>{/if}
	</div>
{/each}
<form class="row" onsubmit={add} aria-label={word('build.another-alternative')}>
	<input
		class="input"
		maxlength="40"
		placeholder={word('build.another-alternative')}
		aria-label={word('build.another-alternative')}
		bind:value={more}
	/>
	<button class="btn">{word('build.as-it-is-now')}</button>
</form>
{#each sets as s (setName(s, family))}
	<div class="row">
		<span>{word('build.variation-sets', { names: setName(s, family) })}</span>
		<button class="quiet" aria-label={word('build.sets-no-longer', { name, what: setName(s, family) })} onclick={() => void set(s, false)}
			>{word('build.remove-3')}</button
		>
	</div>
{/each}
<SetsChoice label={word('build.also-sets')} {family} none="—" value={null} onchoose={(s) => s && void set(s, true)} />
<button class="btn" onclick={() => void save((d) => withoutVariation(d, name), word('build.no-longer-varies-2', { name }))}
	>{word('build.no-longer-varies')}</button
>
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<style>
	.row {
		display: grid;
		grid-template-columns: 1fr auto;
		align-items: center;
		gap: 6px;
		padding: 2px 0;
	}
</style>
