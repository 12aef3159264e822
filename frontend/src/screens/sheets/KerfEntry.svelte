<!-- A kerf test by its kind: what was drawn, what the caliper says. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import { showKerf } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';
	import { KERF_TESTS } from '../../lib/ui/kerftests';
	import { word } from '../../words/words';

	let { rack, ondone }: { rack: RackState; ondone: () => void } = $props();
	let kind = $state<'strips' | 'gap' | 'peg'>('strips');
	let count = $state(10);
	let drawn = $state(10);
	let measured = $state<number | null>(null);
	let below = $state<number | null>(null);
	let problem = $state('');
	const one = (m: number) => (kind === 'strips' ? (count * drawn - m) / count : kind === 'gap' ? m - drawn : drawn - m);
	const kerf = $derived(measured === null ? null : below === null ? one(measured) : (one(measured) + one(below)) / 2);
	const words = {
		strips: word('sheets.cut-on-the-line-stack-the'),
		gap: word('sheets.cut-a-slot-on-the-line'),
		peg: word('sheets.cut-a-peg-on-the-line')
	};

	async function keep(event: Event) {
		if (!(await settled(event))) return;
		problem = '';
		if (measured === null) {
			problem = word('sheets.type-what-the-caliper-says-first');
			return;
		}
		try {
			const body = { kind, drawn_mm: drawn, measured_mm: measured, below_mm: kind === 'strips' ? null : below };
			await rack.testKerf({ ...body, count: kind === 'strips' ? count : 1 });
			ondone();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<section aria-label={word('sheets.kerf-test')}>
	<Choice
		label={word('sheets.kind-of-test')}
		options={KERF_TESTS}
		value={kind}
		onchoose={(v) => ((kind = v), (drawn = v === 'strips' ? 10 : 5), ([measured, below] = [null, null]))}
	/>
	<p class="quiet mt-1">{words[kind]}</p>
	{#if kind === 'strips'}<NumberField label={word('sheets.strips-2')} kind="count" value={count} oncommit={(n) => void (count = n)} />{/if}
	<NumberField
		label={kind === 'strips' ? word('sheets.each-drawn') : word('sheets.drawn')}
		value={drawn}
		unit={session.unit}
		fine
		oncommit={(mm) => void (drawn = mm)}
	/>
	<NumberField
		label={kind === 'strips' ? word('sheets.the-stack-measures') : word('sheets.it-measures')}
		value={measured}
		unit={session.unit}
		fine
		oncommit={(mm) => void (measured = mm)}
	/>
	{#if kind !== 'strips'}
		<NumberField
			label={word('sheets.on-the-far-face-if-measured')}
			value={below}
			unit={session.unit}
			fine
			placeholder={word('sheets.same')}
			oncommit={(mm) => void (below = mm)}
		/>
	{/if}
	<!-- its line is there from the start: the button must not move away from under the pointer -->
	<p>
		{#if kerf === null}&nbsp;{:else}{word('sheets.this-shows-a-kerf-of')} <b class="fig">{showKerf(kerf, session.unit)}</b>.{/if}
	</p>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<button class="btn main" onclick={keep}>{word('sheets.keep-this-test')}</button>
</section>

<style>
	section {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 10px;
		margin-top: 10px;
	}
</style>
