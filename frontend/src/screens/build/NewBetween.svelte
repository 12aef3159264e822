<!-- A new panel between two that face each other: square to both, or sloping. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import { addedTo, endNames, ladder, pairName, slopes } from './added';
	import type { BuildState } from './build.svelte';
	import { AXES, normalOf, rangeOf } from './moves';

	const MOST = 40;
	let { build, parts }: { build: BuildState; parts: PartOut[] } = $props();
	const work = useProject();
	let axis = $state<'x' | 'y' | 'z'>('z');
	let at = $state<number | null>(null);
	let more = $state({ rise: 0, over: 0, inset_low: 0, inset_high: 0 });
	let count = $state(1);
	let step = $state(30);
	let way = $state<'alike' | 'zigzag'>('alike');
	let problem = $state('');

	const normal = $derived(normalOf(parts[0]!));
	const free = $derived(AXES.filter((a) => Math.abs(normal[a.axis]!) < 1e-6));
	const along = $derived(free.find((a) => a.id === axis) ?? free[0]);
	const common = $derived.by((): [number, number] => {
		if (!along) return [0, 0];
		const [a, b] = parts.map((p) => rangeOf(p, along.axis));
		return [Math.max(a![0], b![0]), Math.min(a![1], b![1])];
	});
	const middle = $derived((common[0] + common[1]) / 2);
	const ends = $derived(along ? endNames(along.id, normal) : ['', '']);
	const numbers = $derived([
		...(along ? slopes(along.id, ends[1], parts[1]!.label) : []),
		...ends.map((end, i) => ({ key: i ? ('inset_high' as const) : ('inset_low' as const), name: word('build.kept-back', { end }) }))
	]);
	const sloping = $derived(more.rise !== 0 || more.over !== 0);
	async function add() {
		if (!along) return;
		const first = { kind: 'between' as const, axis: along.id, at: at ?? middle, ...more };
		const all = ladder(first, count, step, sloping && way === 'zigzag');
		problem = await addedTo(work, build, parts, word('build.between', { pair: pairName(parts) }), all);
	}
</script>

{#if along}
	<h3>{word('build.a-panel-between-these-two')}</h3>
	<ActionForm
		label={word('build.panel-between')}
		does={count === 1 ? word('build.add-the-panel') : word('build.add-panels', { count })}
		{problem}
		ondo={add}
	>
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
		<NumberField
			label={word('build.how-many')}
			kind="count"
			value={count}
			oncommit={(v) => void (count = Math.min(Math.max(v, 1), MOST))}
		/>
		{#if count > 1}
			<NumberField label={word('build.each-next-farther-by')} unit={session.unit} value={step} oncommit={(v) => void (step = v)} />
			{#if sloping}
				<Choice
					label={word('build.each-second-one')}
					options={[
						{ value: 'alike', name: word('build.slopes-alike') },
						{ value: 'zigzag', name: word('build.slopes-the-other-way') }
					]}
					value={way}
					onchoose={(v) => (way = v)}
				/>
			{/if}
		{/if}
		<p class="quiet">
			{word('build.possible-from')} <span class="fig">{show(common[0], session.unit)}</span>
			{word('build.to')} <span class="fig">{show(common[1], session.unit)}</span>{word('build.it-is-joined-to-all-that')}
		</p>
	</ActionForm>
{/if}
