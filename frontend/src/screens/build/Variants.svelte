<!-- What of a design comes in alternatives: one of each is chosen, built and cut; all can be looked at beside each other. -->
<script lang="ts">
	import type { DesignFamily } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { setsOf, variantCount, variationsOf } from '../../app/variations';
	import Choice from '../../lib/ui/Choice.svelte';
	import { word } from '../../words/words';
	import NewVariation from './NewVariation.svelte';
	import { setName } from './variationnames';
	import VariantTable from './VariantTable.svelte';
	import VariationForm from './VariationForm.svelte';

	let { family }: { family: DesignFamily } = $props();
	const work = useProject();
	const all = $derived(variationsOf(work.design));
	const count = $derived(work.item ? 0 : variantCount(work.project!.design));
	const follows = (name: string) =>
		!work.item && (work.design.items ?? []).some((i) => variationsOf(i.design).some((v) => v.name === name));
	const says = (v: (typeof all)[number]) => setsOf(v).map((s) => setName(s, family)).join(', '); // prettier-ignore
	let adding = $state(false);
	let comparing = $state(false);
	let problem = $state('');

	async function choose(choice: Record<string, string>) {
		problem = '';
		await work.chooseVariant(choice).catch((e: Error) => (problem = e.message));
	}
</script>

<h3>{word('build.variants')}</h3>
{#each all as v (v.name)}
	<div class="varies">
		<b>{v.name}</b>
		<Choice
			label={v.name}
			options={v.alternatives.map((a) => ({ value: a.name, name: a.name }))}
			value={v.chosen ?? ''}
			onchoose={(name) => void choose({ [v.name]: name })}
		/>
		<p class="quiet">
			{says(v) ? word('build.variation-sets', { names: says(v) }) : word('build.variation-sets-what-is-there')}
			{#if follows(v.name)}{word('build.goes-along', { name: v.name })}{/if}
		</p>
		<details><summary>{word('build.change-variation', { name: v.name })}</summary><VariationForm variation={v} {family} /></details>
	</div>
{/each}
<div class="acts">
	<button class="btn" aria-expanded={adding} onclick={() => (adding = !adding)}>{word('build.something-varies')}</button>
	{#if count > 1}<button class="btn" onclick={() => (comparing = true)}>{word('build.compare-variants', { count })}</button>{/if}
</div>
{#if adding}<NewVariation {family} ondone={() => (adding = false)} />{/if}
{#if comparing}<VariantTable bind:open={comparing} onchoose={choose} />{/if}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

<style>
	.varies {
		padding: 2px 0 6px;
	}
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
	}
</style>
