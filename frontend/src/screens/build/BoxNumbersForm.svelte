<!-- The box's few numbers, beside a sketch that lights up the one being changed. -->
<script lang="ts">
	import { api, need, Problem } from '../../api/client';
	import type { Numbers, RackRow } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show, unitName } from '../../lib/units/units';
	import BoxSketch from './BoxSketch.svelte';
	import type { BuildState } from './build.svelte';

	let { build }: { build: BuildState } = $props();
	const work = useProject();
	const design = $derived(work.project!.design);
	const n = $derived(design.numbers as Numbers);
	let lit = $state('');
	let problem = $state('');
	let stocks = $state<RackRow[]>([]);
	need(api.GET('/api/rack'))
		.then((r) => (stocks = r.stocks))
		.catch((e: Error) => (problem = e.message));

	const wrong = $derived(new Map((build.out?.findings ?? []).filter((f) => f.field).map((f) => [f.field!, f.message])));
	const FEW = 4;
	const general = $derived((build.out?.findings ?? []).filter((f) => !f.field));
	const sizes = [
		['width', 'Width'],
		['depth', 'Depth'],
		['height', 'Height']
	] as const;
	const roles = [
		['walls', 'Walls'],
		['base', 'Base'],
		['dividers', 'Dividers'],
		['lid', 'Lid']
	] as const;

	/** Choose a stock for one group of panels, or for all of them. */
	function choose(groups: readonly string[], name: string, stock: string) {
		const changes = Object.fromEntries(groups.map((g) => [g, stock]));
		const label = `${name} in ${stocks.find((s) => s.id === stock)?.name}`;
		return quietly(work.save((d) => ({ ...d, stocks: { ...d.stocks, ...changes } }), label));
	}
	const id = $props.id();
	const all = $derived(new Set(Object.values(design.stocks)).size === 1 ? (design.stocks.walls ?? '') : '');
	/** Save some numbers; the field shows what is wrong with its own. */
	async function put(changes: Partial<Numbers>, label: string) {
		await work.setNumbers(changes, label);
	}
	async function quietly(work: Promise<void>) {
		problem = '';
		try {
			await work;
		} catch (e) {
			problem = e instanceof Problem ? e.message : String(e);
		}
	}
	const other = $derived(build.out ? ((n.sizing === 'inside' ? build.out.outside_mm : build.out.inside_mm) ?? [0, 0, 0]) : [0, 0, 0]);
</script>

<h2>Box</h2>
<BoxSketch numbers={n} {lit} />
<Choice
	label="Sizes are"
	options={[
		{ value: 'outside', name: 'outside sizes' },
		{ value: 'inside', name: 'inside sizes' }
	]}
	value={n.sizing ?? 'outside'}
	onchoose={(v) => quietly(put({ sizing: v as Numbers['sizing'] }, `Sizes are ${v}`))}
/>
<div class="mt-2"></div>
{#each sizes as [key, name] (key)}
	<NumberField
		label={name}
		value={n[key] ?? 0}
		unit={session.unit}
		problem={wrong.get(key)}
		onfocus={() => (lit = key)}
		oncommit={(mm) => put({ [key]: mm }, `${name} ${show(mm, session.unit)}`)}
	/>
{/each}
<p class="quiet">
	{n.sizing === 'inside' ? 'Outside' : 'Clear inside'}
	<span class="fig">{other.map((v) => show(v, session.unit)).join(' × ')}</span>
	{unitName(session.unit)}
</p>

<h3>Compartments</h3>
<NumberField
	label="Columns, side by side"
	kind="count"
	value={n.columns ?? 1}
	problem={wrong.get('columns')}
	onfocus={() => (lit = 'columns')}
	oncommit={(v) => put({ columns: v }, `${v} columns`)}
/>
<NumberField
	label="Rows, front to back"
	kind="count"
	value={n.rows ?? 1}
	problem={wrong.get('rows')}
	onfocus={() => (lit = 'rows')}
	oncommit={(v) => put({ rows: v }, `${v} rows`)}
/>
<NumberField
	label="Dividers below the rim"
	value={n.divider_drop ?? 0}
	unit={session.unit}
	problem={wrong.get('divider_drop')}
	onfocus={() => (lit = 'divider_drop')}
	oncommit={(mm) => put({ divider_drop: mm }, `Dividers ${show(mm, session.unit)} below the rim`)}
/>

<h3>Top</h3>
<Choice
	label="Top"
	options={[
		{ value: 'open', name: 'open' },
		{ value: 'lift_off', name: 'lift-off lid' },
		{ value: 'fixed', name: 'fixed' }
	]}
	value={n.top ?? 'open'}
	onchoose={(v) => quietly(put({ top: v as Numbers['top'] }, `Top: ${v.replace('_', '-')}`))}
/>
{#if n.top !== 'open'}
	<NumberField
		label="Finger hole in the lid"
		value={n.lid_hole ?? 0}
		unit={session.unit}
		problem={wrong.get('lid_hole')}
		onfocus={() => (lit = 'lid_hole')}
		oncommit={(mm) => put({ lid_hole: mm }, `Lid hole ${show(mm, session.unit)}`)}
	/>
{/if}
<NumberField
	label="Thumb notch in the front"
	value={n.thumb_notch ?? 0}
	unit={session.unit}
	problem={wrong.get('thumb_notch')}
	onfocus={() => (lit = 'thumb_notch')}
	oncommit={(mm) => put({ thumb_notch: mm }, `Thumb notch ${show(mm, session.unit)}`)}
/>

<h3>Stock</h3>
{#snippet stockRow(key: string, name: string, value: string, put: (stock: string) => void)}
	<div class="stock">
		<label for="{id}{key}">{name}</label>
		<select id="{id}{key}" {value} onchange={(e) => put(e.currentTarget.value)}>
			{#if !value}<option value="" disabled>several stocks</option>{/if}
			{#each stocks as s (s.id)}<option value={s.id}
					>{s.name} · {show(s.thickness_mm, session.unit, true)}{s.verdict === 'forbidden' ? ' · must not be cut' : ''}</option
				>{/each}
		</select>
	</div>
{/snippet}
{@render stockRow('all', 'All panels', all, (v) =>
	choose(
		roles.map(([key]) => key),
		'Everything',
		v
	)
)}
{#each roles as [key, name] (key)}
	{@render stockRow(key, name, design.stocks[key] ?? '', (v) => choose([key], name, v))}
{/each}

<h3>How joints should feel</h3>
<Choice
	label="Feel of all joints"
	options={[
		{ value: 'slides', name: 'slides' },
		{ value: 'snug', name: 'snug' },
		{ value: 'mallet', name: 'mallet' }
	]}
	value={design.feel ?? 'snug'}
	onchoose={(v) => quietly(work.save((d) => ({ ...d, feel: v as typeof d.feel }), `All joints ${v}`))}
/>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
{#each general.slice(0, FEW) as f, i (i)}<div class="note" class:bad={f.severity === 'must'}>
		{f.message}
	</div>{/each}
{#if general.length > FEW}<p class="quiet">
		{general.length - FEW} more are listed on Dry fit.
	</p>{/if}

<style>
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
		margin: 12px 0 4px;
	}
	.stock {
		display: grid;
		grid-template-columns: 76px minmax(0, 1fr);
		align-items: center;
		padding: 2px 0;
	}
	select {
		width: 100%;
		border: 1px solid var(--rule);
		border-radius: 4px;
		background-color: var(--bench);
		color: var(--ink);
		padding: 4px 26px 4px 8px;
		font-size: 13px;
	}
</style>
