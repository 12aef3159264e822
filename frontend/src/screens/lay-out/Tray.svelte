<!-- The parts: how many are wanted and placed, how each may turn, what stays together, what fills the sheets up. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import PartWishes, { TURNS } from './PartWishes.svelte';
	import { countsOf, groupOf } from './tray';
	import { word } from '../../words/words';

	let { out, request, onchange }: { out: LayoutOut; request: LayoutOut['request']; onchange: (r: LayoutOut['request']) => void } = $props();
	let open = $state('');
	const rows = $derived(countsOf(out, request));
	const wishes = (id: string) =>
		[
			request.turns?.[id] && TURNS.find(([k]) => k === request.turns![id])?.[1],
			groupOf(request, id) && word('lay-out.with-group', { request: groupOf(request, id) }),
			request.rows?.includes(id) && word('lay-out.in-rows-2'),
			request.backs?.includes(id) && word('lay-out.may-lie-on-its-back-2'),
			request.pairs?.includes(id) && word('lay-out.in-pairs'),
			request.fill?.[id] && word('lay-out.up-to-more', { fill: request.fill[id] })
		].filter(Boolean);
</script>

<h3>{word('lay-out.parts-2')}</h3>
<ul aria-label={word('lay-out.parts-to-lay-out-2')}>
	{#each rows as r (r.id)}
		<li class:short={r.placed < r.wanted && !!out.nesting}>
			<button class="row" aria-expanded={open === r.id} onclick={() => (open = open === r.id ? '' : r.id)}>
				<span class="name">{r.label}</span>
				<span class="fig"
					>{out.nesting ? `${r.placed} / ` : ''}{r.wanted}{r.spares ? `, ${word('lay-out.spare', { spares: r.spares })}` : ''}{r.helper
						? `, ${word('lay-out.helper')}`
						: ''}</span
				>
			</button>
			{#if open !== r.id && wishes(r.id).length}<span class="quiet">{wishes(r.id).join(' · ')}</span>{/if}
			{#if open === r.id}<PartWishes row={r} {request} {onchange} />{/if}
		</li>
	{/each}
</ul>

<style>
	ul {
		max-height: 260px;
		overflow-y: auto;
		border: 1px solid var(--rule);
		border-radius: 4px;
	}
	li {
		padding: 3px 8px;
		border-bottom: 1px solid var(--rule);
	}
	li:last-child {
		border-bottom: 0;
	}
	li.short .fig {
		color: var(--bad);
	}
	.row {
		display: flex;
		justify-content: space-between;
		gap: 8px;
		width: 100%;
		text-align: left;
	}
	.row:hover .name {
		text-decoration: underline;
	}
	.quiet {
		font-size: 12.5px;
	}
</style>
