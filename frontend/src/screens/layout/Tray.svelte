<!-- The parts: how many are wanted and placed, how each may turn, what stays together, what fills the sheets up. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import RowsOf from './RowsOf.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { countsOf, groupOf, inGroup } from './tray';
	import { word } from '../../words/words';

	let { out, request, onchange }: { out: LayoutOut; request: LayoutOut['request']; onchange: (r: LayoutOut['request']) => void } = $props();
	type Turning = NonNullable<LayoutOut['request']['turns']>[string];
	const TURNS = [
		['', word('layout.as-the-rest')],
		['fixed', word('layout.not-at-all')],
		['half', word('layout.half-turns')],
		['quarter', word('layout.quarter-turns')],
		['any', word('layout.any-by-15')]
	] as const;
	const GROUPS = ['', 'A', 'B', 'C', 'D'];
	let open = $state('');
	const rows = $derived(countsOf(out, request));
	const wishes = (id: string) =>
		[
			request.turns?.[id] && TURNS.find(([k]) => k === request.turns![id])?.[1],
			groupOf(request, id) && word('layout.with-group', { request: groupOf(request, id) }),
			request.rows?.includes(id) && word('layout.in-rows-2'),
			request.backs?.includes(id) && word('layout.may-lie-on-its-back-2'),
			request.pairs?.includes(id) && word('layout.in-pairs'),
			request.fill?.[id] && word('layout.up-to-more', { fill: request.fill[id] })
		].filter(Boolean);
	const id = $props.id();

	/** What was said of the parts, with another word on one; an empty one is taken back. */
	function said<T>(all: Record<string, T> | undefined, part: string, word: T | null): Record<string, T> {
		const kept = { ...all };
		delete kept[part];
		return word ? { ...kept, [part]: word } : kept;
	}
	const setTurn = (part: string, turn: Turning | '') => onchange({ ...request, turns: said<Turning>(request.turns, part, turn || null) });
	const ticked = (all: string[] | undefined, part: string, on: boolean) => [
		...(all ?? []).filter((p) => p !== part),
		...(on ? [part] : [])
	];
	const setFill = (part: string, n: number) => onchange({ ...request, fill: said(request.fill, part, n) });
</script>

<h3>{word('layout.parts-2')}</h3>
<ul aria-label={word('layout.parts-to-lay-out-2')}>
	{#each rows as r (r.id)}
		<li class:short={r.placed < r.wanted && !!out.nesting}>
			<button class="row" aria-expanded={open === r.id} onclick={() => (open = open === r.id ? '' : r.id)}>
				<span class="name">{r.label}</span>
				<span class="fig"
					>{out.nesting ? `${r.placed} / ` : ''}{r.wanted}{r.spares ? `, ${word('layout.spare', { spares: r.spares })}` : ''}{r.helper
						? `, ${word('layout.helper')}`
						: ''}</span
				>
			</button>
			{#if open !== r.id && wishes(r.id).length}<span class="quiet">{wishes(r.id).join(' · ')}</span>{/if}
			{#if open === r.id}
				<div class="wish">
					<label for="{id}t">{word('layout.may-turn')}</label>
					<select
						class="select"
						id="{id}t"
						value={request.turns?.[r.id] ?? ''}
						onchange={(e) => setTurn(r.id, e.currentTarget.value as Turning | '')}
					>
						{#each TURNS as [value, name] (value)}<option {value}>{name}</option>{/each}
					</select>
					<label for="{id}g">{word('layout.stays-on-one-sheet-with')}</label>
					<select
						class="select"
						id="{id}g"
						value={groupOf(request, r.id)}
						onchange={(e) => onchange({ ...request, together: inGroup(request, r.id, e.currentTarget.value) })}
					>
						{#each GROUPS as g (g)}<option value={g}>{g ? word('layout.group', { g }) : word('layout.nothing')}</option>{/each}
					</select>
				</div>
				<label class="flex items-center gap-2 py-1"
					><input
						type="checkbox"
						checked={request.rows?.includes(r.id) ?? false}
						onchange={(e) => onchange({ ...request, rows: ticked(request.rows, r.id, e.currentTarget.checked) })}
					/>
					{word('layout.in-rows-one-pitch-from-each')}</label
				>
				{#if request.rows?.includes(r.id)}<RowsOf
						grid={request.grids?.[r.id] ?? {}}
						onchange={(g) => onchange({ ...request, grids: { ...request.grids, [r.id]: g } })}
					/>{/if}
				<label class="flex items-center gap-2 py-1"
					><input
						type="checkbox"
						disabled={r.marked || r.reverse}
						checked={r.reverse || (!r.marked && (request.backs?.includes(r.id) ?? false))}
						onchange={(e) => onchange({ ...request, backs: ticked(request.backs, r.id, e.currentTarget.checked) })}
					/>
					{r.reverse
						? word('layout.lies-on-its-back-it-is')
						: word('layout.may-lie-on-its-back', {
								marked: r.marked ? `: ${word('layout.no-its-face-is-marked')}` : `, ${word('layout.mirrored')}`
							})}</label
				>
				{#if r.two_faced && r.wanted > 1}<label class="flex items-center gap-2 py-1"
						><input
							type="checkbox"
							checked={request.pairs?.includes(r.id) ?? false}
							onchange={(e) => onchange({ ...request, pairs: ticked(request.pairs, r.id, e.currentTarget.checked) })}
						/>
						{word('layout.in-pairs-half-of-them-on')}</label
					>{/if}
				<NumberField
					label={word('layout.fill-up-with-at-most')}
					kind="count"
					value={request.fill?.[r.id] ?? 0}
					oncommit={(n) => setFill(r.id, n)}
				/>
			{/if}
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
	.wish {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 4px 8px;
		align-items: center;
		padding-top: 4px;
	}
	.quiet {
		font-size: 12.5px;
	}
</style>
