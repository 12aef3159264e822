<!-- What a card shows so far, and what can be kept of it. -->
<script lang="ts">
	import type { CardOut } from '../../../api/types';
	import { session } from '../../../app/session.svelte';
	import Choice from '../../../lib/ui/Choice.svelte';
	import FitBand from '../../../lib/ui/FitBand.svelte';
	import { show, showKerf, signed, speed, unitName } from '../../../lib/units/units';
	import type { RackState } from '../rack.svelte';
	import { word } from '../../../words/words';

	let { rack, card }: { rack: RackState; card: CardOut } = $props();
	let accepted = $state<'0' | '1' | '2' | '3'>('1');
	let problem = $state('');
	let kept = $state('');
	const fit = $derived(rack.stock?.fits.find((f) => f.mate === card.tongue));
	const k = $derived(rack.stock!.value.kerf);
	const best = $derived(card.found.best_by_char[Number(accepted)] ?? null);
	const unit = $derived(unitName(session.unit));

	async function keep(cell: string | null) {
		problem = kept = '';
		try {
			await rack.settle(cell, Number(accepted));
			const s = rack.stock!.settings;
			kept =
				card.kind === 'power'
					? word('sheets.cut-with-from-now-on', { power: s.cut.power, speed: speed(s.cut.speed, session.unit) })
					: word('sheets.kept-for-engraving');
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<div class="shows">
	{#if card.found.contradicting.length}
		<div class="note" role="note">
			{word('sheets.a-wider-slot-felt-tighter-than', { contradicting: card.found.contradicting.join(', ') })}
		</div>
	{/if}
	{#if card.kind === 'gauge' && fit}
		{@const b = fit.boundaries}
		<b
			>{word('sheets.snug-drawn', {
				snug: signed(fit.targets.snug!, session.unit),
				size: unit,
				drawnmm: show(fit.drawn_mm, session.unit, true)
			})}</b
		>
		<FitBand boundaries={b} clearance={fit.targets.snug} sd={fit.sd_mm} height={9} />
		<p class="quiet fig edges">
			{#each [b.rattles, b.slides, b.snug, b.mallet] as edge, i (i)}<span
					>{signed(edge, session.unit)} ±{show((b.sds?.[i] ?? 0) * 1.645, session.unit, true)}</span
				>{/each}
		</p>
		<p class="quiet">
			{word('sheets.nine-of-ten-lie-inside-the', { source: session.told(b.source), chance: Math.round(fit.chance * 100) })}
		</p>
	{:else if card.kind === 'strips' || card.kind === 'gaps'}
		<b>{word('sheets.kerf-3', { value: showKerf(k.value, session.unit), sd: showKerf(k.sd, session.unit), size: unit })}</b>
		<p class="quiet">
			{k.terms[0]!.source ? session.told(k.terms[0]!.source) : ''}{rack.stock!.taper_deg !== null
				? ` · ${word('sheets.the-cut-leans', { taperdeg: rack.stock!.taper_deg!.toFixed(2) })}`
				: card.kind === 'gaps'
					? ` · ${word('sheets.measure-the-far-face-too-and')}`
					: ''}
		</p>
	{:else if card.kind === 'power'}
		{#if best}
			<b>{word('sheets.fastest-clean-square', { power: best.power, speed: speed(best.speed, session.unit) })}</b>
		{:else}<b>{session.told(card.found.why_not) || word('sheets.mark-which-squares-fell-out-and')}</b>{/if}
		<div class="line">
			<span class="quiet">{word('sheets.accept')}</span>
			<Choice
				label={word('sheets.char-that-is-accepted')}
				options={[
					{ value: '0', name: word('sheets.none') },
					{ value: '1', name: word('sheets.light') },
					{ value: '2', name: word('sheets.some') }
				]}
				value={accepted}
				onchoose={(v) => (accepted = v)}
			/>
			<button class="btn main" disabled={!card.found.entered} onclick={() => keep(null)}>{word('sheets.keep-the-best')}</button>
		</div>
	{:else if card.kind === 'steps'}
		{#if card.found.depth}
			<b
				>{word('sheets.a-pass', {
					perpass: showKerf(card.found.depth.per_pass, session.unit),
					sd: showKerf(card.found.depth.sd, session.unit),
					size: unit
				})}</b
			>
			<p class="quiet">
				{card.found.depths
					.map(([d, passes, deep]) =>
						word('sheets.deep-pass', {
							d: show(Number(d), session.unit, true),
							passes: Number(passes),
							deep: deep ? `, ${word('sheets.too-deep-for-this-sheet')}` : ''
						})
					)
					.join(' · ')}
			</p>
			<button class="btn main" onclick={() => keep(null)}>{word('sheets.keep-for-engraving')}</button>
		{:else}<b>{session.told(card.found.why_not) || word('sheets.measure-how-deep-each-square-is')}</b>{/if}
	{:else}
		<b
			>{word('sheets.least-text-least-web-2', {
				leasttextmm: card.found.least_text_mm === null ? '?' : show(card.found.least_text_mm, session.unit),
				leastwebmm: card.found.least_web_mm === null ? '?' : show(card.found.least_web_mm, session.unit),
				size: unit
			})}</b
		>
		<p class="quiet">{word('sheets.say-of-each-line-whether-it')}</p>
	{/if}
	{#if kept}<div class="note good" role="status">{kept}</div>{/if}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
</div>

<style>
	.shows {
		display: grid;
		gap: 6px;
		align-content: start;
	}
	.edges {
		display: flex;
		justify-content: space-between;
	}
	.line {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 8px;
	}
</style>
