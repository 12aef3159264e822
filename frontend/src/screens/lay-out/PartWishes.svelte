<!-- What is wished for a part: how it may turn, what it stays with, rows, its back, pairs, how many fill up. -->
<script lang="ts" module>
	import { word } from '../../words/words';

	export const TURNS = [
		['', word('lay-out.as-the-rest')],
		['fixed', word('lay-out.not-at-all')],
		['half', word('lay-out.half-turns')],
		['quarter', word('lay-out.quarter-turns')],
		['any', word('lay-out.any-by-15')]
	] as const;
</script>

<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import Tick from '../../lib/ui/Tick.svelte';
	import RowsOf from './RowsOf.svelte';
	import { groupOf, inGroup, type Row } from './tray';

	type Request = LayoutOut['request'];
	type Turning = NonNullable<Request['turns']>[string];
	let { row: r, request, onchange }: { row: Row; request: Request; onchange: (r: Request) => void } = $props();
	const GROUPS = ['', 'A', 'B', 'C', 'D'];
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

<div class="wish">
	<label for="{id}t">{word('lay-out.may-turn')}</label>
	<select
		class="select"
		id="{id}t"
		value={request.turns?.[r.id] ?? ''}
		onchange={(e) => setTurn(r.id, e.currentTarget.value as Turning | '')}
	>
		{#each TURNS as [value, name] (value)}<option {value}>{name}</option>{/each}
	</select>
	<label for="{id}g">{word('lay-out.stays-on-one-sheet-with')}</label>
	<select
		class="select"
		id="{id}g"
		value={groupOf(request, r.id)}
		onchange={(e) => onchange({ ...request, together: inGroup(request, r.id, e.currentTarget.value) })}
	>
		{#each GROUPS as g (g)}<option value={g}>{g ? word('lay-out.group', { g }) : word('lay-out.nothing')}</option>{/each}
	</select>
</div>
<Tick
	checked={request.rows?.includes(r.id) ?? false}
	onchange={(on) => onchange({ ...request, rows: ticked(request.rows, r.id, on) })}
	label={word('lay-out.in-rows-one-pitch-from-each')}
/>
{#if request.rows?.includes(r.id)}<RowsOf
		grid={request.grids?.[r.id] ?? {}}
		onchange={(g) => onchange({ ...request, grids: { ...request.grids, [r.id]: g } })}
	/>{/if}
<Tick
	disabled={r.marked || r.reverse}
	checked={r.reverse || (!r.marked && (request.backs?.includes(r.id) ?? false))}
	onchange={(on) => onchange({ ...request, backs: ticked(request.backs, r.id, on) })}
	label={r.reverse
		? word('lay-out.lies-on-its-back-it-is')
		: word('lay-out.may-lie-on-its-back', {
				marked: r.marked ? `: ${word('lay-out.no-its-face-is-marked')}` : `, ${word('lay-out.mirrored')}`
			})}
/>
{#if r.two_faced && r.wanted > 1}<Tick
		checked={request.pairs?.includes(r.id) ?? false}
		onchange={(on) => onchange({ ...request, pairs: ticked(request.pairs, r.id, on) })}
		label={word('lay-out.in-pairs-half-of-them-on')}
	/>{/if}
<NumberField
	label={word('lay-out.fill-up-with-at-most')}
	kind="count"
	value={request.fill?.[r.id] ?? 0}
	oncommit={(n) => setFill(r.id, n)}
/>

<style>
	.wish {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 4px 8px;
		align-items: center;
		padding-top: 4px;
	}
</style>
