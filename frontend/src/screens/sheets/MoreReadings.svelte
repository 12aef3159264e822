<!-- Other ways for readings to come: from the caliper on its line, or pasted from a table. -->
<script lang="ts">
	import { onDestroy } from 'svelte';
	import { api, need } from '../../api/client';
	import { session } from '../../app/session.svelte';
	import { unitName } from '../../lib/units/units';
	import { SPOTS, type RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, stockId }: { rack: RackState; stockId: string } = $props();
	const POLL_MS = 350;
	const ENOUGH = 5;
	let taking = $state(false);
	let taken = $state(0);
	let pasting = $state(false);
	let text = $state('');
	let problem = $state('');
	let said = $state('');
	let timer: ReturnType<typeof setTimeout> | undefined;
	// svelte-ignore state_referenced_locally (one stock for the life of this component)
	const params = { path: { stock_id: Number(stockId) } };

	async function take() {
		[problem, said, taken] = ['', '', 0];
		try {
			await need(api.POST('/api/stocks/{stock_id}/caliper', { params }));
			taking = true;
			void look();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	async function look() {
		try {
			const { readings } = await need(api.GET('/api/stocks/{stock_id}/caliper', { params: { ...params, query: { seq: taken } } }));
			for (const r of readings) {
				if (!taking || taken >= ENOUGH) break;
				await rack.read(r.mm, rack.spot ?? SPOTS[0]);
				taken = r.seq;
			}
			if (taken >= ENOUGH) return stop(word('sheets.readings-taken-over-the-sheet', { taken }));
			if (taking) timer = setTimeout(look, POLL_MS);
		} catch (e) {
			await stop('');
			problem = (e as Error).message;
		}
	}
	async function stop(words: string) {
		clearTimeout(timer);
		taking = false;
		said = words;
		await need(api.DELETE('/api/stocks/{stock_id}/caliper', { params })).catch(() => {});
	}
	onDestroy(() => {
		if (taking) void stop('');
	});
	async function paste() {
		problem = '';
		try {
			await rack.paste(text, session.unit);
			[text, pasting] = ['', false];
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<div class="more">
	{#if taking}
		<button class="on-mat active" onclick={() => stop(`Stopped after ${taken}.`)}>{word('sheets.stop-the-caliper')}</button>
		<span role="status">{word('sheets.put-the-caliper-at-the-ring', { taken, ENOUGH })}</span>
	{:else}
		<button class="on-mat" onclick={take}>{word('sheets.take-from-the-caliper')}</button>
		<button class="on-mat" aria-expanded={pasting} onclick={() => (pasting = !pasting)}>{word('sheets.paste-a-list')}</button>
		{#if said}<span role="status">{said}</span>{/if}
	{/if}
	{#if pasting}
		<div class="paste">
			<textarea
				aria-label={word('sheets.readings-one-on-a-line')}
				rows="4"
				placeholder={word('sheets.one-on-a-line-as-copied', { size: unitName(session.unit) })}
				bind:value={text}></textarea>
			<button class="on-mat active" disabled={!text.trim()} onclick={paste}>{word('sheets.keep-them-all')}</button>
		</div>
	{/if}
	{#if problem}<p role="alert">{problem}</p>{/if}
</div>

<style>
	.more {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: center;
		margin: 2px 0 8px;
		font-size: 12.5px;
	}
	span {
		color: var(--mat-ink-2);
	}
	.paste {
		flex-basis: 100%;
		display: flex;
		gap: 8px;
		align-items: flex-start;
	}
	textarea {
		width: 320px;
		border-radius: 4px;
		border: 1px solid #3f7468;
		background: var(--bench);
		color: var(--ink);
		font: 13px var(--font-mono);
		padding: 5px 8px;
	}
	p {
		flex-basis: 100%;
		color: #ffd4a3;
	}
</style>
