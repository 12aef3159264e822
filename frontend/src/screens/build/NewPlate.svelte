<!-- A new panel that lies on a face of the picked one, or stands off from it on spacers. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import AskedNumbers from './AskedNumbers.svelte';
	import { addAll, MOST_LAYERS, plateNumbers, spacerNumbers } from './added';
	import { naming } from './moves';
	import SideChoice from './SideChoice.svelte';

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
		const given = naming(taken, labels)('plate', word('build.plate-on', { label: part.label.toLowerCase() }));
		const plate = { kind: 'on_face', ...given, stock, host, back: side === 'back', from_corner: true, ...numbers, layers };
		problem = await addAll(work, [plate], word('build.a-plate-on', { label: part.label }));
		if (!problem) onadded();
	}
</script>

<ActionForm label={word('build.plate-on-it')} does={word('build.add-the-plate')} {problem} ondo={add}>
	<SideChoice bind:value={side} />
	<NumberField
		label={word('build.layers-of-spacers')}
		kind="count"
		value={layers}
		oncommit={(v) => void (layers = Math.min(Math.max(v, 0), MOST_LAYERS))}
	/>
	<AskedNumbers {fields} values={numbers} onset={(key, v) => (numbers = { ...numbers, [key]: v })} />
	{#if layers}<p class="quiet">{word('build.spacers-hold-it-off')}</p>{/if}
</ActionForm>
