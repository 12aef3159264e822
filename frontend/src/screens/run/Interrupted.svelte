<!-- A run whose line was lost: nobody knows how far it came. A person looks, then it goes on, or is given up. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { RunOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { clock } from '../../lib/units/units';
	import Ticks from './Ticks.svelte';
	import { allTicked } from './ticks';
	import { word } from '../../words/words';

	let { run, labels, onchange }: { run: RunOut; labels: Record<string, string>; onchange: () => Promise<void> } = $props();
	const p = $derived(run.progress as { clock?: number; seconds?: number; path?: string });
	let ticked = $state<string[]>([]);
	let problem = $state('');
	let busy = $state(false);
	const all = $derived(allTicked(run.going_on, ticked));

	async function act(what: () => Promise<unknown>) {
		[problem, busy] = ['', true];
		try {
			await what();
			await onchange();
		} catch (e) {
			problem = (e as Error).message;
		} finally {
			busy = false;
		}
	}
	const params = $derived({ path: { run_id: run.id } });
	const goOn = () => act(() => need(api.POST('/api/runs/{run_id}/go-on', { params, body: { ticked } })));
	const giveUp = () => act(() => need(api.POST('/api/runs/{run_id}/command', { params, body: { command: 'stop' } })));
</script>

<h2>{word('run.interrupted-look-first')}</h2>
<div class="note bad" role="alert">{session.told(run.says)}</div>
<p class="quiet">
	{word('run.last-heard-of-after-of', {
		sheetname: run.sheet_name,
		clock: clock(p.clock ?? 0),
		seconds: clock(p.seconds ?? run.expected_s),
		atpart: run.at_part ? `, ${word('run.in', { labels: labels[run.at_part] ?? word('run.a-part-of-an-earlier-plan') })}` : ''
	})}
</p>
<Ticks title={word('run.tick-before-the-beam-starts-again')} items={run.going_on} bind:ticked />
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
<button class="btn burn big" disabled={!all || busy} onclick={goOn}
	>{p.path ? word('run.go-on-from-where-it-stood') : word('run.burn-all-of-it-again')}</button
>
<button class="btn" disabled={busy} onclick={giveUp}>{word('run.give-it-up-and-log-it')}</button>
