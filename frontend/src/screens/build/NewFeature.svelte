<!-- One more thing on a panel: of a kind, or from a file. -->
<script lang="ts">
	import type { Design, DrawingOut, Feature, FeatureType } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { word } from '../../words/words';
	import DrawingImport from './DrawingImport.svelte';
	import { fitting, freePlace } from './features';
	import { freshName } from './moves';

	let {
		panel,
		label,
		size,
		types,
		mine,
		all,
		onmade,
		onproblem
	}: {
		panel: string;
		label: string;
		/** of the panel [mm] */
		size: { w: number; h: number };
		types: readonly FeatureType[];
		/** what is on the panel */
		mine: Feature[];
		/** what is on any */
		all: readonly Feature[];
		onmade: (feature: string) => void;
		onproblem: (message: string) => void;
	} = $props();
	const work = useProject();
	let importing = $state<'' | 'artwork' | 'picture'>('');
	const put = (made: Feature, words: string) =>
		work.save((d) => ({ ...d, features: [...(d.features ?? []), made] as Design['features'] }), words);

	async function addDrawing(drawing: DrawingOut, width: number) {
		const type = types.find((t) => t.id === importing)!;
		const id = freshName(type.id, new Set(all.map((f) => f.id)));
		const layers = importing === 'artwork' ? { layers: drawing.layers.map((l) => [l.name, l.open ? 'score' : 'engrave']) } : {};
		const made = { ...type.defaults, id, panel, drawing: drawing.id, width, ...layers } as unknown as Feature;
		await put(made, word('build.on', { name: drawing.name, label }));
		importing = '';
		onmade(id);
	}
	async function add(kind: string) {
		importing = kind === 'artwork' || kind === 'picture' ? kind : '';
		if (importing) return;
		const type = types.find((t) => t.id === kind);
		if (!type) return;
		const id = freshName(kind, new Set(all.map((f) => f.id)));
		// A ruler counts in what its maker reads: sixteenths, a number at each inch.
		const inches = kind === 'scale' && session.unit !== 'mm' ? { unit: 'inch', step: 25.4 / 16, numbers: 16, run: 101.6 } : {};
		const usual = { ...type.defaults, ...inches };
		const fit = { ...usual, ...fitting(kind, usual, size) };
		const made = { ...fit, ...freePlace({ ...fit, kind }, mine, size), id, panel } as unknown as Feature;
		await put(made, word('build.on-2', { label: type.label, label2: label })).then(
			() => onmade(id),
			(e: Error) => onproblem(e.message)
		);
	}
</script>

<select
	class="select"
	aria-label={word('build.add-to', { label })}
	value=""
	onchange={(e) => {
		const kind = e.currentTarget.value;
		e.currentTarget.value = ''; // ready for the next one
		void add(kind);
	}}
>
	<option value="">{word('build.add-a-hole-text-drawing')}</option>
	{#each types as t (t.id)}<option value={t.id}>{t.label}</option>{/each}
</select>
{#if importing}{#key importing}<DrawingImport
			use={word('build.put-it-on-the-panel')}
			picture={importing === 'picture'}
			ontake={addDrawing}
		/>{/key}{/if}
