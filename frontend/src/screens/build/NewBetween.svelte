<!-- A new panel between two that face each other: square to both, or sloping. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';
	import { addedTo, endNames, pairName, slopes } from './added';
	import type { BuildState } from './build.svelte';
	import { AXES, normalOf, rangeOf } from './moves';

	let { build, parts }: { build: BuildState; parts: PartOut[] } = $props();
	const work = useProject();
	let axis = $state<'x' | 'y' | 'z'>('z');
	let at = $state<number | null>(null);
	let more = $state({ rise: 0, over: 0, inset_low: 0, inset_high: 0 });
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
	async function add(event: SubmitEvent) {
		event.preventDefault();
		if (!(await settled(event)) || !along) return;
		const what = { kind: 'between' as const, axis: along.id, at: at ?? middle, ...more };
		problem = await addedTo(work, build, parts, word('build.between', { pair: pairName(parts) }), what);
	}
</script>

{#if along}
	<form onsubmit={add} aria-label={word('build.panel-between')}>
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
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	</form>
{/if}
