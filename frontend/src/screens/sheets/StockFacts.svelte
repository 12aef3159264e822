<!-- What is known of a stock on this machine, a line each, with where it comes from. -->
<script lang="ts">
	import type { StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import FitBand from '../../lib/ui/FitBand.svelte';
	import { sourceOf, untested } from '../../lib/ui/settings';
	import { day, show, showKerf, signed, speed } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { RackState } from './rack.svelte';

	let { rack, stock }: { rack: RackState; stock: StockOut } = $props();
	const t = $derived(stock.value.thickness);
	const k = $derived(stock.value.kerf);
	const guessK = $derived(k.terms[0]!.trust === 'default');
	const s = $derived(stock.settings);
	const depth = $derived(rack.cards.find((c) => c.depth)?.depth);
	const legible = $derived(rack.cards.find((c) => c.least_text_mm !== null || c.least_web_mm !== null));
	const from = (q: typeof t) => (q.terms[0]!.source ? session.told(q.terms[0]!.source) : '');
	const words = (b: StockOut['settings']['cut']) =>
		`${speed(b.speed, session.unit)}${(b.passes ?? 1) > 1 ? ` · ${word('sheets.passes-2', { passes: b.passes })}` : ''}${b.focus ? ` · ${word('sheets.focus', { focus: signed(b.focus, session.unit) })}` : ''}`;
</script>

{#snippet row(name: string, from: string, value: string, guess: boolean)}
	<div class="fact">
		<span>{name}<small>{from}</small></span><b class="fig" class:guess>{value}{guess ? ' ?' : ''}</b>
	</div>
{/snippet}

{@render row(
	word('sheets.thickness'),
	`${from(t)}${t.terms[0]!.on ? ' · ' + day(t.terms[0]!.on) : ''}`,
	show(t.value, session.unit, true),
	t.terms[0]!.trust === 'default'
)}
{@render row(word('sheets.kerf-2'), `${from(k)} · ± ${showKerf(k.sd, session.unit)}`, showKerf(k.value, session.unit), guessK)}
{#each stock.fits as f (f.mate)}
	{@const learned = (f.boundaries.answers ?? 0) > 0}
	<div class="fact fit">
		<span
			>{word('sheets.snug-with', { mate: f.mate === stock.value.id ? word('sheets.itself') : f.name })}<small
				>{word('sheets.drawn-2', {
					source: session.told(f.boundaries.source),
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

<style>
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
	.guess {
		color: #a45a00;
	}
	:global(.dark) .guess {
		color: #f0b45a;
	}
</style>
