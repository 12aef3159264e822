<!-- What is said about a stock: what it is made of, its surface, its film, its colour, how it gives. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { day } from '../../lib/units/units';
	import HazardNote from './HazardNote.svelte';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	const family = $derived(rack.rack!.families.find((f) => f.id === stock.value.family)!);
	let problem = $state('');
	let data = $state('');
	let removing = $state(false);
	const id = $props.id();
	type Swatch = 'lab' | 'lab_finished';

	async function put(body: Record<string, unknown>) {
		await attempt(rack.changeStock(body));
	}
	async function attempt(work: Promise<unknown>) {
		problem = '';
		try {
			await work;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const text = (field: string) => (e: Event) => put({ [field]: (e.currentTarget as HTMLInputElement).value });
	function swatch(field: Swatch, index: number, value: number) {
		const now = [...(stock[field] ?? [60, 0, 0])];
		now[index] = value;
		return put({ [field]: now });
	}
</script>

{#snippet line(field: 'batch' | 'shelf' | 'warp' | 'finish', name: string, hint: string)}
	<label for="{id}{field}">{name}<input id="{id}{field}" placeholder={hint} value={stock[field]} onchange={text(field)} /></label>
{/snippet}
{#snippet lab(field: Swatch, name: string)}
	<div class="lab" role="group" aria-label={name}>
		<span>{name}</span>
		{#each ['L', 'a', 'b'] as axis, i (axis)}
			<NumberField
				label={axis}
				kind="number"
				suffix=""
				value={stock[field]?.[i] ?? null}
				placeholder="–"
				oncommit={(v) => swatch(field, i, v)}
			/>
		{/each}
	</div>
{/snippet}

<section aria-label={word('sheets.about-this-stock')}>
	<label for="{id}name">{word('sheets.name')}<input id="{id}name" maxlength="80" value={stock.value.name} onchange={text('name')} /></label>
	<label for="{id}sub"
		>{word('sheets.made-of')}
		<select id="{id}sub" value={stock.substance.id} onchange={text('substance')}>
			{#each family.substances as s (s.id)}<option value={s.id}>{s.label}</option>{/each}
		</select></label
	>
	<HazardNote substance={stock.substance} name={stock.value.name} />
	{#if stock.substance.verdict === 'needs_data'}
		{#if stock.confirmed_on}
			<p>
				{word('sheets.has-its-makers-data', {
					confirmedby: stock.confirmed_by,
					confirmedon: day(stock.confirmed_on),
					confirmeddata: stock.confirmed_data
				})}
				<button class="underline" onclick={() => attempt(rack.confirmData(''))}>{word('sheets.take-it-back')}</button>
			</p>
		{:else}
			<label for="{id}data">{word('sheets.which-data-sheet-and-what-it')}<input id="{id}data" maxlength="200" bind:value={data} /></label>
			<button class="btn" disabled={!data.trim()} onclick={() => attempt(rack.confirmData(data))}
				>{word('sheets.i-have-read-it', { username: session.me?.username })}</button
			>
		{/if}
	{/if}
	{#if family.looks.length}
		<label for="{id}look"
			>{word('sheets.look')}
			<select id="{id}look" value={stock.look} onchange={text('look')}>
				<option value="">{word('sheets.not-said')}</option>
				{#each family.looks as l (l)}<option value={l}>{l}</option>{/each}
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
	{#if family.soft}
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
	{@render lab('lab', word('sheets.swatch-bare'))}
	{@render lab('lab_finished', word('sheets.swatch-finished'))}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	{#if removing}
		<p>{word('sheets.take-it-off-the-rack-with')}</p>
		<button class="btn" onclick={() => attempt(rack.removeStock())}>{word('sheets.yes-take-it-off')}</button>
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
	.lab {
		display: grid;
		grid-template-columns: 1fr 1fr 1fr;
		gap: 4px;
	}
	.lab span {
		grid-column: 1 / -1;
	}
	.lab :global(.field) {
		grid-template-columns: auto 1fr;
	}
</style>
