<!-- Several panels at once: stock, place, leave out; and a new panel that stands between two of them. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { RackRow } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import { LEAST_WALLS, roundARoom } from './added';
	import { AXES, type Axis, lineUp, type LineUp as LineUpWay, normalOf } from './moves';
	import LineUp from './LineUp.svelte';
	import NewBetween from './NewBetween.svelte';
	import NewInCorner from './NewInCorner.svelte';
	import NewLattice from './NewLattice.svelte';
	import StockChoice from './StockChoice.svelte';
	import { word } from '../../words/words';

	let { build }: { build: BuildState } = $props();
	const work = useProject();
	const parts = $derived(build.out!.parts.filter((p) => build.picked.includes(p.id)));
	/** in the order in which they were picked */
	const asPicked = $derived(build.picked.flatMap((id) => parts.filter((p) => p.id === id)));
	/** Those of an item that is joined to the one that is open are changed where that is open. */
	const changeable = $derived(parts.every((p) => !p.item));
	const ids = $derived([...new Set(parts.map((p) => p.panel))]);
	let stocks = $state.raw<RackRow[]>([]);
	const attempt = new Attempt();
	need(api.GET('/api/rack'))
		.then((r) => (stocks = r.stocks))
		.catch(attempt.failed);

	const normal = (i: number) => normalOf(parts[i]!);
	/** cosine between two picked panels; null unless two are picked */
	const slant = $derived(parts.length === 2 ? Math.abs(normal(0).reduce((s, v, i) => s + v * normal(1)[i]!, 0)) : null);
	const facing = $derived(slant !== null && slant > 0.999999);
	const square = $derived(slant !== null && slant < 1e-6);
	const quietly = (saved: Promise<void>) => attempt.at(() => saved);
	const names = $derived(word('build.panels', { ids: ids.length }));
	const moveAll = (a: Axis, by: number) =>
		work.editPanels(
			ids,
			(before) => ({ move: (before.move as unknown as number[]).map((v, i) => (i === a ? v + by : v)) as never }),
			word('build.moved-4', { names, by: show(by, session.unit) })
		);
	/** Move the others to where the first of them is. */
	function lineAllUp(axis: Axis, how: LineUpWay) {
		const first = asPicked[0]!;
		const rest = asPicked.slice(1).filter((p, i, all) => p.panel !== first.panel && all.findIndex((q) => q.panel === p.panel) === i);
		const by = new Map(rest.map((p) => [p.panel, lineUp(p, first, axis, how)]));
		const moved = (move: unknown, panel: string) => (move as number[]).map((v, i) => (i === axis ? v + by.get(panel)! : v)) as never;
		return quietly(
			work.editPanels(
				[...by.keys()],
				(before, panel) => ({ move: moved(before.move, panel) }),
				word('build.lined-up', { names: rest.map((p) => p.label).join(', '), label: first.label })
			)
		);
	}
</script>

<h2>{names}</h2>
<p class="quiet">{parts.map((p) => p.label).join(', ')}</p>

{#if changeable}
	<StockChoice
		label={word('build.stock-of-all')}
		{stocks}
		value=""
		none={word('build.as-their-groups')}
		onchoose={(v) => quietly(work.editPanels(ids, () => ({ stock: v || null }), word('build.stock-2', { names })))}
	/>
	<h3>{word('build.place')}</h3>
	{#each AXES as a (a.id)}
		<NumberField
			label={word('build.move', { name: a.name })}
			unit={session.unit}
			value={null}
			keep={false}
			placeholder="0"
			oncommit={(mm) => moveAll(a.axis, mm)}
		/>
	{/each}
	{#if ids.length > 1}<LineUp heading={word('build.line-up-with', { label: asPicked[0]!.label })} onchoose={lineAllUp} />{/if}
{:else}
	<p class="quiet">{word('build.changed-where-open')}</p>
{/if}
{#if facing}
	<NewBetween {build} {parts} />
{:else if parts.length === 2}
	<NewInCorner {build} {parts} {square} />
{:else if parts.length >= LEAST_WALLS && roundARoom(parts)}
	<NewLattice {build} {parts} />
{:else}
	<p class="quiet">{word('build.pick-two-panels-that-face-each')}</p>
{/if}
{#if changeable}<div class="mt-3">
		<button class="btn" onclick={() => quietly(work.editPanels(ids, () => ({ gone: true }), word('build.left-out-3', { names })))}
			>{word('build.leave-all-out')}</button
		>
	</div>{/if}
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
