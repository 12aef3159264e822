<!-- A run whose line was lost: nobody knows how far it came. A person looks, then it goes on, or is given up. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { RunOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { clock } from '../../lib/units/units';

	let { run, labels, onchange }: { run: RunOut; labels: Record<string, string>; onchange: () => Promise<void> } = $props();
	const p = $derived(run.progress as { clock?: number; seconds?: number; path?: string });
	let ticked = $state<string[]>([]);
	let problem = $state('');
	let busy = $state(false);
	const all = $derived(run.going_on.every((c) => ticked.includes(c)));

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

<h2>Interrupted: look first</h2>
<div class="note bad" role="alert">{session.said(run.message)}</div>
<p class="quiet">
	{run.sheet_name}. Last heard of after {clock(p.clock ?? 0)} of {clock(p.seconds ?? run.expected_s)}{p.path
		? `, in ${labels[p.path.split('.')[0]!] ?? p.path}`
		: ''}.
</p>
<h3>Tick before the beam starts again</h3>
{#each run.going_on as c (c)}<label class="tick"><input type="checkbox" value={c} bind:group={ticked} />{session.said(c)}</label>{/each}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
<button class="btn burn big" disabled={!all || busy} onclick={goOn}>Go on from where it stood</button>
<button class="btn" disabled={busy} onclick={giveUp}>Give it up, and log it</button>

<style>
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
		margin: 12px 0 4px;
	}
	.tick {
		display: flex;
		gap: 10px;
		padding: 5px 0;
		align-items: flex-start;
	}
	.tick input {
		margin-top: 2px;
	}
	.big {
		margin: 10px 0;
		padding: 10px 16px;
		width: 100%;
	}
</style>
