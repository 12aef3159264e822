<!-- A new panel that stands on an edge of the picked one, or one on each of its edges. -->
<script lang="ts">
	import type { Design, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import { EDGES, wallNumbers, type EdgeName } from './added';
	import { freshLabel, freshName } from './moves';

	let {
		part,
		host,
		taken,
		labels,
		onadded
	}: { part: PartOut; host: string; taken: ReadonlySet<string>; labels: ReadonlySet<string>; onadded: () => void } = $props();
	const work = useProject();
	const uid = $props.id();
	const ROUND = 'round';
	let edge = $state<EdgeName | typeof ROUND>('upper');
	let side = $state<'front' | 'back'>('front');
	let numbers = $state({ height: 40, lean: 0, inset_low: 0, inset_high: 0 });
	let problem = $state('');
	const edges = [...EDGES.map((e) => ({ value: e.id, name: e.name })), { value: ROUND, name: word('build.all-round') } as const];
	const fields = $derived(wallNumbers(edge === ROUND ? 'upper' : edge).filter((n) => edge !== ROUND || !n.key.startsWith('inset')));

	async function add() {
		const which = edge === ROUND ? EDGES : EDGES.filter((e) => e.id === edge);
		const [names, seen] = [new Set(taken), new Set(labels)];
		const walls = which.map((e) => {
			const [id, label] = [freshName('edge-wall', names), freshLabel(word('build.wall-of', { edge: e.name }), seen)];
			names.add(id);
			seen.add(label);
			return { kind: 'wall', id, label, stock: part.stock, host, edge: e.id, back: side === 'back', ...numbers };
		});
		const all = walls.map((w, k) => {
			if (edge !== ROUND) return w;
			const beside = [walls[(k + 3) % 4]!.id, walls[(k + 1) % 4]!.id];
			return { ...w, inset_low: 0, inset_high: 0, beside };
		});
		problem = '';
		try {
			const what = walls.length > 1 ? word('build.walls-round', { label: part.label }) : walls[0]!.label;
			await work.save((d) => ({ ...d, added: [...(d.added ?? []), ...all] as Design['added'] }), what);
			onadded();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<ActionForm
	label={word('build.wall-on-an-edge')}
	does={edge === ROUND ? word('build.add-the-walls') : word('build.add-the-wall')}
	{problem}
	ondo={add}
>
	<label for={uid}>{word('build.edge')}</label>
	<select id={uid} class="select" bind:value={edge}>
		{#each edges as e (e.value)}<option value={e.value}>{e.name}</option>{/each}
	</select>
	<Choice
		label={word('build.side')}
		options={[
			{ value: 'front', name: word('build.front-face') },
			{ value: 'back', name: word('build.back-face') }
		]}
		value={side}
		onchoose={(v) => (side = v)}
	/>
	{#each fields as { key, name, degrees } (key)}
		<NumberField
			label={name}
			kind={degrees ? 'number' : 'length'}
			suffix={degrees ? '°' : undefined}
			unit={session.unit}
			value={numbers[key]}
			oncommit={(v) => void (numbers = { ...numbers, [key]: v })}
		/>
	{/each}
	<p class="quiet">{word('build.edges-are-those-of-the-flat-panel')}</p>
</ActionForm>
