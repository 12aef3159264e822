<!-- The panels: one row each, many that are alike together until they are asked for one by one. -->
<script lang="ts">
	import { rowsOf } from '../../app/alike';
	import LongList from '../../lib/ui/LongList.svelte';
	import StockEdge from '../../lib/ui/StockEdge.svelte';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';

	let { build }: { build: BuildState } = $props();
	const parts = $derived(build.out?.parts ?? []);
	/** of many alike, those that are listed one by one: as asked for, or because one of them is picked */
	let open = $state.raw<ReadonlySet<string>>(new Set());
	const shown = $derived(new Set([...open, ...parts.filter((p) => build.picked.includes(p.id)).map((p) => p.like)]));
	const rows = $derived(
		rowsOf(
			parts,
			(p) => p.like,
			(like) => shown.has(like)
		)
	);
	const toggle = (like: string) => (open = new Set(open.has(like) ? [...open].filter((l) => l !== like) : [...open, like]));
</script>

<LongList
	items={rows}
	key={(r) => `${r.first.id} ${r.all.length > 1}`}
	height={29}
	at={rows.findIndex((r) => r.all.length === 1 && r.first.id === build.picked[0])}
>
	{#snippet row(r)}
		{@const p = r.first}
		{#if r.all.length > 1}
			<button aria-expanded={shown.has(p.like)} class:near={r.all.some((x) => build.lit.has(x.id))} onclick={() => toggle(p.like)}>
				<StockEdge colour={build.colours[p.stock] ?? '#ccc'} thickness={1.8} width={20} /><span class="many"
					>{word('common.and-alike', { first: p.label, more: r.all.length - 1 })}</span
				><em class="quiet">{shown.has(p.like) ? '▾' : '▸'}</em>
			</button>
		{:else}
			<button
				class:on={build.picked.includes(p.id)}
				class:near={build.lit.has(p.id)}
				class:within={r.within}
				onclick={(e) => (e.ctrlKey || e.metaKey || e.shiftKey ? build.togglePanel(p.id) : build.pickPanel(p.id))}
			>
				<StockEdge colour={build.colours[p.stock] ?? '#ccc'} thickness={1.8} width={20} />{p.label}
				{#if p.copies + p.spares > 1 || p.helper}<em class="quiet"
						>{p.helper ? word('build.helper') : `×${p.copies}${p.spares ? ` + ${p.spares}` : ''}`}</em
					>{/if}
			</button>
		{/if}
	{/snippet}
</LongList>

<style>
	.within {
		padding-left: 30px;
	}
	.many {
		flex: 1;
		min-width: 0;
	}
</style>
