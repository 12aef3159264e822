<!-- A new panel that lies on a face of the picked one, or stands off from it on spacers. -->
<script lang="ts">
	import type { Design, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import { MOST_LAYERS, plateNumbers, spacerNumbers } from './added';
	import { freshLabel, freshName } from './moves';

	let {
		part,
		host,
		stock,
		taken,
		labels,
		onadded
	}: {
		part: PartOut;
		host: string;
		stock: string;
		taken: ReadonlySet<string>;
		labels: ReadonlySet<string>;
		onadded: () => void;
	} = $props();
	const work = useProject();
	let numbers = $state({ width: 40, height: 30, x: 10, y: 10, spacer_across: 16, spacer_inset: 16 });
	let layers = $state(0);
	let side = $state<'front' | 'back'>('front');
	let problem = $state('');
	const fields = $derived([...plateNumbers(), ...(layers ? spacerNumbers() : [])]);

	async function add() {
		const label = freshLabel(word('build.plate-on', { label: part.label.toLowerCase() }), labels);
		const plate = { kind: 'on_face', id: freshName('plate', taken), label, stock, host, back: side === 'back', from_corner: true };
		problem = '';
		try {
			const all = [{ ...plate, ...numbers, layers }] as Design['added'];
			await work.save((d) => ({ ...d, added: [...(d.added ?? []), ...all!] }), word('build.a-plate-on', { label: part.label }));
			onadded();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<ActionForm label={word('build.plate-on-it')} does={word('build.add-the-plate')} {problem} ondo={add}>
	<Choice
		label={word('build.side')}
		options={[
			{ value: 'front', name: word('build.front-face') },
			{ value: 'back', name: word('build.back-face') }
		]}
		value={side}
		onchoose={(v) => (side = v)}
	/>
	<NumberField
		label={word('build.layers-of-spacers')}
		kind="count"
		value={layers}
		oncommit={(v) => void (layers = Math.min(Math.max(v, 0), MOST_LAYERS))}
	/>
	{#each fields as { key, name } (key)}
		<NumberField label={name} unit={session.unit} value={numbers[key]} oncommit={(v) => void (numbers = { ...numbers, [key]: v })} />
	{/each}
	{#if layers}<p class="quiet">{word('build.spacers-hold-it-off')}</p>{/if}
</ActionForm>
