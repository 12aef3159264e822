<!-- What is said about a stock: what it is made of, its surface, its film, its colour, how it gives. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import HazardNote from './HazardNote.svelte';
	import MakersData from './MakersData.svelte';
	import type { RackState } from './rack.svelte';
	import SwatchField from './SwatchField.svelte';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	const material = $derived(rack.rack!.materials.find((f) => f.id === stock.value.material)!);
	const attempt = new Attempt();
	let removing = $state(false);
	const id = $props.id();

	const put = (body: Record<string, unknown>) => attempt.at(() => rack.changeStock(body));
	const text = (field: string) => (e: Event) => put({ [field]: (e.currentTarget as HTMLInputElement).value });
</script>

{#snippet line(field: 'batch' | 'shelf' | 'warp' | 'finish', name: string, hint: string)}
	<label for="{id}{field}">{name}<input id="{id}{field}" placeholder={hint} value={stock[field]} onchange={text(field)} /></label>
{/snippet}

<section aria-label={word('sheets.about-this-stock')}>
	<label for="{id}name">{word('sheets.name')}<input id="{id}name" maxlength="80" value={stock.value.name} onchange={text('name')} /></label>
	<label for="{id}sub"
		>{word('sheets.made-of')}
		<select id="{id}sub" value={stock.substance.id} onchange={text('substance')}>
			{#each material.substances as s (s.id)}<option value={s.id}>{s.label}</option>{/each}
		</select></label
	>
	<HazardNote substance={stock.substance} name={stock.value.name} />
	{#if stock.substance.verdict === 'needs_data'}<MakersData {rack} {stock} />{/if}
	{#if Object.keys(material.looks).length}
		<label for="{id}look"
			>{word('sheets.look')}
			<select id="{id}look" value={stock.look} onchange={text('look')}>
				<option value="">{word('sheets.not-said')}</option>
				{#each Object.entries(material.looks) as [look, name] (look)}<option value={look}>{name}</option>{/each}
			</select></label
		>
	{/if}
	<label for="{id}film"
		>{word('sheets.film')}
		<select id="{id}film" value={stock.film} onchange={text('film')}>
			<option value="none">{word('sheets.none')}</option><option value="front">{word('sheets.on-the-front')}</option><option value="back"
				>{word('sheets.on-the-back')}</option
			><option value="both">{word('sheets.on-both-faces')}</option>
		</select></label
	>
	{#if material.soft}
		<NumberField
			label={word('sheets.gives-way-in-a-joint')}
			kind="number"
			suffix={word('sheets.of-1')}
			value={stock.crush}
			oncommit={(v) => rack.changeStock({ crush: v })}
		/>
	{/if}
	{@render line('batch', word('sheets.batch'), '')}
	{@render line('shelf', word('sheets.place-on-the-shelf'), '')}
	{@render line('warp', word('sheets.warp'), word('sheets.bows-long-edge-up', { size: session.length(4, 0) }))}
	{@render line('finish', word('sheets.finish'), word('sheets.oiled'))}
	<p class="quiet">{word('sheets.spray-finish-solvent-cement-and-heat')}</p>
	<label for="{id}col"
		>{word('sheets.colour-on-screen')}<input id="{id}col" type="color" value={stock.value.colour} onchange={text('colour')} /></label
	>
	<SwatchField label={word('sheets.swatch-bare')} lab={stock.lab} onchange={(lab) => put({ lab })} />
	<SwatchField label={word('sheets.swatch-finished')} lab={stock.lab_finished} onchange={(lab) => put({ lab_finished: lab })} />
	{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
	{#if removing}
		<p>{word('sheets.take-it-off-the-rack-with')}</p>
		<button class="btn" onclick={() => attempt.at(() => rack.removeStock())}>{word('sheets.yes-take-it-off')}</button>
		<button class="btn" onclick={() => (removing = false)}>{word('sheets.keep-it')}</button>
	{:else}<button class="btn" onclick={() => (removing = true)}>{word('sheets.take-it-off-the-rack')}</button>{/if}
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
		display: grid;
		gap: 5px;
	}
	input:not([type='color']),
	select {
		width: 100%;
		border: 1px solid var(--rule);
		border-radius: 4px;
		background-color: var(--bench);
		color: var(--ink);
		padding: 4px 7px;
		font-size: 13px;
	}
	input[type='color'] {
		width: 44px;
		height: 24px;
		margin-left: 10px;
		vertical-align: middle;
	}
</style>
