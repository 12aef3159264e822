<!-- How to pack, how it goes, and what came of it. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { show } from '../../lib/units/units';
	import JobNote from '../../lib/ui/JobNote.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import Supply from './Supply.svelte';
	import Tray from './Tray.svelte';
	import { wantedOf } from './tray';
	import UsedSheets from './UsedSheets.svelte';
	import { word } from '../../words/words';

	let {
		out,
		busy,
		onpack,
		onway = async () => {},
		onswap = async () => {},
		onstop
	}: {
		out: LayoutOut;
		busy: boolean;
		onpack: (r: LayoutOut['request']) => Promise<void>;
		/** take another of the ways that were found */
		onway?: (name: string) => Promise<void>;
		/** lay the parts of a sheet on another */
		onswap?: (from: { sheet: string; copy: number }, to: { sheet: string; copy: number }) => Promise<void>;
		onstop: () => Promise<void>;
	} = $props();
	// svelte-ignore state_referenced_locally (the form starts from what was packed last)
	let r = $state({ ...out.request });
	let problem = $state('');
	const job = $derived(out.job);
	const trace = $derived((job?.progress.trace as [number, number][] | undefined) ?? []);
	const total = $derived(Number(job?.progress.seconds ?? r.seconds));
	const needed = $derived(out.parts.reduce((n, p) => n + wantedOf(p, r), 0));
	const used = $derived([...new Set(out.parts.map((p) => p.stock))]);
	const spacing = (stock: string) => r.spacing?.[stock] ?? r.spacing_mm;
	const placed = $derived(out.nesting?.sheets.reduce((n, s) => n + s.placements.length, 0) ?? 0);
	const labels = $derived(new Map(out.parts.map((p) => [p.id, p.label])));
	const path = $derived(
		trace.map(([t, u], i) => `${i ? 'L' : 'M'}${(t / Math.max(total, 0.1)) * 250} ${40 - u * 38}`).join('') + (trace.length ? 'H250' : '')
	);

	async function go(work: Promise<void>) {
		problem = '';
		try {
			await work;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	async function pack(event: Event) {
		if (await settled(event)) await go(onpack({ ...r, go_on: false }));
	}
	const FEW = 3;
	let opened = $state('');
	/** Parts without a place, by the reason. */
	const left = $derived.by(() => {
		const by = new Map<string, NonNullable<typeof out.nesting>['unplaced'][number][]>();
		for (const u of out.nesting?.unplaced ?? []) by.set(session.told(u.why), [...(by.get(session.told(u.why)) ?? []), u]);
		return [...by];
	});
	/** From the layout that is there; with other chances, for the same ones would come to the same. */
	async function goOn(event: Event) {
		if (!(await settled(event))) return;
		r = { ...r, seed: (r.seed ?? 1) + 1 };
		await go(onpack({ ...r, go_on: true }));
	}
</script>

<aside class="side px-4 py-3">
	{#if out.nesting}
		<h2>
			{word('layout.sheet', { sheets: out.nesting.sheets.length, utilisation: (out.nesting.utilisation * 100).toFixed(0) })}
		</h2>
		<p class="quiet">
			{word('layout.parts-placed-price', { placed, price: out.nesting.price.toFixed(2) })}
		</p>
		{#if out.items.length}
			<dl class="takes" aria-label={word('layout.each-item-takes')}>
				{#each out.items as i, n (n)}
					<dt>{i.label}</dt>
					<dd class="quiet">{word('layout.item-takes', { pieces: i.pieces, sheets: i.sheets.toFixed(2), price: i.price.toFixed(2) })}</dd>
				{/each}
			</dl>
		{/if}
		{#each left as [why, some] (why)}<div class="note bad">
				{#if some.length <= FEW || opened === why}
					{#each some as u, i (u.part)}{i ? ', ' : ''}<b>{u.count} × {labels.get(u.part) ?? u.part}</b>{/each}: {why}
				{:else}
					<b>{word('layout.parts', { reduce: some.reduce((sum, u) => sum + u.count, 0) })}</b>{word('layout.of-them', {
						some: some
							.slice(0, FEW)
							.map((u) => labels.get(u.part) ?? u.part)
							.join(', '),
						why
					})}
					<button class="btn" onclick={() => (opened = why)}>{word('layout.name-them-all')}</button>
				{/if}
			</div>{/each}
		{#each out.ways as w (w.name)}
			<div class="shelf">
				<span
					><b>{w.name}</b>{word('layout.sheet-2', {
						sheets: w.sheets,
						price: w.price.toFixed(2),
						utilisation: (w.utilisation * 100).toFixed(0)
					})}<br />
					<span class="quiet"
						>{word('layout.leaves-whole', { leftmm: show(w.left_mm[0]!, session.unit), leftmm2: show(w.left_mm[1]!, session.unit) })}</span
					></span
				>
				{#if w.taken}<span class="quiet">{word('layout.taken')}</span>
				{:else}<button class="btn" disabled={busy} onclick={() => go(onway(w.name))}>{word('layout.take-it')}</button>{/if}
			</div>
		{/each}
	{:else}
		<h2>{word('layout.parts-to-lay-out', { needed })}</h2>
	{/if}

	{#if busy}
		<JobNote
			{job}
			doing={trace.length
				? word('layout.best-so-far', { trace: ((trace[trace.length - 1]?.[1] ?? 0) * 100).toFixed(1) })
				: word('layout.packing')}
			stop={word('layout.stop-keep-the-best')}
			onstop={() => go(onstop())}
		>
			<svg class="trace" viewBox="0 0 250 44" aria-hidden="true"
				><path d="M0 43H250" stroke="var(--rule)" /><path d={path} fill="none" stroke="var(--good)" stroke-width="2" /></svg
			>
		</JobNote>
	{:else if job?.state === 'failed'}<div class="note bad" role="alert">{session.told(job.says)}</div>{/if}

	<h3>{word('layout.how-to-pack')}</h3>
	{#if Object.keys(r.only ?? {}).length}
		<div class="note">
			{word('layout.only-the-parts-that-were-missing', { only: Object.keys(r.only ?? {}).length })}
			<button class="btn" onclick={() => (r = { ...r, only: {} })}>{word('layout.pack-all-parts-again')}</button>
		</div>
	{/if}
	{#each r.common ? [] : used as stock (stock)}
		<NumberField
			label={used.length > 1 ? word('layout.between-parts', { name: out.stocks[stock]?.name ?? '' }) : word('layout.between-parts-2')}
			value={spacing(stock)}
			unit={session.unit}
			fine
			oncommit={(mm) => void (r = { ...r, spacing: { ...r.spacing, [stock]: mm } })}
		/>
	{/each}
	<NumberField
		label={word('layout.to-the-sheets-edge')}
		value={r.margin_mm}
		unit={session.unit}
		oncommit={(mm) => void (r.margin_mm = mm)}
	/>
	<NumberField label={word('layout.copies-of-everything')} kind="count" value={r.copies} oncommit={(n) => void (r.copies = n)} />
	<NumberField label={word('layout.time-to-try')} kind="number" suffix="s" value={r.seconds} oncommit={(n) => void (r.seconds = n)} />
	<label class="flex items-center gap-2 py-1"
		><input type="checkbox" bind:checked={r.keep_grain} /> {word('layout.keep-the-grain-half-turns-only')}</label
	>
	<label class="flex items-center gap-2 py-1"
		><input type="checkbox" disabled={!out.may_share} bind:checked={r.common} /> {word('layout.share-cuts-parts-one-beam-apart')}</label
	>
	{#if !out.may_share}<p class="quiet">{word('layout.cuts-can-be-shared-only-while')}</p>
	{:else if r.common}<p class="quiet">
			{word('layout.straight-edges-are-cut-once-for')}
		</p>{/if}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<div class="mt-2 flex gap-2">
		<button class="btn main" disabled={busy} onclick={pack}
			>{out.nesting ? word('layout.pack-again') : word('layout.pack-the-parts')}</button
		>
		{#if out.nesting && out.fresh}<button class="btn" disabled={busy} onclick={goOn}>{word('layout.go-on-from-here')}</button>{/if}
	</div>

	<Tray {out} request={r} onchange={(changed) => (r = changed)} />
	<UsedSheets {out} {busy} {onswap} />
	<Supply {out} request={r} />
	<h3>{word('layout.on-the-shelf')}</h3>
	{#each out.shelf as s (s.id)}
		<div class="shelf">
			<span>{s.name}</span><span class="fig" class:none={s.count === 0}>{s.count}</span>
		</div>
	{/each}
	{#if !out.shelf.length}<div class="note">{word('layout.there-is-no-sheet-of-this')}</div>{/if}
</aside>

<style>
	.trace {
		display: block;
		margin: 6px 0;
	}
	.takes {
		display: grid;
		grid-template-columns: minmax(0, 1fr) auto;
		gap: 2px 8px;
		margin: 4px 0 8px;
	}
	.shelf {
		display: flex;
		justify-content: space-between;
		padding: 4px 0;
		border-bottom: 1px solid var(--rule);
	}
	.none {
		color: var(--bad);
	}
</style>
