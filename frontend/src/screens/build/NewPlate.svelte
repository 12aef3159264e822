<!-- A new panel that lies on a face of the picked one, or stands off from it on spacers. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
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
	const SMALLER = 0.7; // than its host: an oval one holds such a rectangle too
	const SPACER = 16; // mm across, where there is room for it
	const b = $derived(boundsOf(part.profile.outer as number[][]));
	let typed = $state<Record<string, number>>({});
	/** In the middle of its host, and somewhat smaller, unless something else is typed. */
	const numbers = $derived.by(() => {
		const tenth = (mm: number) => Math.round(10 * mm) / 10;
		const [w, h] = [b.x1 - b.x0, b.y1 - b.y0];
		const [width, height] = [typed.width ?? tenth(SMALLER * w), typed.height ?? tenth(SMALLER * h)];
		const spacer = tenth(Math.min(SPACER, Math.min(width, height) / 4));
		const place = { x: tenth((w - width) / 2), y: tenth((h - height) / 2) };
		return { width, height, ...place, spacer_across: spacer, spacer_inset: spacer, ...typed };
	});
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
	<AskedNumbers {fields} values={numbers} onset={(key, v) => (typed = { ...typed, [key]: v })} />
	{#if layers}<p class="quiet">{word('build.spacers-hold-it-off')}</p>{/if}
</ActionForm>
