<!-- What this stock gives to every later number on this machine, and how to know it better. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { sourceOf, untested } from '../../lib/ui/settings';
	import FitBand from '../../lib/ui/FitBand.svelte';
	import { intoView } from '../../lib/ui/intoview';
	import { day, show, showKerf, signed, speed, unitName } from '../../lib/units/units';
	import BorrowEvidence from './BorrowEvidence.svelte';
	import HazardNote from './HazardNote.svelte';
	import KerfEntry from './KerfEntry.svelte';
	import SettingsEntry from './SettingsEntry.svelte';
	import ShelfEntry from './ShelfEntry.svelte';
	import StockDetails from './StockDetails.svelte';
	import TestCards from './TestCards.svelte';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	type Form = '' | 'cards' | 'kerf' | 'settings' | 'shelf' | 'details' | 'borrow';
	let open = $state<Form>('');
	let problem = $state('');
	const t = $derived(stock.value.thickness);
	const k = $derived(stock.value.kerf);
	const guessK = $derived(k.terms[0]!.trust === 'default');
	const s = $derived(stock.settings);
	const findings = $derived(
		(stock.value.findings ?? []).filter((f) => f.code !== 'thickness_guess' || !rack.advice.some((a) => a.action === 'reading'))
	);
	const depth = $derived(rack.cards.find((c) => c.depth)?.depth);
	const legible = $derived(rack.cards.find((c) => c.least_text_mm !== null || c.least_web_mm !== null));
	const toggle = (what: Form) => (open = open === what ? '' : what);
	/** Close a form that was kept, unless another has been opened meanwhile. */
	const close = (what: Form) => () => {
		if (open === what) open = '';
	};
	const words = (b: StockOut['settings']['cut']) =>
		`${speed(b.speed, session.unit)}${(b.passes ?? 1) > 1 ? ` · ${word('sheets.passes-2', { passes: b.passes })}` : ''}${b.focus ? ` · ${word('sheets.focus', { focus: signed(b.focus, session.unit) })}` : ''}`;
	async function make(kind: string) {
		problem = '';
		try {
			await rack.makeCard(kind);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const FORMS: [Form, string][] = [
		['cards', word('sheets.test-cards')],
		['kerf', word('sheets.enter-a-kerf-test')],
		['settings', word('sheets.settings')],
		['shelf', word('sheets.shelf')],
		['details', word('sheets.about-it')],
		['borrow', word('sheets.borrow')]
	];
</script>

{#snippet row(name: string, from: string, value: string, guess: boolean)}
	<div class="fact">
		<span>{name}<small>{from}</small></span><b class="fig" class:guess>{value}{guess ? ' ?' : ''}</b>
	</div>
{/snippet}

<aside class="side px-4 py-3">
	<h2>{word('sheets.what-this-stock-gives')}</h2>
	<label class="on"
		>{word('sheets.on')}
		<select aria-label={word('sheets.machine')} value={rack.machine?.id} onchange={(e) => rack.useMachine(e.currentTarget.value)}>
			{#each rack.rack!.machines as m (m.id)}<option value={m.id}>{m.name}</option>{/each}
		</select>
		{rack.machine?.lenses?.find((l) => l.id === rack.machine?.lens)?.name ?? ''}</label
	>
	{#if stock.value.hazard}<HazardNote substance={stock.substance} name={stock.value.name} />
		{#if stock.substance.verdict === 'needs_data'}<button class="btn" onclick={() => (open = 'details')}
				>{word('sheets.i-have-its-makers-data')}</button
			>{/if}
	{/if}
	{@render row(
		word('sheets.thickness'),
		`${t.terms[0]!.source}${t.terms[0]!.on ? ' · ' + day(t.terms[0]!.on) : ''}`,
		show(t.value, session.unit, true),
		t.terms[0]!.trust === 'default'
	)}
	{@render row(word('sheets.kerf-2'), `${k.terms[0]!.source} · ± ${showKerf(k.sd, session.unit)}`, showKerf(k.value, session.unit), guessK)}
	{#each stock.fits as f (f.mate)}
		{@const learned = (f.boundaries.answers ?? 0) > 0}
		<div class="fact fit">
			<span
				>{word('sheets.snug-with', { mate: f.mate === stock.value.id ? word('sheets.itself') : f.name })}<small
					>{word('sheets.drawn-2', {
						source: f.boundaries.source,
						on: f.boundaries.on ? ` · ${day(f.boundaries.on)}` : '',
						drawnmm: show(f.drawn_mm, session.unit, true)
					})}</small
				></span
			><b class="fig" class:guess={!learned}>{signed(f.targets.snug ?? 0, session.unit)}{learned ? '' : ' ?'}</b>
			<div class="band"><FitBand boundaries={f.boundaries} clearance={f.targets.snug} sd={f.sd_mm} height={6} /></div>
		</div>
	{/each}
	{@render row(word('sheets.cut-2'), `${words(s.cut)} · ${sourceOf(s, 'cut')}`, `${s.cut.power} %`, untested(s, 'cut'))}
	{@render row(word('sheets.score'), `${words(s.score)} · ${sourceOf(s, 'score')}`, `${s.score.power} %`, untested(s, 'score'))}
	{@render row(
		word('sheets.engrave'),
		`${words(s.engrave)} · ${depth ? word('sheets.deep-a-pass-step-card', { perpass: showKerf(depth.per_pass, session.unit) }) : sourceOf(s, 'engrave')}`,
		`${s.engrave.power} %`,
		untested(s, 'engrave')
	)}
	{#if legible}{@render row(
			word('sheets.least-text-least-web'),
			word('sheets.legibility-card', { created: day(legible.created) }),
			[legible.least_text_mm, legible.least_web_mm].map((v) => (v === null ? '–' : show(v, session.unit))).join(' · '),
			false
		)}{/if}

	{#each findings as f, i (i)}<div class="note">{session.told(f.says)}</div>{/each}
	{#each rack.advice as a (a.action)}
		<div class="note advice">
			{session.told(a.why)}
			<b
				>{word('sheets.min', {
					what: session.told(a.what),
					minutes: a.minutes < 1 ? '1' : a.minutes.toFixed(0),
					sizemm: a.size_mm ? `, ${a.size_mm.map((v) => show(v, session.unit)).join(' × ')} ${unitName(session.unit)}` : ''
				})}</b
			>
			{#if a.action === 'reading'}<button class="underline" onclick={() => rack.focusReading()}>{word('sheets.type-them')}</button>
			{:else}<button class="underline" onclick={() => make(a.action)}>{word('sheets.make-one')}</button>{/if}
		</div>
	{/each}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

	<div class="mt-3 flex flex-wrap gap-2">
		{#each FORMS as [form, name] (form)}
			<button class="btn" class:main={form === 'cards'} aria-expanded={open === form} onclick={() => toggle(form)}>{name}</button>
		{/each}
	</div>
	<div {@attach intoView(open)}>
		{#if open === 'cards'}<TestCards {rack} {stock} />{/if}
		{#if open === 'kerf'}<KerfEntry {rack} ondone={close('kerf')} />{/if}
		{#if open === 'settings'}<SettingsEntry {rack} {stock} ondone={close('settings')} />{/if}
		{#if open === 'shelf'}<ShelfEntry {rack} {stock} />{/if}
		{#if open === 'details'}<StockDetails {rack} {stock} />{/if}
		{#if open === 'borrow'}<BorrowEvidence {rack} {stock} ondone={close('borrow')} />{/if}
	</div>

	<h3 class="quiet mt-4">{word('sheets.at-the-machine')}</h3>
	<p>{stock.caution}</p>
	{#if stock.film !== 'none'}<p class="quiet">
			{word('sheets.film-on-finish-and-solvents-only', {
				film: stock.film === 'both' ? word('sheets.both-faces') : word('sheets.the', { film: stock.film })
			})}
		</p>{/if}
	{#if stock.warp}<p class="quiet">{word('sheets.warp-weights-or-pins-outside-the', { warp: stock.warp })}</p>{/if}
	{#if stock.look === 'mirrored'}<p class="quiet">{word('sheets.mirrored-sheet-goes-face-down-the')}</p>{/if}
</aside>

<style>
	.on {
		color: var(--ink-2);
		font-size: 12px;
		display: block;
		margin-bottom: 2px;
	}
	.on select {
		border: 0;
		background-color: transparent;
		background-size: 11px;
		padding: 0 30px 0 2px;
		font-size: 12px;
		color: var(--ink);
		max-width: 170px;
		field-sizing: content;
	}
	.fact {
		display: flex;
		justify-content: space-between;
		gap: 8px;
		padding: 6px 0;
		border-bottom: 1px solid var(--rule);
	}
	.fact.fit {
		flex-wrap: wrap;
	}
	.fact span {
		flex: 1;
		min-width: 0;
	}
	.band {
		flex-basis: 100%;
		padding-bottom: 3px;
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
	.advice b {
		display: block;
		font-weight: 600;
	}
	.guess {
		color: #a45a00;
	}
	:global(.dark) .guess {
		color: #f0b45a;
	}
</style>
