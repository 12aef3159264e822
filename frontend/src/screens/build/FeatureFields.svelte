<!-- What can be changed of one thing on a panel: its name and numbers, what stands in it, and making more of it. -->
<script lang="ts">
	import type { Feature, FeatureType, Values } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumbersForm from '../../lib/ui/NumbersForm.svelte';
	import { word } from '../../words/words';
	import ArtworkLayers from './ArtworkLayers.svelte';
	import { inRow, mirroredFeature } from './features';
	import { freshName } from './moves';
	import RowOf from './RowOf.svelte';

	let {
		feature: f,
		type,
		mates,
		ids,
		change,
		onmore,
		onproblem
	}: {
		feature: Feature;
		type: FeatureType;
		/** panels that may stand in it */
		mates: readonly { id: string; label: string }[];
		/** of all features */
		ids: Set<string>;
		change: (name: string, value: number | string, words: string) => Promise<void>;
		/** further ones are made from it */
		onmore: (more: Feature[], how: string) => void;
		onproblem: (message: string) => void;
	} = $props();
	const STEP = 10; // [mm] from a feature to its duplicate
	let rowing = $state(false);
	/** A field says itself what is wrong with it; a choice or a name has no place for that. */
	const quietly = (saved: Promise<unknown>) => saved.catch((e: Error) => onproblem(e.message));
	function make(more: Feature[]) {
		rowing = false;
		onmore(more, word('build.in-a-row-2'));
	}
</script>

<label class="called"
	>{word('build.name')}
	<input
		class="input"
		maxlength="60"
		placeholder={type.label}
		value={f.name ?? ''}
		onchange={(e) => void quietly(change('name', e.currentTarget.value.trim(), e.currentTarget.value.trim() || word('build.usual-name')))}
	/></label
>
<NumbersForm
	numbers={type.numbers}
	values={f as unknown as Values}
	unit={session.unit}
	plain={type.numbers.slice(0, 1).map((n) => n.group)}
	onchange={(name, value, words) => change(name, value, words)}
/>
<div class="again">
	<button class="btn" onclick={() => onmore(inRow(f, 1, STEP, STEP, ids), 'duplicated')}>{word('build.duplicate')}</button>
	<button class="btn" aria-expanded={rowing} onclick={() => (rowing = !rowing)}>{word('build.in-a-row')}</button>
	<button class="btn" onclick={() => onmore([mirroredFeature(f, freshName(f.kind, ids))], 'mirrored')}>{word('build.mirror')}</button>
</div>
{#if rowing}<RowOf onmake={(more, dx, dy) => make(inRow(f, more, dx, dy, ids))} />{/if}
{#if f.kind === 'socket'}<label class="called"
		>{word('build.what-stands-in-it')}
		<select
			class="select"
			value={f.mate ?? ''}
			onchange={(e) =>
				void quietly(change('mate', e.currentTarget.value, word('build.a-socket-for', { text: e.currentTarget.selectedOptions[0]!.text })))}
		>
			<option value="">{word('build.a-loose-sheet-of-its-own')}</option>
			{#each mates as m (m.id)}<option value={m.id}>{m.label}</option>{/each}
		</select></label
	>{/if}
{#if f.kind === 'artwork'}<ArtworkLayers
		feature={f}
		onchange={(layers, words) => void quietly(change('layers', layers as never, words))}
		onwidth={(mm, words) => change('width', mm, words)}
	/>{/if}

<style>
	.called {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 8px;
		align-items: center;
		font-size: 13px;
	}
	.again {
		display: flex;
		gap: 6px;
		margin: 6px 0;
	}
</style>
