<!-- The short list before a sheet burns, and the button that starts the beam. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { Sentence, SheetPlan } from '../../api/types';
	import { runName } from '../../lib/mat/runs';
	import { clock } from '../../lib/units/units';
	import ReadRegistration from './ReadRegistration.svelte';
	import Ticks from './Ticks.svelte';
	import { allTicked } from './ticks';
	import { word } from '../../words/words';

	let {
		number,
		of,
		sheet,
		checklist,
		fresh,
		done,
		spoiled = false,
		projectId,
		onstarted
	}: {
		number: number;
		/** sheets in the job */
		of: number;
		sheet: SheetPlan;
		checklist: readonly Sentence[];
		fresh: boolean;
		done: boolean;
		/** nothing of it was good */
		spoiled?: boolean;
		projectId: number;
		onstarted: () => Promise<void>;
	} = $props();
	let ticked = $state<string[]>([]);
	let fault = $state<'' | 'lid' | 'flame'>('');
	let problem = $state('');
	let busy = $state(false);
	const all = $derived(allTicked(checklist, ticked));
	/** Marks as they were read, once they tell that the sheet lies right. */
	let found = $state.raw<number[][] | null>(null);
	const lies = $derived(!sheet.lay?.marks?.length || !!found);
	const parts = $derived(sheet.strokes.filter((s) => s.path.operation === 'outer' && s.path.through).length);

	async function start() {
		[problem, busy] = ['', true];
		try {
			await need(
				api.POST('/api/projects/{project_id}/runs', {
					params: { path: { project_id: projectId } },
					body: { sheet: number, ticked, fault, found: (found ?? []) as [number, number][] }
				})
			);
			await onstarted();
		} catch (e) {
			problem = (e as Error).message;
		} finally {
			busy = false;
		}
	}
</script>

<h2>
	{done
		? word('run.is', {
				sheet: runName(sheet),
				spoiled: spoiled ? word('run.cut-and-spoiled') : parts ? word('run.cut-whole') : word('run.done-with')
			})
		: word('run.sheet-of', { number: sheet.number, of, run: sheet.run ? `, ${sheet.run}` : '' })}
</h2>
<p class="quiet">
	{word('run.about', { name: sheet.name, seconds: clock(sheet.seconds), parts: parts ? ` · ${word('run.part', { parts })}` : '' })}
</p>
{#if !fresh}<div class="note bad">{word('run.something-changed-since-this-plan-was')}</div>{/if}
<Ticks title={done ? word('run.to-cut-it-again-tick') : word('run.tick-before-it-burns')} items={checklist} bind:ticked />
{#if sheet.lay?.marks?.length}<ReadRegistration {sheet} {number} {projectId} onread={(told) => (found = told)} />{/if}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
<button class="btn burn big" disabled={!all || !fresh || busy || !lies} onclick={start}>{word('run.start-the-simulated-laser')}</button>
<details>
	<summary class="quiet">{word('run.practise-a-fault')}</summary>
	<label><input type="radio" bind:group={fault} value="" /> {word('run.none')}</label>
	<label><input type="radio" bind:group={fault} value="lid" /> {word('run.lid-opened')}</label>
	<label><input type="radio" bind:group={fault} value="flame" /> {word('run.flame-sensor')}</label>
</details>

<style>
	details label {
		margin-right: 12px;
	}
</style>
