<!-- What can be changed of one thing on a panel: its name and numbers, what stands in it, and making more of it. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { Feature, FeatureType, RackRow, Values } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumbersForm from '../../lib/ui/NumbersForm.svelte';
	import { word } from '../../words/words';
	import ArtworkLayers from './ArtworkLayers.svelte';
	import { inRow, isPieces, mirroredFeature } from './features';
	import { freshName } from './moves';
	import RowOf from './RowOf.svelte';
	import StockChoice from './StockChoice.svelte';

	let {
		feature: f,
		type,
		mates,
		ids,
		change,
		rework,
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
		/** change it from what it is by then */
		rework: (how: (now: Feature) => object, words: string) => Promise<void>;
		/** further ones are made from it */
		onmore: (more: Feature[], how: string) => void;
		onproblem: (message: string) => void;
	} = $props();
	const STEP = 10; // [mm] from a feature to its duplicate
	let rowing = $state(false);
	let stocks = $state.raw<RackRow[]>([]);
	need(api.GET('/api/rack'))
		.then((r) => (stocks = r.stocks))
		.catch((e: Error) => onproblem(e.message));
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
{#if f.kind === 'text' && isPieces(f.burned)}<StockChoice
		label={word('build.pieces-are-cut-from')}
		{stocks}
		value={f.stock ?? ''}
		none={word('build.the-panels-own')}
		onchoose={(stock) => void quietly(change('stock', stock, word('build.stock-of-its-pieces')))}
	/>{/if}
<div class="again">
	<button class="btn" onclick={() => onmore(inRow(f, 1, STEP, STEP, ids), 'duplicated')}>{word('build.duplicate')}</button>
	<button class="btn" aria-expanded={rowing} onclick={() => (rowing = !rowing)}>{word('build.in-a-row')}</button>
	<button class="btn" onclick={() => onmore([mirroredFeature(f, freshName(f.kind, ids))], 'mirrored')}>{word('build.mirror')}</button>
</div>
{#if rowing}<RowOf onmake={(more, dx, dy) => make(inRow(f, more, dx, dy, ids))} />{/if}
{#if f.kind === 'socket' || (f.kind === 'recess' && f.shape === 'panel')}<label class="called"
		>{f.kind === 'socket' ? word('build.what-stands-in-it') : word('build.what-lies-in-it')}
		<select
			class="select"
			value={f.mate ?? ''}
			onchange={(e) =>
				void quietly(
					change(
						'mate',
						e.currentTarget.value,
						word('build.made-for', { kind: type.label, text: e.currentTarget.selectedOptions[0]!.text })
					)
				)}
		>
			<option value="">{f.kind === 'socket' ? word('build.a-loose-sheet-of-its-own') : word('build.nothing-yet')}</option>
			{#each mates as m (m.id)}<option value={m.id}>{m.label}</option>{/each}
		</select></label
	>{/if}
{#if f.kind === 'artwork'}<ArtworkLayers
		feature={f}
		{stocks}
		onchange={(how, words) => void quietly(rework(how as (now: Feature) => object, words))}
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
