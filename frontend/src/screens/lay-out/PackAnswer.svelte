<!-- What came of a packing: sheets and price, what each item takes, parts without a place, and the other ways that were found. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';

	type Nesting = NonNullable<LayoutOut['nesting']>;
	let {
		out,
		nesting,
		busy,
		ontake
	}: {
		out: LayoutOut;
		nesting: Nesting;
		busy: boolean;
		/** another of the ways is taken, by its name */
		ontake: (way: string) => void;
	} = $props();
	const placed = $derived(nesting.sheets.reduce((n, s) => n + s.placements.length, 0));
	const labels = $derived(new Map(out.parts.map((p) => [p.id, p.label])));
	const FEW = 3;
	let opened = $state('');
	/** Parts without a place, by the reason. */
	const left = $derived.by(() => {
		const by = new Map<string, Nesting['unplaced'][number][]>();
		for (const u of nesting.unplaced) by.set(session.told(u.why), [...(by.get(session.told(u.why)) ?? []), u]);
		return [...by];
	});
</script>

<h2>
	{word('lay-out.sheet', { sheets: nesting.sheets.length, utilisation: (nesting.utilisation * 100).toFixed(0) })}
</h2>
<p class="quiet">
	{word('lay-out.parts-placed-price', { placed, price: nesting.price.toFixed(2) })}
</p>
{#if out.items.length}
	<dl class="takes" aria-label={word('lay-out.each-item-takes')}>
		{#each out.items as i, n (n)}
			<dt>{i.label}</dt>
			<dd class="quiet">{word('lay-out.item-takes', { pieces: i.pieces, sheets: i.sheets.toFixed(2), price: i.price.toFixed(2) })}</dd>
		{/each}
	</dl>
{/if}
{#each left as [why, some] (why)}<div class="note bad">
		{#if some.length <= FEW || opened === why}
			{#each some as u, i (u.part)}{i ? ', ' : ''}<b>{u.count} × {labels.get(u.part) ?? u.part}</b>{/each}: {why}
		{:else}
			<b>{word('lay-out.parts', { reduce: some.reduce((sum, u) => sum + u.count, 0) })}</b>{word('lay-out.of-them', {
				some: some
					.slice(0, FEW)
					.map((u) => labels.get(u.part) ?? u.part)
					.join(', '),
				why
			})}
			<button class="btn" onclick={() => (opened = why)}>{word('lay-out.name-them-all')}</button>
		{/if}
	</div>{/each}
{#each out.ways as w (w.name)}
	<div class="shelf">
		<span
			><b>{w.name}</b>{word('lay-out.sheet-2', {
				sheets: w.sheets,
				price: w.price.toFixed(2),
				utilisation: (w.utilisation * 100).toFixed(0)
			})}<br />
			<span class="quiet"
				>{word('lay-out.leaves-whole', { leftmm: show(w.left_mm[0]!, session.unit), leftmm2: show(w.left_mm[1]!, session.unit) })}</span
			></span
		>
		{#if w.taken}<span class="quiet">{word('lay-out.taken')}</span>
		{:else}<button class="btn" disabled={busy} onclick={() => ontake(w.name)}>{word('lay-out.take-it')}</button>{/if}
	</div>
{/each}

<style>
	.takes {
		display: grid;
		grid-template-columns: minmax(0, 1fr) auto;
		gap: 2px 8px;
		margin: 4px 0 8px;
	}
	.shelf {
		display: flex;
		justify-content: space-between;
		padding: 4px 0;
		border-bottom: 1px solid var(--rule);
	}
</style>
