<!-- What a card shows so far, and what can be kept of it. -->
<script lang="ts">
	import type { CardOut } from '../../../api/types';
	import { session } from '../../../app/session.svelte';
	import Choice from '../../../lib/ui/Choice.svelte';
	import FitBand from '../../../lib/ui/FitBand.svelte';
	import { show, showKerf, signed, speed, unitName } from '../../../lib/units/units';
	import type { RackState } from '../rack.svelte';

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
			kept = card.kind === 'power' ? `Cut with ${s.cut.power} %, ${speed(s.cut.speed, session.unit)} from now on.` : 'Kept for engraving.';
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<div class="shows">
	{#if card.found.contradicting.length}
		<div class="note" role="note">
			{card.found.contradicting.join(', ')}: a wider slot felt tighter than a narrower one. Try these once more; until then the doubt
			counts.
		</div>
	{/if}
	{#if card.kind === 'gauge' && fit}
		{@const b = fit.boundaries}
		<b>Snug {signed(fit.targets.snug!, session.unit)} {unit}, drawn {show(fit.drawn_mm, session.unit, true)}</b>
		<FitBand boundaries={b} clearance={fit.targets.snug} sd={fit.sd_mm} height={9} />
		<p class="quiet fig edges">
			{#each [b.rattles, b.slides, b.snug, b.mallet] as edge, i (i)}<span
					>{signed(edge, session.unit)} ±{show((b.sds?.[i] ?? 0) * 1.645, session.unit, true)}</span
				>{/each}
		</p>
		<p class="quiet">{b.source}. Nine of ten lie inside the ±. A slot drawn so is snug in {Math.round(fit.chance * 100)} % of cuts.</p>
	{:else if card.kind === 'strips' || card.kind === 'gaps'}
		<b>Kerf {showKerf(k.value, session.unit)} ± {showKerf(k.sd, session.unit)} {unit}</b>
		<p class="quiet">
			{k.terms[0]!.source}{rack.stock!.taper_deg !== null
				? ` · the cut leans ${rack.stock!.taper_deg!.toFixed(2)}°`
				: card.kind === 'gaps'
					? ' · measure the far face too, and the taper shows'
					: ''}
		</p>
	{:else if card.kind === 'power'}
		{#if best}
			<b>Fastest clean square: {best.power} %, {speed(best.speed, session.unit)}</b>
		{:else}<b>{session.told(card.found.why_not) || 'Mark which squares fell out, and how burnt they are.'}</b>{/if}
		<div class="line">
			<span class="quiet">accept</span>
			<Choice
				label="Char that is accepted"
				options={[
					{ value: '0', name: 'none' },
					{ value: '1', name: 'light' },
					{ value: '2', name: 'some' }
				]}
				value={accepted}
				onchoose={(v) => (accepted = v)}
			/>
			<button class="btn main" disabled={!card.found.entered} onclick={() => keep(null)}>Keep the best</button>
		</div>
	{:else if card.kind === 'steps'}
		{#if card.found.depth}
			<b>{showKerf(card.found.depth.per_pass, session.unit)} ± {showKerf(card.found.depth.sd, session.unit)} {unit} a pass</b>
			<p class="quiet">
				{card.found.depths
					.map(
						([d, passes, deep]) =>
							`${show(Number(d), session.unit, true)} deep: ${passes} pass${passes === 1 ? '' : 'es'}${deep ? ', too deep for this sheet' : ''}`
					)
					.join(' · ')}
			</p>
			<button class="btn main" onclick={() => keep(null)}>Keep for engraving</button>
		{:else}<b>{session.told(card.found.why_not) || 'Measure how deep each square is.'}</b>{/if}
	{:else}
		<b
			>Least text {card.found.least_text_mm === null ? '?' : show(card.found.least_text_mm, session.unit)}, least web {card.found
				.least_web_mm === null
				? '?'
				: show(card.found.least_web_mm, session.unit)}
			{unit}</b
		>
		<p class="quiet">Say of each line whether it can be read, and of each pair of cuts whether the web between them held.</p>
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
