<!-- What the beam does with each layer of a drawing on a panel. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { DrawingOut, Feature, RackRow } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';
	import { isPieces } from './features';
	import { shareOf } from './proportions';
	import StockChoice from './StockChoice.svelte';
	import { word } from '../../words/words';

	type Artwork = Extract<Feature, { kind: 'artwork' }>;
	let {
		feature,
		stocks,
		onchange,
		onwidth
	}: {
		feature: Artwork;
		/** of the rack */
		stocks: readonly RackRow[];
		onchange: (how: (now: Artwork) => Partial<Artwork>, words: string) => void;
		onwidth: (mm: number, words: string) => Promise<void> | void;
	} = $props();
	const work = useProject();
	const id = $props.id();
	let drawings = $state.raw<DrawingOut[]>([]);
	let problem = $state('');
	need(api.GET('/api/projects/{project_id}/drawings', { params: { path: { project_id: work.id } } }))
		.then((all) => (drawings = all))
		.catch((e: Error) => (problem = e.message));
	const mine = $derived(drawings.find((d) => d.id === feature.drawing));
	const pairs = $derived((feature.layers ?? []) as unknown as [string, string | null][]);
	const burned = (layer: string) => {
		const found = pairs.find(([name]) => name === layer);
		return found ? (found[1] ?? '') : 'engrave';
	};
	const stockOf = (layer: string) => (feature.stocks ?? []).find((s) => s.layer === layer)?.stock ?? '';
	function cutFrom(layer: string, stock: string) {
		const others = (now: Artwork) => (now.stocks ?? []).filter((s) => s.layer !== layer);
		onchange(
			(now) => ({ stocks: [...others(now), ...(stock ? [{ layer, stock }] : [])] }),
			`${layer}: ${word('build.stock-of-its-pieces')}`
		);
	}
	function choose(layer: string, how: string) {
		const others = (now: Artwork) => ((now.layers ?? []) as unknown as [string, string | null][]).filter(([name]) => name !== layer);
		onchange(
			(now) => ({ layers: [...others(now), [layer, how || null]] as unknown as Artwork['layers'] }),
			`${layer}: ${how || word('build.left-out')}`
		);
	}
</script>

{#if shareOf(mine)}<NumberField
		label={word('build.or-height')}
		unit={session.unit}
		value={feature.width! * shareOf(mine)}
		oncommit={(mm) => onwidth(mm / shareOf(mine), word('build.height', { mm: show(mm, session.unit) }))}
	/>{/if}
{#each mine?.layers ?? [] as layer (layer.name)}
	<div class="layer">
		<label for="{id}{layer.name}"
			><span class="swatch" style:background={layer.name}></span>{layer.name}
			<small class="quiet">{layer.lines}{layer.open ? `, ${word('build.open', { open: layer.open })}` : ''}</small></label
		>
		<select id="{id}{layer.name}" class="select" value={burned(layer.name)} onchange={(e) => choose(layer.name, e.currentTarget.value)}>
			<option value="engrave">{word('build.engraved')}</option>
			<option value="score">{word('build.scored')}</option>
			<option value="cut">{word('build.cut-out')}</option>
			<option value="inlaid">{word('build.pieces-set-through')}</option>
			<option value="pocket">{word('build.pieces-in-a-pocket')}</option>
			<option value="glued">{word('build.pieces-glued-on')}</option>
			<option value="">{word('build.left-out')}</option>
		</select>
	</div>
	{#if isPieces(burned(layer.name))}<StockChoice
			label={word('build.pieces-are-cut-from')}
			{stocks}
			value={stockOf(layer.name)}
			none={word('build.the-panels-own')}
			onchoose={(stock) => cutFrom(layer.name, stock)}
		/>{/if}
{/each}
{#if problem}<p class="quiet" role="alert">{problem}</p>{/if}

<style>
	.layer {
		display: grid;
		grid-template-columns: 1fr 118px;
		align-items: center;
		gap: 8px;
		padding: 2px 0;
	}
	label {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.swatch {
		display: inline-block;
		width: 10px;
		height: 10px;
		border: 1px solid var(--rule);
		margin-right: 6px;
	}
</style>
