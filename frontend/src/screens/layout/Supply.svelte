<!-- What the parts need of each stock, before they are packed: is it there, and if not, what to buy. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { LayoutOut, SheetsNeeded } from '../../api/types';
	import { useProject } from '../../app/project.svelte';

	let { out, request }: { out: LayoutOut; request: LayoutOut['request'] } = $props();
	const work = useProject();
	let needs = $state.raw<SheetsNeeded[]>([]);
	let asked = 0;

	$effect(() => {
		void out.version;
		const mine = ++asked;
		const body = { ...request };
		need(api.POST('/api/projects/{project_id}/layout/need', { params: { path: { project_id: work.id } }, body }))
			.then((told) => mine === asked && (needs = told))
			.catch(() => mine === asked && (needs = [])); // a number that makes no sense is told where it was typed
	});
	const sheet = (id: string) => out.shelf.find((s) => s.id === id);
</script>

{#if needs.length}
	<h3>What it needs</h3>
	{#each needs as n (n.stock)}
		{@const kind = sheet(n.sheet)}
		<div class="need" class:short={n.buy > 0}>
			{#if kind}
				<span>about <b class="fig">{n.sheets.toFixed(1)}</b> × {kind.name}</span>
				<span class="quiet">{n.there} there{n.offcuts ? `, ${n.offcuts} other${n.offcuts === 1 ? '' : 's'}` : ''}</span>
				{#if n.buy > 0}<span class="buy"
						>{n.sure ? 'The shelf has too few' : 'That may be too few'}: buy {n.buy}{n.price > 0
							? `, ${n.price.toFixed(2)} in all`
							: ''}</span
					>{/if}
			{:else}<span class="buy">{out.stocks[n.stock]?.name}: no whole sheet is on the shelf</span>{/if}
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
