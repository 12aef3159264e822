<!-- What a question needs to know: stocks, feel, and its numbers. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import { KERF_TESTS } from '../../lib/ui/kerftests';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';
	import type { Asking } from './ask.svelte';
	import { ASKED_FEELS } from '../../lib/ui/feels';
	import { word } from '../../words/words';

	let { ask }: { ask: Asking } = $props();
	const q = $derived(ask.q);
	const given = $derived(ask.given);
</script>

{#snippet pick(label: string, value: string, put: (v: string) => void)}
	<label class="stock"
		>{label}
		<select class="select" {value} onchange={(e) => put(e.currentTarget.value)}>
			{#each ask.rack?.stocks ?? [] as s (s.id)}<option value={s.id}
					>{s.name} · {show(s.thickness_mm, session.unit, true)}{s.guess ? ' ?' : ''}</option
				>{/each}
		</select></label
	>
{/snippet}
{#if q.sheet}{@render pick(q.sheet, ask.sheet, (v) => (ask.sheet = v))}{/if}
{#if q.mate}{@render pick(q.mate, ask.mate, (v) => (ask.mate = v))}{/if}
{#if q.feel}
	<Choice label={word('answers.how-it-should-feel')} options={ASKED_FEELS} value={ask.feel} onchoose={(v) => ask.chooseFeel(v)} />
	<NumberField
		label={word('answers.clearance')}
		value={given.clearance ?? ask.out?.results.find((r) => r.name === 'clearance')?.value ?? null}
		unit={session.unit}
		finest
		oncommit={(mm) => ask.put('clearance', mm)}
	/>
{/if}
{#if q.kind === 'kerf'}
	<Choice label={word('answers.kind-of-test')} options={KERF_TESTS} value={ask.test} onchoose={(v) => ask.chooseTest(v)} />
{/if}
{#if q.kind === 'scale'}
	<label class="stock"
		>{word('answers.common-scales')}
		<select class="select" value={String(given.n)} onchange={(e) => ask.put('n', Number(e.currentTarget.value))}>
			{#each ask.scales as s (s.n)}<option value={String(s.n)}>{s.name}</option>{/each}
			{#if !ask.scales.some((s) => s.n === given.n)}<option value={String(given.n)}>1:{given.n}</option>{/if}
		</select></label
	>
{/if}
{#key q.kind}
	{#each ask.fields as f (f.key)}
		<NumberField
			label={f.name}
			value={(given[f.key] as number | null | undefined) ?? f.usual ?? null}
			kind={f.as === 'count' ? 'count' : f.as === 'number' ? 'number' : 'length'}
			unit={session.unit}
			fine={f.as === 'fine'}
			finest={f.as === 'finest'}
			suffix={f.suffix}
			oncommit={(v) => ask.put(f.key, v)}
		/>
	{/each}
{/key}
{#if q.kind === 'pitch'}
	<Choice
		label={word('answers.gaps-at-the-ends')}
		options={[
			{ value: 'yes', name: word('answers.gaps-at-the-ends-2') },
			{ value: 'no', name: word('answers.none') }
		]}
		value={ask.ends}
		onchoose={(v) => (ask.ends = v)}
	/>
{/if}

<style>
	.stock {
		display: block;
		margin: 6px 0;
	}
</style>
