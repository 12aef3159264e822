<!-- A panel in a plain shape by its numbers: rectangle with a radius at each corner, ellipse, ring, sector, polygon, triangle, trapezium. -->
<script lang="ts">
	import type { DesignFamily, PanelEdit, Values } from '../../api/types';
	import { allFamilies } from '../../app/families';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import NumbersForm from '../../lib/ui/NumbersForm.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';

	let { build, id, label }: { build: BuildState; id: string; label: string } = $props();
	type Shape = NonNullable<PanelEdit['shape']>;
	const work = useProject();
	const shape = $derived(work.design.edits?.[id]?.shape ?? null);
	/** What is wrong with a number of it stands at the form, for all of the panel. */
	const told = $derived(
		(build.out?.findings ?? []).filter(
			(f) => f.parts?.includes(id) && ['corner_too_round', 'ring_too_narrow', 'triangle_does_not_close'].includes(f.code)
		)
	);
	let family = $state.raw<DesignFamily | null>(null);
	let problem = $state('');
	allFamilies()
		.then((all) => (family = all.find((f) => f.id === 'plate') ?? null))
		.catch((e: Error) => (problem = e.message));

	const change = (changes: Partial<Shape>, words: string) =>
		work.editPanels([id], (before) => ({ shape: { ...before.shape!, ...changes } }), word('build.shape-of', { label, words }));
	function number(name: string, value: number | string, words: string) {
		const saved = work.editPanels(
			[id],
			(before) => ({ shape: { ...before.shape!, numbers: { ...before.shape!.numbers, [name]: value } } as Shape }),
			word('build.shape-of', { label, words })
		);
		return typeof value === 'number' ? saved : saved.catch((e: Error) => void (problem = e.message));
	}
	const PLACES = [
		['x', word('build.to-the-right')],
		['y', word('build.up')]
	] as const;
</script>

{#if shape && family}
	<NumbersForm
		numbers={family.numbers}
		values={shape.numbers as unknown as Values}
		unit={session.unit}
		plain={family.numbers.slice(0, 1).map((n) => n.group)}
		onchange={number}
	/>
	{#each told as f, i (i)}<div class="note bad">{session.told(f.says)}</div>{/each}
	{#each PLACES as [name, words] (name)}
		<NumberField
			label={words}
			unit={session.unit}
			value={shape[name] ?? 0}
			oncommit={(mm) => change({ [name]: mm }, `${words.toLowerCase()} ${show(mm, session.unit)}`)}
		/>
	{/each}
	<NumberField
		label={word('build.turned')}
		kind="number"
		suffix="°"
		value={shape.turn ?? 0}
		oncommit={(v) => change({ turn: v }, word('build.outline-turned', { v }))}
	/>
{/if}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
