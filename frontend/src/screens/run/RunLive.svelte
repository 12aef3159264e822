<!-- The machine at work: time, part, pause, stop, and what went wrong. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import { api, need } from '../../api/client';
	import type { RunOut } from '../../api/types';
	import { clock } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { run, labels, onchange }: { run: RunOut; labels: Record<string, string>; onchange: () => Promise<void> } = $props();
	const p = $derived(run.progress as { clock?: number; seconds?: number; burning?: boolean });
	const left = $derived(Math.max((p.seconds ?? run.expected_s) - (p.clock ?? 0), 0));
	let problem = $state('');
	const words: Record<string, string> = {
		waiting: word('run.sending-the-job'),
		running: word('run.burning'),
		paused: word('run.paused'),
		fault: word('run.stopped-by-a-fault')
	};

	async function say(command: 'pause' | 'resume' | 'stop') {
		problem = '';
		try {
			await need(
				api.POST('/api/runs/{run_id}/command', {
					params: { path: { run_id: run.id } },
					body: { command }
				})
			);
			await onchange();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<h2 data-testid="run-state">{words[run.state] ?? run.state}</h2>
<p class="left fig">{clock(left)} <small>{word('run.left-of', { seconds: clock(p.seconds ?? run.expected_s) })}</small></p>
<progress max={p.seconds ?? 1} value={p.clock ?? 0}></progress>
<p class="quiet">
	{run.at_part ? (labels[run.at_part] ?? word('run.a-part-of-an-earlier-plan')) : word('run.moving')} · {run.sheet_name}
</p>
{#if run.state === 'fault'}<div class="note bad" role="alert">{session.told(run.says)}</div>{/if}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
<div class="my-3 flex gap-2">
	{#if run.state === 'running'}<button class="btn main" onclick={() => say('pause')}>{word('run.pause')}</button>{/if}
	{#if run.state === 'paused' || run.state === 'fault'}<button class="btn burn" onclick={() => say('resume')}
			>{word('run.resume-the-beam')}</button
		>{/if}
	<button class="btn" onclick={() => say('stop')}>{word('run.stop-for-good')}</button>
</div>
<p>{word('run.never-leave-a-running-machine')}</p>

<style>
	.left {
		font-size: 30px;
		margin: 6px 0;
	}
	small {
		font-size: 13px;
		color: var(--ink-2);
	}
	progress {
		width: 100%;
		height: 8px;
		appearance: none;
		border: 0;
		background: var(--bench-3);
	}
	progress::-webkit-progress-bar {
		background: var(--bench-3);
	}
	progress::-webkit-progress-value {
		background: var(--color-ember);
	}
	progress::-moz-progress-bar {
		background: var(--color-ember);
	}
</style>
