<!-- Several panels at once: stock, place, leave out; and a new panel between two of them. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { Added, Design, RackRow } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import { show } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import { AXES, freshLabel, freshName, rangeOf, type Axis, normalOf } from './moves';
	import StockChoice from './StockChoice.svelte';
	import { endNames, slopes } from './added';
	import { word } from '../../words/words';

	let { build }: { build: BuildState } = $props();
	const work = useProject();
	const design = $derived(work.design);
	const parts = $derived(build.out!.parts.filter((p) => build.picked.includes(p.id)));
	const ids = $derived([...new Set(parts.map((p) => p.panel))]);
	let stocks = $state.raw<RackRow[]>([]);
	let problem = $state('');
	let axis = $state<'x' | 'y' | 'z'>('z');
	let at = $state<number | null>(null);
	let size = $state(30);
	let offset = $state(0);
	let more = $state({ rise: 0, over: 0, inset_low: 0, inset_high: 0 });
	need(api.GET('/api/rack'))
		.then((r) => (stocks = r.stocks))
		.catch((e: Error) => (problem = e.message));

	const normal = (i: number) => normalOf(parts[i]!);
	const facing = $derived(parts.length === 2 && Math.abs(normal(0).reduce((s, v, i) => s + v * normal(1)[i]!, 0)) > 0.999999);
	const square = $derived(parts.length === 2 && Math.abs(normal(0).reduce((s, v, i) => s + v * normal(1)[i]!, 0)) < 1e-6);
	const free = $derived(facing ? AXES.filter((a) => Math.abs(normal(0)[a.axis]!) < 1e-6) : []);
	const along = $derived(free.find((a) => a.id === axis) ?? free[0]);
	const common = $derived.by((): [number, number] => {
		if (!along) return [0, 0];
		const [a, b] = parts.map((p) => rangeOf(p, along.axis));
		return [Math.max(a![0], b![0]), Math.min(a![1], b![1])];
	});
	const ends = $derived(along ? endNames(along.id, normal(0)) : ['', '']);
	const numbers = $derived([
		...(along ? slopes(along.id, ends[1], parts[1]!.label) : []),
		...ends.map((end, i) => ({ key: i ? ('inset_high' as const) : ('inset_low' as const), name: word('build.kept-back', { end }) }))
	]);
	const middle = $derived((common[0] + common[1]) / 2);

	async function quietly(saved: Promise<void>) {
		problem = '';
		try {
			await saved;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const names = $derived(word('build.panels', { ids: ids.length }));
	const moveAll = (a: Axis, by: number) =>
		work.editPanels(
			ids,
			(before) => ({ move: (before.move as unknown as number[]).map((v, i) => (i === a ? v + by : v)) as never }),
			word('build.moved-4', { names, by: show(by, session.unit) })
		);
	const pair = $derived(
		parts.length === 2 ? word('build.and', { label: parts[0]!.label.toLowerCase(), label2: parts[1]!.label.toLowerCase() }) : ''
	);
	/** Add a panel that stands between the two picked ones, or in their corner. */
	function add(kind: 'between' | 'gusset', called: string, more: object) {
		const label = freshLabel(called, new Set(build.out!.parts.map((p) => p.label)));
		const taken = new Set([...build.out!.parts.map((p) => p.id), ...((design.added ?? []) as Added[]).map((a) => a.id)]);
		const item = { kind, id: freshName(kind, taken), label, stock: parts[0]!.stock, a: ids[0], b: ids[1], ...more };
		return quietly(work.save((d) => ({ ...d, added: [...(d.added ?? []), item] as Design['added'] }), label));
	}
	async function between(event: SubmitEvent) {
		event.preventDefault();
		if (!(await settled(event)) || !along) return;
		await add('between', word('build.between', { pair }), { axis: along.id, at: at ?? middle, ...more });
	}
	async function gusset(event: SubmitEvent) {
		event.preventDefault();
		if (await settled(event)) await add('gusset', word('build.gusset-of', { pair }), { size, at: offset });
	}
</script>

<h2>{names}</h2>
<p class="quiet">{parts.map((p) => p.label).join(', ')}</p>

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
{#if facing && along}
	<form onsubmit={between} aria-label={word('build.panel-between')}>
		<h3>{word('build.a-panel-between-these-two')}</h3>
		<Choice
			label={word('build.stands')}
			options={free.map((a) => ({ value: a.id, name: a.name }))}
			value={along.id}
			onchoose={(v) => (axis = v)}
		/>
		<NumberField
			label={word('build.where-2', { name: along.name })}
			unit={session.unit}
			value={at ?? middle}
			oncommit={(v) => void (at = v)}
		/>
		{#each numbers as { key, name } (key)}
			<NumberField label={name} unit={session.unit} value={more[key]} oncommit={(v) => void (more = { ...more, [key]: v })} />
		{/each}
		<p class="quiet">
			{word('build.possible-from')} <span class="fig">{show(common[0], session.unit)}</span>
			{word('build.to')} <span class="fig">{show(common[1], session.unit)}</span>{word('build.it-is-joined-to-all-that')}
		</p>
		<button class="btn main">{word('build.add-the-panel')}</button>
	</form>
{:else if square}
	<form onsubmit={gusset} aria-label={word('build.gusset')}>
		<h3>{word('build.a-gusset-in-their-corner')}</h3>
		<NumberField label={word('build.size')} unit={session.unit} value={size} oncommit={(v) => void (size = v)} />
		<NumberField label={word('build.from-the-middle')} unit={session.unit} value={offset} oncommit={(v) => void (offset = v)} />
		<button class="btn main">{word('build.add-the-gusset')}</button>
	</form>
{:else}
	<p class="quiet">{word('build.pick-two-panels-that-face-each')}</p>
{/if}
<div class="mt-3">
	<button class="btn" onclick={() => quietly(work.editPanels(ids, () => ({ gone: true }), word('build.left-out-3', { names })))}
		>{word('build.leave-all-out')}</button
	>
</div>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
