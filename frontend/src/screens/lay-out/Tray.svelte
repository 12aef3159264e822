<!-- The parts: how many are wanted and placed, how each may turn, what stays together, what fills the sheets up. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import PartWishes, { TURNS } from './PartWishes.svelte';
	import { rowsOf } from '../../app/alike';
	import { countsOf, groupOf, type Row } from './tray';
	import { word } from '../../words/words';

	let { out, request, onchange }: { out: LayoutOut; request: LayoutOut['request']; onchange: (r: LayoutOut['request']) => void } = $props();
	let open = $state('');
	let listed = $state.raw<readonly string[]>([]);
	const rows = $derived(
		rowsOf(
			countsOf(out, request),
			(r) => r.like,
			(like) => listed.includes(like)
		)
	);
	const all = (some: readonly Row[], what: 'wanted' | 'placed' | 'spares') => some.reduce((n, r) => n + r[what], 0);
	const list = (like: string) => (listed = listed.includes(like) ? listed.filter((l) => l !== like) : [...listed, like]);
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
	{#each rows as row (`${row.first.id} ${row.all.length > 1}`)}
		{@const r = row.first}
		{#if row.all.length > 1}
			<li class:short={all(row.all, 'placed') < all(row.all, 'wanted') && !!out.nesting}>
				<button class="row" aria-expanded={listed.includes(r.like)} onclick={() => list(r.like)}>
					<span class="name"
						>{word('common.and-alike', { first: r.label, more: row.all.length - 1 })} {listed.includes(r.like) ? '▾' : '▸'}</span
					>
					<span class="fig"
						>{out.nesting ? `${all(row.all, 'placed')} / ` : ''}{all(row.all, 'wanted')}{all(row.all, 'spares')
							? `, ${word('lay-out.spare', { spares: all(row.all, 'spares') })}`
							: ''}</span
					>
				</button>
			</li>
		{:else}
			<li class:within={row.within} class:short={r.placed < r.wanted && !!out.nesting}>
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
		{/if}
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
	li.within {
		padding-left: 20px;
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
