<!-- Slats across the room between several panels, one way or crossed. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { Design, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import { latticeNumbers } from './added';
	import type { BuildState } from './build.svelte';
	import { freshLabel, freshName, namesIn } from './moves';

	let { build, parts }: { build: BuildState; parts: PartOut[] } = $props();
	const work = useProject();
	let crossed = $state<'crossed' | 'one'>('crossed');
	let numbers = $state({ pitch: 40, turn: 45, inset_low: 0, inset_high: 0 });
	let problem = $state('');
	const walls = $derived([...new Set(parts.map((p) => p.panel))]);

	async function add() {
		const [stock, { pitch, turn, inset_low, inset_high }] = [parts[0]!.stock, numbers];
		problem = '';
		try {
			const asked = { params: { path: { project_id: work.id }, query: { item: work.item } } };
			const body = { walls, stock, pitch, turn, crossed: crossed === 'crossed' };
			const places = await need(api.POST('/api/projects/{project_id}/lattice', { ...asked, body }));
			const seen = new Set(build.out!.parts.map((p) => p.label));
			const taken = namesIn(
				work.design,
				build.out!.parts.map((p) => p.id)
			);
			const slats = places.map((place) => {
				const [id, label] = [freshName('slat', taken), freshLabel(word('build.slat'), seen)];
				taken.add(id);
				seen.add(label);
				return { kind: 'slat', id, label, stock, walls, ...place, inset_low, inset_high };
			});
			const what = word('build.lattice-of', { count: slats.length });
			await work.save((d) => ({ ...d, added: [...(d.added ?? []), ...slats] as Design['added'] }), what);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<h3>{word('build.slats-between-these')}</h3>
<ActionForm label={word('build.slats-between-these')} does={word('build.add-the-slats')} {problem} ondo={add}>
	<Choice
		label={word('build.how-slats-run')}
		options={[
			{ value: 'crossed', name: word('build.slats-crossed') },
			{ value: 'one', name: word('build.slats-one-way') }
		]}
		value={crossed}
		onchoose={(v) => (crossed = v)}
	/>
	{#each latticeNumbers(parts) as { key, name, degrees } (key)}
		<NumberField
			label={name}
			kind={degrees ? 'number' : 'length'}
			suffix={degrees ? '°' : undefined}
			unit={session.unit}
			value={numbers[key]}
			oncommit={(v) => void (numbers = { ...numbers, [key]: v })}
		/>
	{/each}
	<p class="quiet">{word('build.slats-are-spread-from-the-middle')}</p>
</ActionForm>
