<!-- What was run, and what the shop learned from it. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { RunsOut } from '../../api/types';
	import { feelName } from '../../lib/ui/feels';
	import { clock, day } from '../../lib/units/units';

	let { runs, test = false, onlearned }: { runs: RunsOut; test?: boolean; onlearned?: () => void } = $props();
	let problem = $state('');

	async function learn(id: number) {
		problem = '';
		try {
			await need(api.POST('/api/runs/{run_id}/learn', { params: { path: { run_id: id } } }));
			onlearned?.();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const logged = $derived(runs.runs.filter((r) => r.log));
</script>

<section>
	<h3>Log</h3>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	{#if logged.length}
		<p class="quiet">
			This machine takes × <span class="fig">{runs.factor.toFixed(2)}</span> of the plain estimate ({runs.factor_runs}
			run{runs.factor_runs === 1 ? '' : 's'}).
		</p>
		{#each logged as r (r.id)}
			<div class="run">
				<b>{r.sheet_name}, revision {r.revision}</b><span class="fig">{clock(r.log!.actual_s)}</span>
				<small
					>{day(r.created)}, {r.by}
					{r.parts.length ? ` · ${r.log!.good} good` : ''}{r.log!.spoiled ? `, ${r.log!.spoiled} spoiled` : ''}{r.log!.feel
						? ` · ${r.log!.feel}`
						: ''}</small
				>
				{#if r.log!.feel && !test}
					{#if r.log!.learned}<small>the fits have learned from it</small>
					{:else}<button class="underline" onclick={() => learn(r.id)}>Let the fits learn that it was {feelName(r.log!.feel)}</button>{/if}
				{/if}
				{#if r.log!.note}<small>{r.log!.note}</small>{/if}
			</div>
		{/each}
	{:else}<p class="quiet">Nothing has been run yet. The first logged run teaches the machine’s true times.</p>{/if}
</section>

<style>
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
		margin: 18px 0 2px;
	}
	.run {
		display: grid;
		grid-template-columns: 1fr auto;
		padding: 6px 0;
		border-bottom: 1px solid var(--rule);
	}
	.run button {
		grid-column: 1 / -1;
		text-align: left;
		font-size: 12px;
	}
	small {
		grid-column: 1 / -1;
		color: var(--ink-2);
		font-size: 12px;
	}
</style>
