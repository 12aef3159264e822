<!-- The project that an item came from: whether it has changed since, and taking that change. -->
<script lang="ts">
	import type { Item, ItemOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { p } from '../../app/router';
	import { word } from '../../words/words';

	let {
		item,
		save,
		onproblem
	}: {
		item: ItemOut;
		save: (changes: Partial<Item>, what: string) => Promise<void>;
		onproblem: (message: string) => void;
	} = $props();
	const work = useProject();
	const source = $derived(item.source!);
	const quietly = (saved: Promise<void>) => void saved.catch((e: Error) => onproblem(e.message));
</script>

{#if !source.name}
	<p class="quiet">{word('build.source-gone')}</p>
{:else if source.changed}
	<div class="note">
		{word('build.source-changed', { name: source.name })}
		{word('build.replaced-by-it')}
		<button class="btn" onclick={() => quietly(work.followProject(item.id))}>{word('build.take-it-as-it-is-now')}</button>
	</div>
{:else}
	<p class="quiet">
		<a href={p('/projects/:id/:station', { params: { id: String(source.project), station: 'build' } })}
			>{word('build.from-project', { name: source.name, revision: source.revision })}</a
		>
	</p>
{/if}
<button class="quiet no-more" onclick={() => quietly(save({ source: null }, word('build.follows-no-more')))}
	>{word('build.follow-no-more')}</button
>

<style>
	.note .btn {
		display: block;
		margin-top: 6px;
	}
	.no-more {
		text-decoration: underline;
	}
</style>
