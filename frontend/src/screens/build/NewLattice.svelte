<!-- Slats across the room between several panels, one way or crossed. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import AskedNumbers from './AskedNumbers.svelte';
	import { addAll, latticeNumbers, namingIn } from './added';
	import type { BuildState } from './build.svelte';

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
			const name = namingIn(work, build);
			const slat = { kind: 'slat', stock, walls, inset_low, inset_high };
			const slats = places.map((place) => ({ ...slat, ...name('slat', word('build.slat')), ...place }));
			problem = await addAll(work, slats, word('build.lattice-of', { count: slats.length }));
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
	<AskedNumbers fields={latticeNumbers(parts)} values={numbers} onset={(key, v) => (numbers = { ...numbers, [key]: v })} />
	<p class="quiet">{word('build.slats-are-spread-from-the-middle')}</p>
</ActionForm>
