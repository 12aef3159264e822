<!-- What was run, and what the shop learned from it. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { RunsOut } from '../../api/types';
	import { feelName } from '../../lib/ui/feels';
	import { clock, day } from '../../lib/units/units';
	import { word } from '../../words/words';

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
	<h3>{word('run.log')}</h3>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	{#if logged.length}
		<p class="quiet">
			{word('run.this-machine-takes')} <span class="fig">{runs.factor.toFixed(2)}</span>
			{word('run.of-the-plain-estimate-run', { factorruns: runs.factor_runs })}
		</p>
		{#each logged as r (r.id)}
			<div class="run">
				<b>{word('run.revision', { sheetname: r.sheet_name, revision: r.revision })}</b><span class="fig">{clock(r.log!.actual_s)}</span>
				<small
					>{day(r.created)}, {r.by}
					{r.parts.length ? ` · ${word('run.good', { good: r.log!.good })}` : ''}{r.log!.spoiled
						? `, ${word('run.spoiled-2', { spoiled: r.log!.spoiled })}`
						: ''}{r.log!.sheet_spoiled && !r.parts.length ? ` · ${word('run.cut-and-spoiled')}` : ''}{r.log!.feel
						? ` · ${feelName(r.log!.feel)}`
						: ''}</small
				>
				{#if r.log!.feel && !test}
					{#if r.log!.learned}<small>{word('run.the-fits-have-learned-from-it')}</small>
					{:else}<button class="underline" onclick={() => learn(r.id)}
							>{word('run.let-the-fits-learn-that-it', { feel: feelName(r.log!.feel) })}</button
						>{/if}
				{/if}
				{#if r.log!.note}<small>{r.log!.note}</small>{/if}
			</div>
		{/each}
	{:else}<p class="quiet">{word('run.nothing-has-been-run-yet-the')}</p>{/if}
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
