<!-- The picked panel again, in a row or round a line. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import { addAll } from './added';
	import type { BuildState } from './build.svelte';
	import { AXES, clearOf, naming, rangeOf } from './moves';

	let {
		build,
		part,
		id,
		taken,
		labels,
		onadded
	}: {
		build: BuildState;
		part: PartOut;
		id: string;
		taken: ReadonlySet<string>;
		labels: ReadonlySet<string>;
		onadded: () => void;
	} = $props();
	const GAP = 10; // [mm] between a panel and its copy
	const MOST = 60;
	const work = useProject();
	const AXIS = AXES.map((a) => ({ value: a.id, name: a.name }));
	const HOW = [
		{ value: 'row' as const, name: word('build.copies-in-a-row') },
		{ value: 'round' as const, name: word('build.round-a-line') }
	];
	let how = $state<'row' | 'round'>('row');
	let axis = $state<'x' | 'y' | 'z'>('x');
	let spacing = $state<number | null>(null);
	let turn = $state<number | null>(null);
	let centre = $state<(number | null)[]>([null, null, null]);
	let count = $state(1);
	let problem = $state('');

	/** How far a copy stands from the original, so that it touches neither that nor another copy [mm]. */
	const clear = $derived(Math.ceil(clearOf(part, build.out?.parts ?? [], AXES.find((a) => a.id === axis)!.axis, GAP)));
	/** A whole turn shared out, unless an angle was typed. */
	const angle = $derived(turn ?? Number((360 / (count + 1)).toFixed(6)));
	const middles = $derived(
		AXES.map((a) => {
			const ranges = (build.out?.parts ?? []).map((p) => rangeOf(p, a.axis));
			return (Math.min(...ranges.map((r) => r[0])) + Math.max(...ranges.map((r) => r[1]))) / 2;
		})
	);
	const line = $derived(AXES.map((_, k) => centre[k] ?? middles[k]!));

	async function add() {
		const name = naming(taken, labels);
		const items = Array.from({ length: count }, (_, i) => {
			const given = name(`${id}-copy`, word('build.copy', { label: part.label }));
			const copy = { kind: 'copy', ...given, of: id, move: [0, 0, 0], mirror: null, about: 0 };
			if (how === 'round') return { ...copy, round: axis, turn: angle * (i + 1), centre: line };
			return { ...copy, move: AXES.map((a) => (a.id === axis ? (spacing ?? clear) * (i + 1) : 0)) };
		});
		problem = await addAll(work, items, `${part.label} × ${count + 1}`);
		if (!problem) onadded();
	}
</script>

<ActionForm
	label={word('build.duplicate')}
	does={word('build.make-more', { count: count === 1 ? word('build.one') : count })}
	{problem}
	ondo={add}
>
	<Choice
		label={word('build.how-copies-stand')}
		options={HOW}
		value={how}
		onchoose={(v) => {
			how = v;
			axis = v === 'round' ? 'z' : 'x';
		}}
	/>
	<Choice label={how === 'row' ? word('build.along') : word('build.line-runs')} options={AXIS} value={axis} onchoose={(v) => (axis = v)} />
	<NumberField label={word('build.copies')} kind="count" value={count} oncommit={(v) => void (count = Math.min(Math.max(v, 1), MOST))} />
	{#if how === 'row'}
		<NumberField label={word('build.spacing')} unit={session.unit} value={spacing ?? clear} oncommit={(v) => void (spacing = v)} />
	{:else}
		<NumberField label={word('build.from-one-to-the-next')} kind="number" suffix="°" value={angle} oncommit={(v) => void (turn = v)} />
		{#each AXES.filter((a) => a.id !== axis) as a (a.id)}
			<NumberField
				label={word('build.line-stands', { name: a.name })}
				unit={session.unit}
				value={line[a.axis]!}
				oncommit={(v) => void (centre = centre.map((c, k) => (k === a.axis ? v : c)))}
			/>
		{/each}
	{/if}
</ActionForm>
