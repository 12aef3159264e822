<!-- What is cut into or burned on a panel: add, change, remove. -->
<script lang="ts">
	import type { Design, Feature, FeatureType } from '../../api/types';
	import { allFeatures } from '../../app/families';
	import { useProject } from '../../app/project.svelte';
	import { goneWith } from '../../app/variations';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { intoView } from '../../lib/ui/intoview';
	import FeatureFields from './FeatureFields.svelte';
	import NewFeature from './NewFeature.svelte';
	import ThereWith from './ThereWith.svelte';
	import { word } from '../../words/words';

	let {
		panel,
		label,
		size,
		parts = []
	}: {
		panel: string;
		label: string;
		/** of the panel [mm] */
		size: { w: number; h: number };
		parts?: readonly { id: string; label: string }[];
	} = $props();
	const mates = $derived(parts.filter((p) => p.id !== panel));
	const work = useProject();
	let types = $state.raw<FeatureType[]>([]);
	let open = $state('');
	const attempt = new Attempt();
	allFeatures()
		.then((all) => (types = all))
		.catch(attempt.failed);

	const all = $derived((work.design.features ?? []) as Feature[]);
	const mine = $derived(all.filter((f) => f.panel === panel));
	const ids = $derived(new Set(all.map((f) => f.id)));
	async function addAll(f: Feature, more: Feature[], how: string) {
		await save((some) => [...some, ...more], `${label}: ${named(f)} ${how}`);
		open = more[more.length - 1]!.id;
	}
	const typeOf = (f: Feature) => types.find((t) => t.id === f.kind);
	const plain = (f: Feature) => f.name || ('words' in f && f.words ? `“${f.words}”` : (typeOf(f)?.label ?? f.kind));
	/** Two of one name are told apart by a number. */
	const named = (f: Feature) => {
		const same = mine.filter((x) => plain(x) === plain(f));
		return same.length > 1 ? `${plain(f)}, ${same.indexOf(f) + 1}` : plain(f);
	};

	const save = (change: (some: Feature[]) => Feature[], words: string) =>
		attempt.at(() => work.save((d) => ({ ...d, features: change((d.features ?? []) as Feature[]) as Design['features'] }), words));
	/** Change a feature as it is when its turn comes: what was chosen before, and is on its way, stays. */
	function change(f: Feature, how: (now: Feature) => object, words: string) {
		const changed = (some: Feature[]) => some.map((x) => (x.id === f.id ? ({ ...x, ...how(x) } as Feature) : x));
		return work.save((d) => ({ ...d, features: changed((d.features ?? []) as Feature[]) as Design['features'] }), `${label}: ${words}`);
	}
</script>

<h3>{word('build.on-it')}</h3>
{#each mine as f (f.id)}
	<div class="feature" class:open={open === f.id} class:gone={goneWith(work.design, 'features', f.id).length}>
		<button class="name" aria-expanded={open === f.id} onclick={() => (open = open === f.id ? '' : f.id)}>{named(f)}</button>
		<button
			class="quiet"
			aria-label={word('build.remove-2', { f: named(f) })}
			onclick={() => save((some) => some.filter((x) => x.id !== f.id), word('build.removed-2', { label, f: named(f) }))}
			>{word('build.remove-3')}</button
		>
		{#if open === f.id && typeOf(f)}
			<div class="fields" {@attach intoView()}>
				<ThereWith kind="features" id={f.id} label="{label}: {named(f)}" />
				<FeatureFields
					feature={f}
					type={typeOf(f)!}
					{mates}
					{ids}
					change={(name, value, words) => change(f, () => ({ [name]: value }), words)}
					rework={(how, words) => change(f, how, words)}
					onmore={(more, how) => void addAll(f, more, how)}
					onproblem={(told) => (attempt.problem = told)}
				/>
			</div>
		{/if}
	</div>
{/each}
<NewFeature
	{panel}
	{label}
	{size}
	{types}
	{mine}
	{all}
	onmade={(id) => ([open, attempt.problem] = [id, ''])}
	onproblem={(told) => (attempt.problem = told)}
/>
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<style>
	.feature {
		display: grid;
		grid-template-columns: 1fr auto;
		padding: 2px 0;
	}
	.gone .name {
		color: var(--ink-2);
		text-decoration: line-through;
	}
	.feature.open {
		border-left: 3px solid var(--color-mat);
		padding-left: 8px;
		margin: 4px 0;
	}
	.name {
		text-align: left;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.name:hover {
		text-decoration: underline;
	}
	.fields {
		grid-column: 1 / -1;
	}
</style>
