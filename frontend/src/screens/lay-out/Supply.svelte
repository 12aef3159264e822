<!-- What the parts need of each stock, before they are packed: is it there, and if not, what to buy. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { LayoutOut, SheetsNeeded } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { word } from '../../words/words';

	let { out, request }: { out: LayoutOut; request: LayoutOut['request'] } = $props();
	const work = useProject();
	let needs = $state.raw<SheetsNeeded[]>([]);
	const asked = new Asked();

	/** what the answer depends on: while a packing is under way the rest of it comes anew twice a second */
	const wanted = $derived(JSON.stringify([out.version, request]));

	$effect(() => {
		const body = (JSON.parse(wanted) as [string, typeof request])[1];
		asked
			.only(need(api.POST('/api/projects/{project_id}/lay-out/need', { params: { path: { project_id: work.id } }, body })))
			.then((told) => (needs = told ?? needs))
			.catch(() => (needs = [])); // a number that makes no sense is told where it was typed
	});
	const sheet = (id: string) => out.shelf.find((s) => s.id === id);
</script>

{#if needs.length}
	<h3>{word('lay-out.what-it-needs')}</h3>
	{#each needs as n (n.stock)}
		{@const kind = sheet(n.sheet)}
		<div class="need" class:short={n.buy > 0}>
			{#if kind}
				<span>{word('lay-out.about')} <b class="fig">{n.sheets.toFixed(1)}</b> × {kind.name}</span>
				<span class="quiet"
					>{word('lay-out.there', { there: n.there, offcuts: n.offcuts ? `, ${word('lay-out.other', { offcuts: n.offcuts })}` : '' })}</span
				>
				{#if n.buy > 0}<span class="buy"
						>{word('lay-out.buy', {
							sure: n.sure ? word('lay-out.the-shelf-has-too-few') : word('lay-out.that-may-be-too-few'),
							buy: n.buy,
							price: n.price > 0 ? `, ${word('lay-out.in-all', { price: n.price.toFixed(2) })}` : ''
						})}</span
					>{/if}
			{:else}<span class="buy">{word('lay-out.no-whole-sheet-is-on-the', { name: out.stocks[n.stock]?.name })}</span>{/if}
		</div>
	{/each}
{/if}

<style>
	.need {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		gap: 0 10px;
		padding: 4px 0;
		border-bottom: 1px solid var(--rule);
	}
	.buy {
		flex-basis: 100%;
		color: var(--warn);
	}
</style>
