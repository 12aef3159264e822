<!-- Panels and joints: two lists that mirror each other. -->
<script lang="ts">
	import FitBand from '../../lib/ui/FitBand.svelte';
	import LongList from '../../lib/ui/LongList.svelte';
	import { partOf, withBody } from '../../app/items';
	import { useProject, withEdits } from '../../app/project.svelte';
	import { thereNow } from '../../app/variations';
	import type { Design } from '../../api/types';
	import type { BuildState } from './build.svelte';
	import Glyph from './Glyph.svelte';
	import ItemList from './ItemList.svelte';
	import PanelRows from './PanelRows.svelte';
	import { word } from '../../words/words';

	let { build }: { build: BuildState } = $props();
	const touches = (a: string, b: string) => build.panel && !build.meeting && (a === build.panel || b === build.panel);
	let list: HTMLElement;
	const work = useProject();
	const single = $derived((build.out?.items.length ?? 1) < 2);
	const left = $derived(build.out?.left_out ?? []);
	const parts = $derived(build.out?.parts ?? []);
	const meetings = $derived(build.out?.meetings ?? []);
	const orphans = $derived(build.out?.orphans ?? []);

	/** Put a panel back: of the item that is open, or of the one that it is named after. */
	function back(p: { id: string; label: string }) {
		const { item, part } = partOf(p.id);
		const there = (d: Design) => thereNow(d.edits?.[part] ? withEdits(d, [part], () => ({ gone: false })) : d, 'panels', part);
		work
			.saveWhole((d) => withBody(d, work.item || item, there), word('build.back-2', { label: p.label }))
			.catch((e: Error) => (build.problem = e.message));
	}

	function key(event: KeyboardEvent) {
		if (event.key === 'Escape') return build.clear();
		if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
		const rows = [...list.querySelectorAll('button')] as HTMLElement[];
		const at = rows.indexOf(document.activeElement as HTMLElement) + (event.key === 'ArrowDown' ? 1 : -1);
		rows[Math.min(Math.max(at, 0), rows.length - 1)]?.focus();
		event.preventDefault();
	}
</script>

{#snippet sizes()}
	<button class="whole" class:on={!build.panel && !build.meeting && !build.adding} onclick={() => build.clear()}
		>{word('build.sizes-and-stocks')}</button
	>
{/snippet}
<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<nav class="side rows" aria-label={word('build.panels-and-meetings')} bind:this={list} onkeydown={key}>
	{#if single}{@render sizes()}{/if}
	<ItemList {build} />
	{#if work.item}{@render sizes()}{/if}
	<div class="head">{word('build.panels-2')} <span class="fig">{build.out ? parts.length : ''}</span></div>
	<PanelRows {build} />
	{#each left as p (p.id)}
		<button class="gone" title={word('build.put-it-back')} onclick={() => back(p)}
			><span class="quiet">{word('build.left-out-4', { label: p.label })}</span><em>{word('build.put-back')}</em></button
		>
	{/each}
	<div class="head">{word('build.meetings')} <span class="fig">{build.out ? meetings.length : ''}</span></div>
	<LongList items={meetings} key={(m) => m.id} height={37} at={meetings.findIndex((m) => m.id === build.meeting)}>
		{#snippet row(m)}
			<button class="meet" class:on={m.id === build.meeting} class:near={touches(m.a, m.b)} onclick={() => build.pickMeeting(m.id)}>
				<Glyph kind={m.kind} /><span>{build.names.get(m.a)}<small>{build.names.get(m.b)}</small></span>
				{#if m.clearance !== null}<i><FitBand boundaries={build.out!.boundaries[m.pair]!} clearance={m.clearance} sd={m.sd} height={7} /></i
					>{:else}<em class="quiet">{m.name}</em>{/if}
			</button>
		{/snippet}
	</LongList>
	{#if orphans.length}
		<div class="head">{word('build.no-longer-meeting')}</div>
		{#each orphans as lost (lost.id)}<p class="quiet orphan">{lost.label}</p>{/each}
		<button
			onclick={() =>
				work.forgetChoices(
					orphans.map((o) => o.id),
					word('build.choices-of-lost-meetings-removed')
				)}>{word('build.remove-these-choices')}</button
		>
	{/if}
</nav>

<style>
	.orphan {
		padding: 2px 12px 2px 14px;
		font-size: 12px;
	}
	.gone span {
		flex: 1;
	}
	.whole {
		font-weight: 600;
		padding-top: 9px;
		padding-bottom: 9px;
	}
	.meet {
		padding-top: 3px;
		padding-bottom: 3px;
	}
	.meet span {
		flex: 1;
		line-height: 1.2;
		min-width: 0;
	}
	small {
		display: block;
		font-size: 11.5px;
		color: var(--ink-2);
	}
	i {
		width: 54px;
		flex: none;
	}
	em {
		font-style: normal;
		font-size: 11px;
	}
</style>
