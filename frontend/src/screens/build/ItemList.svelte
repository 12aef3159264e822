<!-- The items of a project, first of all: each can be opened alone. -->
<script lang="ts">
	import type { ItemOut } from '../../api/types';
	import { withItem } from '../../app/items';
	import { useProject } from '../../app/project.svelte';
	import { thereNow } from '../../app/variations';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';

	let { build }: { build: BuildState } = $props();
	const work = useProject();
	const items = $derived(build.out?.items ?? []);
	const rooms = $derived(build.out?.rooms ?? []);
	function standing({ relation, host, room }: ItemOut) {
		const label = items.find((i) => i.id === host)?.label ?? '';
		if (relation === 'in') return rooms.find((r) => r.host === host && r.id === room)?.label ?? '';
		return relation === 'over' ? word('build.over-it', { label }) : relation === 'joined' ? word('build.joined-to', { label }) : '';
	}
	function open(item: string) {
		build.adding = false;
		build.clear();
		work.item = item;
	}
	const back = (id: string, label: string) =>
		void work
			.saveWhole((d) => thereNow(withItem(d, id, { gone: false }), 'items', id), word('build.back-2', { label }))
			.catch((e: Error) => (build.problem = e.message));
</script>

<div role="group" aria-label={word('build.items')}>
	{#if items.length > 1}
		<button class="whole" class:on={!work.item && !build.panel && !build.meeting && !build.adding} onclick={() => open('')}
			>{word('build.all-of-it')}</button
		>
		{#each items as item (item.id)}
			{#if item.gone}
				<button title={word('build.put-it-back')} onclick={() => back(item.id, item.label)}
					><span class="name quiet">{word('build.left-out-4', { label: item.label })}</span><em>{word('build.put-back')}</em></button
				>
			{:else}
				<button class:on={work.item === item.id} aria-pressed={work.item === item.id} onclick={() => open(item.id)}>
					<span class="name"
						>{item.label}{#if item.host}<small>{standing(item)}</small>{/if}</span
					>
					{#if item.count + item.spares > 1}<em class="fig">×{item.count}{item.spares ? ` + ${item.spares}` : ''}</em>{/if}
					{#if item.stops}<b title={word('build.it-cannot-be-cut-so')}>!</b>{/if}
				</button>
			{/if}
		{/each}
	{/if}
	{#if build.out && !work.project?.is_test}
		<button
			class="add"
			class:on={build.adding}
			onclick={() => {
				build.clear();
				build.adding = true;
			}}>{word('build.add-an-item')}</button
		>
	{/if}
</div>

<style>
	.name {
		flex: 1;
		line-height: 1.2;
		min-width: 0;
	}
	small {
		display: block;
		font-size: 11.5px;
		color: var(--ink-2);
	}
	em {
		font-style: normal;
		font-size: 11.5px;
		color: var(--ink-2);
	}
	b {
		color: var(--bad);
	}
	.whole {
		font-weight: 600;
	}
	.add {
		color: var(--ink-2);
	}
</style>
