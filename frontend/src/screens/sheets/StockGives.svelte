<!-- What this stock gives to every later number, and how to know it better. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import FitBand from '../../lib/ui/FitBand.svelte';
	import { day, show, showKerf, signed } from '../../lib/units/units';
	import KerfEntry from './KerfEntry.svelte';
	import SettingsEntry from './SettingsEntry.svelte';
	import ShelfEntry from './ShelfEntry.svelte';
	import type { RackState } from './rack.svelte';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	let open = $state<'' | 'kerf' | 'settings' | 'shelf'>('');
	const t = $derived(stock.value.thickness);
	const k = $derived(stock.value.kerf);
	const guessK = $derived(k.terms[0]!.trust === 'default');
	const s = $derived(stock.settings);
	const untested = $derived((s.source ?? '').startsWith('default'));
	const toggle = (what: typeof open) => (open = open === what ? '' : what);
	/** Close a form that was kept, unless another has been opened meanwhile. */
	const close = (what: typeof open) => () => {
		if (open === what) open = '';
	};
</script>

{#snippet row(name: string, from: string, value: string, guess: boolean)}
	<div class="fact">
		<span>{name}<small>{from}</small></span><b class="fig" class:guess>{value}{guess ? ' ?' : ''}</b>
	</div>
{/snippet}

<aside class="side px-4 py-4">
	<h2>What this stock gives</h2>
	<p class="quiet mb-2">on {rack.rack!.machines[0]?.name ?? 'no machine yet'}</p>
	{@render row(
		'Thickness',
		`${t.terms[0]!.source}${t.terms[0]!.on ? ' · ' + day(t.terms[0]!.on) : ''}`,
		show(t.value, session.unit, true),
		t.terms[0]!.trust === 'default'
	)}
	{@render row('Kerf', `${k.terms[0]!.source} · ± ${showKerf(k.sd, session.unit)}`, showKerf(k.value, session.unit), guessK)}
	{@render row('Snug with itself', stock.fit_with_itself.source ?? '', signed(stock.snug_mm, session.unit), true)}
	<FitBand boundaries={stock.fit_with_itself} clearance={stock.snug_mm} sd={Math.hypot(t.sd, k.sd, 0.03)} height={7} />
	<div class="mb-1"></div>
	{@render row('Cut', `${s.cut_speed} mm/s · ${s.passes} pass${s.passes === 1 ? '' : 'es'} · ${s.source}`, `${s.cut_power} %`, untested)}
	{@render row('Score', `${s.score_speed} mm/s`, `${s.score_power} %`, untested)}

	{#each stock.value.findings ?? [] as f (f.code)}<div class="note">{f.message}</div>{/each}
	{#if guessK}<div class="note">The kerf is a guess. A strips test settles it: cut ten 10 mm strips, stack them, measure once.</div>{/if}

	<div class="mt-3 flex flex-wrap gap-2">
		<button class="btn" class:main={guessK} aria-expanded={open === 'kerf'} onclick={() => toggle('kerf')}>Enter a kerf test</button>
		<button class="btn" aria-expanded={open === 'settings'} onclick={() => toggle('settings')}>Settings</button>
		<button class="btn" aria-expanded={open === 'shelf'} onclick={() => toggle('shelf')}>Shelf</button>
	</div>
	{#if open === 'kerf'}<KerfEntry {rack} {stock} ondone={close('kerf')} />{/if}
	{#if open === 'settings'}<SettingsEntry {rack} {stock} ondone={close('settings')} />{/if}
	{#if open === 'shelf'}<ShelfEntry {rack} {stock} />{/if}

	<h3 class="quiet mt-4">At the machine</h3>
	<p>{stock.caution}</p>
</aside>

<style>
	.fact {
		display: flex;
		justify-content: space-between;
		gap: 8px;
		padding: 7px 0;
		border-bottom: 1px solid var(--rule);
	}
	.fact b {
		font-weight: 500;
		font-size: 15px;
		white-space: nowrap;
	}
	small {
		display: block;
		color: var(--ink-2);
		font-size: 11.5px;
	}
	.guess {
		color: #a45a00;
	}
	:global(.dark) .guess {
		color: #f0b45a;
	}
</style>
