<!-- Numbers that come from files: a figure's own outline, a form's heights. -->
<script lang="ts">
	import { sendHeights } from '../../api/files';
	import type { DrawingOut, Values } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import DrawingImport from './DrawingImport.svelte';
	import { word } from '../../words/words';

	let { values }: { values: Values } = $props();
	const work = useProject();
	const id = $props.id();
	let open = $state(false);
	let dark = $state(false);
	let problem = $state('');
	const own = $derived(((values.silhouette ?? values.grid) as readonly unknown[] | undefined)?.length ?? 0);

	async function outline(drawing: DrawingOut, width: number) {
		const [w, h] = drawing.size as unknown as [number, number];
		if (!drawing.silhouette.length) throw new Error(word('build.the-drawing-has-no-closed-line'));
		await work.setNumbers(
			{ silhouette: drawing.silhouette, width, height: (width * h) / (w || 1) },
			word('build.outline-from', { name: drawing.name })
		);
		open = false;
	}
	async function heights(event: Event) {
		const file = (event.currentTarget as HTMLInputElement).files?.[0];
		if (!file) return;
		problem = '';
		try {
			const found = await sendHeights(work.id, file, dark);
			await work.setNumbers({ grid: found.grid }, word('build.heights-from', { name: file.name }));
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

{#if values.family === 'stand'}
	{#if own}<p class="quiet">{word('build.the-figure-has-an-outline-of')}</p>
		<label class="check"
			><input
				type="checkbox"
				checked={!values.stretch}
				onchange={(e) =>
					work.setNumbers(
						{ stretch: !e.currentTarget.checked },
						e.currentTarget.checked ? word('build.proportions-kept') : word('build.width-and-height-by-themselves')
					)}
			/>
			{word('build.keep-its-proportions-width-and-height')}</label
		>
		<button class="btn" onclick={() => work.setNumbers({ silhouette: [] }, word('build.outline-from-the-list'))}
			>{word('build.back-to-the-named-figure')}</button
		>
	{:else}<button class="btn" aria-expanded={open} onclick={() => (open = !open)}>{word('build.outline-from-a-file')}</button>{/if}
	{#if open && !own}<DrawingImport use={word('build.take-its-outer-line')} ontake={outline} />{/if}
{:else if values.family === 'crate'}
	{#if own}<p class="quiet">{word('build.the-heights-come-from-a-file')}</p>
		<button class="btn" onclick={() => work.setNumbers({ grid: [] }, word('build.heights-from-the-formula'))}
			>{word('build.back-to-the-formula')}</button
		>
	{:else}
		<label for="{id}h">{word('build.heights-from-a-grey-image-or')}</label>
		<input id="{id}h" type="file" accept=".png,.jpg,.jpeg,.stl" onchange={heights} />
		<label class="check"><input type="checkbox" bind:checked={dark} /> {word('build.in-images-dark-is-high')}</label>
	{/if}
{/if}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

<style>
	input[type='file'] {
		width: 100%;
		font-size: 12px;
	}
	.check {
		display: flex;
		gap: 7px;
		align-items: center;
	}
</style>
