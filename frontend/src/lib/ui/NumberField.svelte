<!-- A field for a length (with units), a speed, a count or a plain number; all take sums. What makes no sense is said beside it and stays typed. -->
<script lang="ts">
	import { rateName, unitName, type Unit } from '../units/units';
	import { figureOf, numberOf, rateOf, type NumberKind } from './figures';
	import { Attempt } from './attempt.svelte';
	import { reading, track } from './pending.svelte';

	let {
		label,
		value,
		unit = 'mm',
		kind = 'length',
		suffix,
		problem = '',
		fine = false,
		finest = false,
		placeholder = '',
		keep = true,
		onfocus,
		oncommit
	}: {
		label: string;
		value: number | null;
		unit?: Unit;
		kind?: NumberKind;
		suffix?: string;
		problem?: string;
		/** hundredths, for widths of joints; `finest` thousandths, for kerf and clearance */
		fine?: boolean;
		finest?: boolean;
		placeholder?: string;
		/** false: the field empties after each value, ready for the next */
		keep?: boolean;
		onfocus?: () => void;
		oncommit: (value: number) => Promise<void> | void;
	} = $props();

	const id = $props.id();
	const rate = $derived(rateOf(kind));
	const shown = $derived(value === null ? '' : figureOf(value, { kind, unit, digits: finest ? 'finest' : fine ? 'fine' : 'plain' }));
	let text = $state<string | null>(null);
	const attempt = new Attempt();
	const told = $derived(attempt.problem || problem);

	const commit = () => track(keepTyped());
	async function keepTyped() {
		const typed = text?.trim();
		if (typed === undefined || attempt.busy || (!keep && !typed)) return;
		if (keep && typed === shown) return leave();
		await attempt.at(async () => {
			await oncommit(await reading(numberOf(typed, kind, unit)));
			text = keep ? null : '';
		});
	}
	function leave() {
		text = null;
		attempt.problem = '';
	}
	function key(event: KeyboardEvent) {
		if (event.key === 'Escape') leave();
		if (event.key !== 'Enter') return;
		event.preventDefault(); // in a form: first this number, then the next field
		void commit().then(() => attempt.problem || next(event.target as HTMLInputElement));
	}
	/** In a form Enter goes on to the next field or button. */
	function next(input: HTMLInputElement) {
		const all = [...(input.form?.elements ?? [])] as HTMLElement[];
		all[all.indexOf(input) + 1]?.focus();
	}
</script>

<div class="field" class:wrong={told}>
	<label for={id}>{label}</label>
	<span class="box">
		<input
			{id}
			class="fig"
			autocomplete="off"
			inputmode={kind === 'length' ? 'text' : 'decimal'}
			{placeholder}
			aria-invalid={!!told}
			aria-describedby={told ? `${id}-told` : undefined}
			value={text ?? shown}
			data-untouched={text === null || text === shown}
			oninput={(e) => (text = e.currentTarget.value)}
			onfocus={(e) => {
				e.currentTarget.select();
				onfocus?.();
			}}
			onblur={commit}
			onkeydown={key}
		/>
		<em>{suffix ?? (kind === 'length' ? unitName(unit) : rate ? rateName(rate, unit) : '')}</em>
	</span>
	{#if told}<p id="{id}-told" role="alert">{told}</p>{/if}
</div>

<style>
	.field {
		display: grid;
		grid-template-columns: 1fr 118px;
		align-items: center;
		gap: 2px 8px;
		padding: 3px 0;
	}
	.box {
		display: flex;
		align-items: baseline;
		border: 1px solid var(--rule);
		border-radius: 4px;
		background: var(--bench);
		padding-right: 7px;
	}
	.box:focus-within {
		border-color: #1d7f6c;
		box-shadow: 0 0 0 1px #1d7f6c;
	}
	input {
		width: 100%;
		min-width: 0;
		border: 0;
		background: none;
		text-align: right;
		padding: 4px 5px;
		font-size: 14px;
		outline: none;
		box-shadow: none;
		color: var(--ink);
	}
	em {
		font-style: normal;
		font-size: 11.5px;
		color: var(--ink-2);
		flex: none; /* a long unit keeps its room, the figure gives way */
		min-width: 20px;
	}
	.wrong .box {
		border-color: var(--bad);
	}
	p {
		grid-column: 1 / -1;
		color: #a3241b;
		font-size: 12px;
		margin: 0 0 4px;
	}
	:global(.dark) p {
		color: #ff9b92;
	}
</style>
