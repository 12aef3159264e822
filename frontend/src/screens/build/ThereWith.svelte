<!-- With which alternatives of what varies something is there. -->
<script lang="ts">
	import { useProject } from '../../app/project.svelte';
	import { type Kind, thereWith, variationsOf } from '../../app/variations';
	import { word } from '../../words/words';

	let { kind, id, label, whole = false }: { kind: Kind; id: string; label: string; whole?: boolean } = $props();
	const work = useProject();
	const all = $derived(variationsOf(whole ? work.project!.design : work.design));
	let problem = $state('');

	async function change(variation: string, alternative: string, there: boolean) {
		problem = '';
		const said = word(there ? 'build.there-with-label' : 'build.not-there-with-label', { label, alternative });
		const save = whole ? work.saveWhole.bind(work) : work.save.bind(work);
		await save((d) => thereWith(d, variation, alternative, kind, id, there), said).catch((e: Error) => (problem = e.message));
	}
</script>

{#each all as v (v.name)}
	<fieldset aria-label="{label}, {word('build.there-with', { name: v.name })}">
		<legend>{word('build.there-with', { name: v.name })}</legend>
		{#each v.alternatives as a (a.name)}
			<label
				><input
					type="checkbox"
					checked={!((a[kind] ?? []) as string[]).includes(id)}
					onchange={(e) => void change(v.name, a.name, e.currentTarget.checked)}
				/>
				{a.name}</label
			>
		{/each}
	</fieldset>
{/each}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

<style>
	fieldset {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 12px;
		padding: 3px 0;
	}
	legend {
		color: var(--ink-2);
		font-size: 12px;
	}
</style>
