<!-- How to pack, how it goes, and what came of it. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import Tick from '../../lib/ui/Tick.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import PackAnswer from './PackAnswer.svelte';
	import PackWork from './PackWork.svelte';
	import Supply from './Supply.svelte';
	import Tray from './Tray.svelte';
	import { wantedOf } from './tray';
	import UsedSheets from './UsedSheets.svelte';
	import WhichItem from './WhichItem.svelte';
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
	const needed = $derived(out.parts.reduce((n, p) => n + wantedOf(p, r), 0));
	const used = $derived([...new Set(out.parts.map((p) => p.stock))]);
	const spacing = (stock: string) => r.spacing?.[stock] ?? r.spacing_mm;
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
	/** From the layout that is there; with other chances, for the same ones would come to the same. */
	async function goOn(event: Event) {
		if (!(await settled(event))) return;
		r = { ...r, seed: (r.seed ?? 1) + 1 };
		await go(onpack({ ...r, go_on: true }));
	}
</script>

<aside class="side px-4 py-3">
	{#if out.nesting}
		<PackAnswer {out} nesting={out.nesting} {busy} ontake={(way) => void go(onway(way))} />
	{:else}
		<h2>{word('lay-out.parts-to-lay-out', { needed })}</h2>
	{/if}

	{#if busy}
		<PackWork {job} seconds={r.seconds} onstop={() => go(onstop())} />
	{:else if job?.state === 'failed'}<div class="note bad" role="alert">{session.told(job.says)}</div>{/if}

	<h3>{word('lay-out.how-to-pack')}</h3>
	<WhichItem {out} request={r} onchange={(only) => (r = { ...r, only })} />
	{#each r.common ? [] : used as stock (stock)}
		<NumberField
			label={used.length > 1 ? word('lay-out.between-parts', { name: out.stocks[stock]?.name ?? '' }) : word('lay-out.between-parts-2')}
			value={spacing(stock)}
			unit={session.unit}
			fine
			oncommit={(mm) => void (r = { ...r, spacing: { ...r.spacing, [stock]: mm } })}
		/>
	{/each}
	<NumberField
		label={word('lay-out.to-the-sheets-edge')}
		value={r.margin_mm}
		unit={session.unit}
		oncommit={(mm) => void (r.margin_mm = mm)}
	/>
	<NumberField label={word('lay-out.copies-of-everything')} kind="count" value={r.copies} oncommit={(n) => void (r.copies = n)} />
	<NumberField label={word('lay-out.time-to-try')} kind="number" suffix="s" value={r.seconds} oncommit={(n) => void (r.seconds = n)} />
	<Tick label={word('lay-out.keep-the-grain-half-turns-only')} checked={r.keep_grain} onchange={(on) => (r.keep_grain = on)} />
	<Tick
		label={word('lay-out.share-cuts-parts-one-beam-apart')}
		checked={r.common ?? false}
		disabled={!out.may_share}
		onchange={(on) => (r.common = on)}
	/>
	{#if !out.may_share}<p class="quiet">{word('lay-out.cuts-can-be-shared-only-while')}</p>
	{:else if r.common}<p class="quiet">
			{word('lay-out.straight-edges-are-cut-once-for')}
		</p>{/if}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<div class="mt-2 flex gap-2">
		<button class="btn main" disabled={busy} onclick={pack}
			>{out.nesting ? word('lay-out.pack-again') : word('lay-out.pack-the-parts')}</button
		>
		{#if out.nesting && out.fresh}<button class="btn" disabled={busy} onclick={goOn}>{word('lay-out.go-on-from-here')}</button>{/if}
	</div>

	<Tray {out} request={r} onchange={(changed) => (r = changed)} />
	<UsedSheets {out} {busy} {onswap} />
	<Supply {out} request={r} />
	<h3>{word('lay-out.on-the-shelf')}</h3>
	{#each out.shelf as s (s.id)}
		<div class="shelf">
			<span>{s.name}</span><span class="fig" class:none={s.count === 0}>{s.count}</span>
		</div>
	{/each}
	{#if !out.shelf.length}<div class="note">{word('lay-out.there-is-no-sheet-of-this')}</div>{/if}
</aside>

<style>
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
