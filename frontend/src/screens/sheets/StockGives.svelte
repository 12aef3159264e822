<!-- What this stock gives to every later number on this machine, and how to know it better. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { intoView } from '../../lib/ui/intoview';
	import { show, unitName } from '../../lib/units/units';
	import BorrowEvidence from './BorrowEvidence.svelte';
	import HazardNote from './HazardNote.svelte';
	import KerfEntry from './KerfEntry.svelte';
	import SettingsEntry from './SettingsEntry.svelte';
	import ShelfEntry from './ShelfEntry.svelte';
	import StockDetails from './StockDetails.svelte';
	import StockFacts from './StockFacts.svelte';
	import TestCards from './TestCards.svelte';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	type Form = '' | 'cards' | 'kerf' | 'settings' | 'shelf' | 'details' | 'borrow';
	let open = $state<Form>('');
	let problem = $state('');
	const findings = $derived(
		(stock.value.findings ?? []).filter((f) => f.code !== 'thickness_guess' || !rack.advice.some((a) => a.action === 'reading'))
	);
	const toggle = (what: Form) => (open = open === what ? '' : what);
	/** Close a form that was kept, unless another has been opened meanwhile. */
	const close = (what: Form) => () => {
		if (open === what) open = '';
	};
	async function make(kind: string) {
		problem = '';
		try {
			await rack.makeCard(kind);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const FORMS: [Form, string][] = [
		['cards', word('sheets.test-cards')],
		['kerf', word('sheets.enter-a-kerf-test')],
		['settings', word('sheets.settings')],
		['shelf', word('sheets.shelf')],
		['details', word('sheets.about-it')],
		['borrow', word('sheets.borrow')]
	];
</script>

<aside class="side px-4 py-3">
	<h2>{word('sheets.what-this-stock-gives')}</h2>
	<label class="on"
		>{word('sheets.on')}
		<select aria-label={word('sheets.machine')} value={rack.machine?.id} onchange={(e) => rack.useMachine(e.currentTarget.value)}>
			{#each rack.rack!.machines as m (m.id)}<option value={m.id}>{m.name}</option>{/each}
		</select>
		{rack.machine?.lenses?.find((l) => l.id === rack.machine?.lens)?.name ?? ''}</label
	>
	{#if stock.value.hazard}<HazardNote substance={stock.substance} name={stock.value.name} />
		{#if stock.substance.verdict === 'needs_data'}<button class="btn" onclick={() => (open = 'details')}
				>{word('sheets.i-have-its-makers-data')}</button
			>{/if}
	{/if}
	<StockFacts {rack} {stock} />

	{#each findings as f, i (i)}<div class="note">{session.told(f.says)}</div>{/each}
	{#each rack.advice as a (a.action)}
		<div class="note advice">
			{session.told(a.why)}
			<b
				>{word('sheets.min', {
					what: session.told(a.what),
					minutes: a.minutes < 1 ? '1' : a.minutes.toFixed(0),
					sizemm: a.size_mm ? `, ${a.size_mm.map((v) => show(v, session.unit)).join(' × ')} ${unitName(session.unit)}` : ''
				})}</b
			>
			{#if a.action === 'reading'}<button class="underline" onclick={() => rack.focusReading()}>{word('sheets.type-them')}</button>
			{:else}<button class="underline" onclick={() => make(a.action)}>{word('sheets.make-one')}</button>{/if}
		</div>
	{/each}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

	<div class="mt-3 flex flex-wrap gap-2">
		{#each FORMS as [form, name] (form)}
			<button class="btn" class:main={form === 'cards'} aria-expanded={open === form} onclick={() => toggle(form)}>{name}</button>
		{/each}
	</div>
	<div {@attach intoView(open)}>
		{#if open === 'cards'}<TestCards {rack} {stock} />{/if}
		{#if open === 'kerf'}<KerfEntry {rack} ondone={close('kerf')} />{/if}
		{#if open === 'settings'}<SettingsEntry {rack} {stock} ondone={close('settings')} />{/if}
		{#if open === 'shelf'}<ShelfEntry {rack} {stock} />{/if}
		{#if open === 'details'}<StockDetails {rack} {stock} />{/if}
		{#if open === 'borrow'}<BorrowEvidence {rack} {stock} ondone={close('borrow')} />{/if}
	</div>

	<h3 class="quiet mt-4">{word('sheets.at-the-machine')}</h3>
	<p>{stock.caution}</p>
	{#if stock.film !== 'none'}<p class="quiet">
			{word('sheets.film-on-finish-and-solvents-only', {
				film: stock.film === 'both' ? word('sheets.both-faces') : word('sheets.the', { film: stock.film })
			})}
		</p>{/if}
	{#if stock.warp}<p class="quiet">{word('sheets.warp-weights-or-pins-outside-the', { warp: stock.warp })}</p>{/if}
	{#if stock.look === 'mirrored'}<p class="quiet">{word('sheets.mirrored-sheet-goes-face-down-the')}</p>{/if}
</aside>

<style>
	.on {
		color: var(--ink-2);
		font-size: 12px;
		display: block;
		margin-bottom: 2px;
	}
	.on select {
		border: 0;
		background-color: transparent;
		background-size: 11px;
		padding: 0 30px 0 2px;
		font-size: 12px;
		color: var(--ink);
		max-width: 170px;
		field-sizing: content;
	}
	.advice b {
		display: block;
		font-weight: 600;
	}
</style>
