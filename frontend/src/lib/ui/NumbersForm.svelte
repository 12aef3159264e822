<!-- The fields of a family or a feature, as the core describes them; what counts only for another choice is left out. -->
<script lang="ts">
	import type { NumberAbout, Values } from '../../api/types';
	import { show, type Unit } from '../units/units';
	import Choice from './Choice.svelte';
	import NumberField from './NumberField.svelte';
	import { word } from '../../words/words';

	let {
		numbers,
		values,
		unit,
		wrong = new Map(),
		plain = [],
		follows = new Set(),
		onfocus,
		onchange
	}: {
		numbers: readonly NumberAbout[];
		values: Values;
		unit: Unit;
		/** what is wrong with a number, by name */
		wrong?: Map<string, string>;
		/** groups that need no heading */
		plain?: string[];
		/** names of the numbers that follow something else: they are shown, not typed */
		follows?: Set<string>;
		onfocus?: (name: string) => void;
		/** a new value, and the change in words */
		onchange: (name: string, value: number | string, words: string) => Promise<void> | void;
	} = $props();

	const id = $props.id();
	const FEW = 3;
	const counts = (n: NumberAbout) => {
		const [other, some] = (n.only ?? []) as unknown as [string, string[]];
		return !other || some.includes(String(values[other]));
	};
	const groups = $derived([...new Set(numbers.filter(counts).map((n) => n.group))]);
	const suffix = { angle: '°', percent: '%' } as Record<string, string>;
	const told = (n: NumberAbout, v: number) => `${n.label} ${n.kind === 'length' ? show(v, unit) : `${v}${suffix[n.kind] ?? ''}`}`;
	const named = (n: NumberAbout, value: string) => n.options.find((o) => o.value === value)?.label ?? value;
</script>

{#each groups as group (group)}
	{#if !plain.includes(group)}<h3>{group}</h3>{/if}
	{#each numbers.filter((n) => n.group === group && counts(n)) as n (n.name)}
		{#if n.kind === 'choice' && n.options.length <= FEW}
			{#if n.label !== group}<p class="quiet asks">{n.label}</p>{/if}
			<Choice
				label={n.label}
				options={n.options.map((o) => ({ value: o.value, name: o.label }))}
				value={String(values[n.name])}
				onchoose={(v) => void onchange(n.name, v, `${n.label}: ${named(n, v)}`)}
			/>
		{:else if n.kind === 'choice'}
			<div class="row">
				<label for="{id}{n.name}">{n.label}</label>
				<select
					id="{id}{n.name}"
					class="select"
					value={String(values[n.name])}
					onfocus={() => onfocus?.(n.name)}
					onchange={(e) => void onchange(n.name, e.currentTarget.value, `${n.label}: ${named(n, e.currentTarget.value)}`)}
				>
					{#each n.options as o (o.value)}<option value={o.value}>{o.label}</option>{/each}
				</select>
			</div>
		{:else if n.kind === 'text'}
			<div class="words">
				<label for="{id}{n.name}">{n.label}</label>
				<input
					id="{id}{n.name}"
					class="input"
					maxlength="200"
					aria-invalid={wrong.has(n.name)}
					value={String(values[n.name])}
					onfocus={() => onfocus?.(n.name)}
					onchange={(e) => void onchange(n.name, e.currentTarget.value, n.label)}
				/>
				{#if wrong.has(n.name)}<p role="alert">{wrong.get(n.name)}</p>{/if}
			</div>
		{:else if follows.has(n.name)}
			<p class="row follows">
				<span>{n.label}</span><span
					><span class="fig">{show(Number(values[n.name]), unit, true)}</span> {word('common.follows-its-room')}</span
				>
			</p>
		{:else}
			<NumberField
				label={n.label}
				kind={n.kind === 'length' ? 'length' : n.kind === 'count' ? 'count' : 'number'}
				suffix={suffix[n.kind]}
				{unit}
				value={n.none_at_zero && !values[n.name] ? null : Number(values[n.name])}
				placeholder={n.none_at_zero ? word('common.none') : ''}
				problem={wrong.get(n.name)}
				onfocus={() => onfocus?.(n.name)}
				oncommit={(v) => onchange(n.name, v, told(n, v))}
			/>
		{/if}
		{#if n.says}<p class="quiet says">{n.says}</p>{/if}
	{/each}
{/each}

<style>
	.row {
		display: grid;
		grid-template-columns: 1fr minmax(0, 150px);
		align-items: center;
		gap: 8px;
		padding: 3px 0;
	}
	.follows {
		color: var(--ink-2);
		grid-template-columns: 1fr auto;
	}
	.words {
		padding: 3px 0;
	}
	.asks {
		font-size: 12px;
		margin: 4px 0 2px;
	}
	.says {
		font-size: 11.5px;
		margin: -2px 0 2px;
	}
	p[role='alert'] {
		color: var(--bad);
		font-size: 12px;
	}
</style>
