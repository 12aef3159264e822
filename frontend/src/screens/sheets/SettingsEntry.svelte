<!-- How this stock is cut, scored and engraved, as tried here. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { OPERATIONS, type Operation } from '../../lib/ui/settings';
	import { settled } from '../../lib/ui/pending.svelte';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stock, ondone }: { rack: RackState; stock: StockOut; ondone: () => void } = $props();
	// svelte-ignore state_referenced_locally (a fresh form each time it opens)
	let s = $state($state.snapshot(stock.settings) as StockOut['settings']);
	let which = $state<Operation>('cut');
	let touched = $state<Operation[]>([]);
	/** What was not touched has not been tried: as they stand, only the settings that are shown are kept. */
	const tried = $derived(touched.length ? OPERATIONS.filter((o) => touched.includes(o)) : [which]);
	let problem = $state('');
	const beam = $derived(s[which]);
	/** A depth was measured with the settings as they were; only the passes may change under it. */
	const set = (field: string) => (v: number) => change({ ...(field === 'passes' ? {} : { depth: 0 }), [field]: v });
	function change(values: Partial<StockOut['settings']['cut']>) {
		s = { ...s, [which]: { ...s[which], ...values } };
		if (!touched.includes(which)) touched = [...touched, which];
	}

	async function keep(event: Event) {
		if (!(await settled(event))) return;
		problem = '';
		try {
			await rack.keepSettings(s, tried);
			ondone();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<section aria-label={word('sheets.settings')}>
	{#if stock.flares}<div class="note bad">
			{word('sheets.this-stock-flares-air-on-lid')}
		</div>{/if}
	{#if stock.film !== 'none'}<div class="note">
			{word('sheets.film-on-it-melts-and-may', {
				film: stock.film === 'both' ? word('sheets.both-faces') : word('sheets.the', { film: stock.film })
			})}
		</div>{/if}
	<Choice
		label={word('sheets.operation')}
		options={[
			{ value: 'cut', name: word('sheets.cut') },
			{ value: 'score', name: word('sheets.score-2') },
			{ value: 'engrave', name: word('sheets.engrave-2') }
		]}
		value={which}
		onchoose={(v) => (which = v)}
	/>
	<div class="mt-1"></div>
	{#key which}
		<NumberField label={word('sheets.power')} kind="number" suffix="%" value={beam.power} oncommit={set('power')} />
		<NumberField label={word('sheets.speed')} kind="speed" unit={session.unit} value={beam.speed} oncommit={set('speed')} />
		<NumberField label={word('sheets.passes')} kind="count" value={beam.passes ?? 1} oncommit={set('passes')} />
		<NumberField
			label={word('sheets.pulses-0-for-the-machines-own')}
			kind="pulses"
			unit={session.unit}
			value={beam.pulses ?? 0}
			oncommit={set('pulses')}
		/>
		<NumberField label={word('sheets.focus-above-the-face')} value={beam.focus ?? 0} unit={session.unit} fine oncommit={set('focus')} />
		{#if which === 'engrave'}
			<NumberField label={word('sheets.between-rows')} value={beam.interval ?? 0.1} unit={session.unit} finest oncommit={set('interval')} />
			<NumberField
				label={word('sheets.one-pass-engraves-0-if-not')}
				value={beam.depth ?? 0}
				unit={session.unit}
				fine
				oncommit={set('depth')}
			/>
		{/if}
		<label class="flex items-center gap-2 py-1"
			><input type="checkbox" checked={beam.air ?? true} onchange={(e) => change({ air: e.currentTarget.checked })} />
			{word('sheets.air-assist')}</label
		>
	{/key}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<p class="quiet my-2">{word('sheets.try-them-on-a-scrap-of')}</p>
	<button class="btn main" onclick={keep}>{word('sheets.keep-as-tried-here', { tried: tried.join(' and ') })}</button>
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
	}
</style>
