<!-- How this stock is cut, scored and engraved, as tried here. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { OPERATIONS, type Operation } from '../../lib/ui/settings';
	import { settled } from '../../lib/ui/pending.svelte';
	import type { RackState } from './rack.svelte';

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

<section aria-label="Settings">
	{#if stock.flares}<div class="note bad">
			This stock flares: air on, lid shut, extinguisher at hand, and nobody leaves the machine.
		</div>{/if}
	{#if stock.film !== 'none'}<div class="note">
			Film on {stock.film === 'both' ? 'both faces' : `the ${stock.film}`}: it melts and may catch fire. Decide to leave it on or to take it
			off, and write it down at the run.
		</div>{/if}
	<Choice
		label="Operation"
		options={[
			{ value: 'cut', name: 'cut' },
			{ value: 'score', name: 'score' },
			{ value: 'engrave', name: 'engrave' }
		]}
		value={which}
		onchoose={(v) => (which = v)}
	/>
	<div class="mt-1"></div>
	{#key which}
		<NumberField label="Power" kind="number" suffix="%" value={beam.power} oncommit={set('power')} />
		<NumberField label="Speed" kind="speed" unit={session.unit} value={beam.speed} oncommit={set('speed')} />
		<NumberField label="Passes" kind="count" value={beam.passes ?? 1} oncommit={set('passes')} />
		<NumberField
			label="Pulses, 0 for the machine’s own"
			kind="pulses"
			unit={session.unit}
			value={beam.pulses ?? 0}
			oncommit={set('pulses')}
		/>
		<NumberField label="Focus above the face" value={beam.focus ?? 0} unit={session.unit} fine oncommit={set('focus')} />
		{#if which === 'engrave'}
			<NumberField label="Between rows" value={beam.interval ?? 0.1} unit={session.unit} finest oncommit={set('interval')} />
			<NumberField label="One pass engraves, 0 if not measured" value={beam.depth ?? 0} unit={session.unit} fine oncommit={set('depth')} />
		{/if}
		<label class="flex items-center gap-2 py-1"
			><input type="checkbox" checked={beam.air ?? true} onchange={(e) => change({ air: e.currentTarget.checked })} /> air assist</label
		>
	{/key}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<p class="quiet my-2">Try them on a scrap of this sheet before a whole job, lid shut and air on.</p>
	<button class="btn main" onclick={keep}>Keep {tried.join(' and ')} as tried here</button>
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
	}
</style>
