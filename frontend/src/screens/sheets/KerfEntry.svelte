<!-- A kerf test by its kind: what was drawn, what the caliper says. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending';
	import { day, showKerf } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';

	let { rack, stock, ondone }: { rack: RackState; stock: StockOut; ondone: () => void } = $props();
	let kind = $state<'strips' | 'gap' | 'peg'>('strips');
	let count = $state(10);
	let drawn = $state(10);
	let measured = $state<number | null>(null);
	let problem = $state('');
	const kerf = $derived(
		measured === null ? null : kind === 'strips' ? (count * drawn - measured) / count : kind === 'gap' ? measured - drawn : drawn - measured
	);
	const words = {
		strips: 'Cut on the line, stack the strips, measure the stack.',
		gap: 'Cut a slot on the line, measure how wide it came out.',
		peg: 'Cut a peg on the line, measure how wide it came out.'
	};

	async function keep(event: Event) {
		if (!(await settled(event))) return;
		problem = '';
		if (measured === null) {
			problem = 'Type what the caliper says first.';
			return;
		}
		try {
			await rack.testKerf(kind, drawn, measured, kind === 'strips' ? count : 1);
			ondone();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<section aria-label="Kerf test">
	<Choice
		label="Kind of test"
		options={[
			{ value: 'strips', name: 'strips' },
			{ value: 'gap', name: 'gap' },
			{ value: 'peg', name: 'peg' }
		]}
		value={kind}
		onchoose={(v) => ((kind = v), (drawn = v === 'strips' ? 10 : 5), (measured = null))}
	/>
	<p class="quiet mt-1">{words[kind]}</p>
	{#if kind === 'strips'}<NumberField label="Strips" kind="count" value={count} oncommit={(n) => void (count = n)} />{/if}
	<NumberField
		label={kind === 'strips' ? 'Each drawn' : 'Drawn'}
		value={drawn}
		unit={session.unit}
		fine
		oncommit={(mm) => void (drawn = mm)}
	/>
	<NumberField
		label={kind === 'strips' ? 'The stack measures' : 'It measures'}
		value={measured}
		unit={session.unit}
		fine
		oncommit={(mm) => void (measured = mm)}
	/>
	{#if kerf !== null}<p>
			This shows a kerf of <b class="fig">{showKerf(kerf, session.unit)}</b>.
		</p>{/if}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<button class="btn main" onclick={keep}>Keep this test</button>
	{#if stock.kerf_tests.length}
		<ul class="mt-2">
			{#each stock.kerf_tests as k (k.id)}
				<li>
					<span>{k.kind}, {day(k.on)}</span><span class="fig">{showKerf(k.kerf_mm, session.unit)}</span><button
						class="quiet underline"
						onclick={() => rack.withdrawTest(k.id)}>withdraw</button
					>
				</li>
			{/each}
		</ul>
	{/if}
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
	}
	li {
		display: flex;
		gap: 10px;
		justify-content: space-between;
		padding: 2px 0;
	}
</style>
