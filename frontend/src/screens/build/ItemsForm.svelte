<!-- All items of a project at a glance: how large each is, how many there are, and what play it keeps where it stands. -->
<script lang="ts">
	import Told from '../../app/Told.svelte';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import ItemPlays from '../../app/ItemPlays.svelte';
	import { allFamilies } from '../../app/families';
	import type { DesignFamily, Values } from '../../api/types';
	import ProjectForm from './ProjectForm.svelte';
	import Variants from './Variants.svelte';

	let { build }: { build: BuildState } = $props();
	const work = useProject();
	/** The first item's: what of it varies is chosen for all. */
	let families = $state.raw<DesignFamily[]>([]);
	allFamilies()
		.then((all) => (families = all))
		.catch((e: Error) => (build.problem = e.message));
	const family = $derived(families.find((f) => f.id === (work.design.numbers as unknown as Values).family) ?? null);
	const items = $derived(build.out?.items.filter((i) => !i.gone) ?? []);
	const size = (mm: readonly number[]) => `${mm.map((v) => show(v, session.unit)).join(' × ')} ${unitName(session.unit)}`;
</script>

<h2>{word('build.items')}</h2>
{#each items as item (item.id)}
	<section aria-label={item.label}>
		<div class="row">
			<b>{item.label}</b>{#if item.count + item.spares > 1}<span class="fig">×{item.count}{item.spares ? ` + ${item.spares}` : ''}</span
				>{/if}
			<button class="btn" onclick={() => (work.item = item.id)}>{word('build.open-item')}<span class="sr-only"> {item.label}</span></button>
		</div>
		<p class="quiet">
			{item.family}{item.size ? ' · ' : ''}{#if item.size}<span class="fig">{size(item.size as unknown as number[])}</span>{/if} · {word(
				'build.parts-of-it',
				{ parts: item.parts }
			)}
		</p>
		<ItemPlays {item} short />
		{#if item.source?.changed}<div class="note">{word('build.source-changed', { name: item.source.name })}</div>{/if}
		{#each item.findings as f, i (i)}<div class="note" class:bad={f.severity === 'must'} class:good={f.severity === 'fine'}>
				<Told of={f.says} />
			</div>{/each}
	</section>
{/each}
{#if family}<Variants {family} />{/if}
<ProjectForm {build} />

<style>
	section {
		padding: 6px 0;
		border-top: 1px solid var(--rule);
	}
	section:first-of-type {
		border-top: 0;
	}
	.row {
		display: flex;
		align-items: center;
		gap: 8px;
	}
	.row b {
		flex: 1;
	}
</style>
