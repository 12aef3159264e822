<!-- The shape of a panel: a plain one by its numbers, or from a drawing that is brought in, sized, placed, and taken away again. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { DrawingOut, PanelEdit } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';
	import { shareOf } from './proportions';
	import { allFamilies } from '../../app/families';
	import type { BuildState } from './build.svelte';
	import DrawingImport from './DrawingImport.svelte';
	import PlainShape from './PlainShape.svelte';
	import { word } from '../../words/words';

	let { build, id, label }: { build: BuildState; id: string; label: string } = $props();
	type Outline = NonNullable<PanelEdit['outline']>;
	const work = useProject();
	const outline = $derived(work.design.edits?.[id]?.outline ?? null);
	const shape = $derived(work.design.edits?.[id]?.shape ?? null);
	const set = (value: PanelEdit['outline'], words: string) =>
		work.editPanels([id], () => ({ outline: value, shape: null }), `${label}: ${words}`);
	const change = (changes: Partial<Outline>, words: string) =>
		work.editPanels([id], (before) => ({ outline: { ...before.outline!, ...changes } }), `${label}: ${words}`);
	function take(drawing: DrawingOut, width: number) {
		drawings = [...drawings, drawing]; // its height can be typed at once
		return set({ drawing: drawing.id, width, x: 0, y: 0, turn: 0, seen: true }, word('build.outline-of', { name: drawing.name }));
	}
	/** Begin with a rectangle as large as what is seen of the panel. */
	async function plain() {
		problem = '';
		try {
			const params = { path: { project_id: work.id, panel: id }, query: { item: work.item } };
			const [[width, height], families] = await Promise.all([
				need(api.GET('/api/projects/{project_id}/panels/{panel}/edges', { params })).then((e) => e.seen as unknown as [number, number]),
				allFamilies()
			]);
			const usual = families.find((f) => f.id === 'plate')!.defaults;
			const across = Math.min(width, height);
			const sides = { lower_side: across, right_side: across, left_side: across, upper: width * 0.6, shift: width * 0.2 };
			const heights = { left_high: height, right_high: height * 0.6 };
			const numbers = { ...usual, width, height, across, hole: across / 2, ...sides, ...heights };
			const made = { numbers, x: 0, y: 0, turn: 0, standing: true } as unknown as PanelEdit['shape'];
			await work.editPanels([id], () => ({ shape: made }), word('build.plain-shape', { label }));
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	let problem = $state('');
	const back = () => set(null, word('build.its-own-shape-again-2')).catch((e: Error) => (problem = e.message));
	const LENGTHS = [
		['width', word('build.width')],
		['x', word('build.to-the-right')],
		['y', word('build.up')]
	] as const;
	let drawings = $state.raw<DrawingOut[]>([]);
	need(api.GET('/api/projects/{project_id}/drawings', { params: { path: { project_id: work.id } } }))
		.then((all) => (drawings = all))
		.catch((e: Error) => (problem = e.message));
	const share = $derived(shareOf(drawings.find((d) => d.id === outline?.drawing)));
</script>

{#if outline}
	<div class="shape">
		{#each LENGTHS as [name, words] (name)}
			<NumberField
				label={words}
				unit={session.unit}
				value={outline[name] ?? 0}
				oncommit={(mm) => change({ [name]: mm }, word('build.outline', { words: words.toLowerCase(), mm: show(mm, session.unit) }))}
			/>
		{/each}
		{#if share}<NumberField
				label={word('build.or-height')}
				unit={session.unit}
				value={outline.width * share}
				oncommit={(mm) => change({ width: mm / share }, word('build.outline-height', { mm: show(mm, session.unit) }))}
			/>{/if}
		<NumberField
			label={word('build.turned')}
			kind="number"
			suffix="°"
			value={outline.turn ?? 0}
			oncommit={(v) => change({ turn: v }, word('build.outline-turned', { v }))}
		/>
		<button class="btn" onclick={back}>{word('build.its-own-shape-again')}</button>
	</div>
{:else if shape}
	<div class="shape">
		<PlainShape {build} {id} {label} />
		<button class="btn" onclick={back}>{word('build.its-own-shape-again')}</button>
	</div>
{:else}
	<button class="btn plain" onclick={plain}>{word('build.a-plain-shape')}</button>
	<p class="quiet">{word('build.or-from-a-file')}</p>
	<DrawingImport use={word('build.give-it-this-outline')} ontake={take} />
{/if}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

<style>
	.shape {
		border-left: 3px solid var(--color-mat);
		padding: 4px 0 8px 10px;
		display: grid;
		gap: 4px;
	}
	.btn {
		justify-self: start;
	}
	.plain {
		margin: 10px 0 4px;
	}
</style>
