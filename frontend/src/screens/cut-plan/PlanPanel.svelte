<!-- Times by operation, settings, what to know before it goes out, and the files. -->
<script lang="ts">
	import { api, need, Problem } from '../../api/client';
	import type { PlanChoices, PlanOut, SheetPlan } from '../../api/types';
	import { clock } from '../../lib/units/units';
	import CutChoices from './CutChoices.svelte';
	import FilesOut from './FilesOut.svelte';
	import Held from './Held.svelte';
	import KerfWhere from './KerfWhere.svelte';
	import OperationTimes from './OperationTimes.svelte';
	import OrderList from './OrderList.svelte';
	import PlanFindings from './PlanFindings.svelte';
	import Sides from './Sides.svelte';
	import { word } from '../../words/words';

	let {
		out,
		sheet,
		problem,
		busy,
		projectId,
		number,
		t = $bindable(),
		onplan,
		onmachine,
		onchange
	}: {
		out: PlanOut;
		sheet: SheetPlan | null;
		problem: string;
		busy: boolean;
		projectId: number;
		/** of the sheet, from 0 */
		number: number;
		/** the moment under the reel's mark [s] */
		t: number;
		onplan: () => Promise<unknown>;
		onmachine: () => Promise<void>;
		onchange: (told: PlanOut) => void;
	} = $props();
	const plan = $derived(out.plan);
	const settings = $derived(sheet ? out.settings[sheet.stock] : undefined);
	const found = $derived((plan?.findings ?? []).filter((f) => f.severity !== 'fine'));
	const fine = $derived((plan?.findings ?? []).filter((f) => f.severity === 'fine'));
	const must = $derived(found.some((f) => f.severity === 'must'));
	const stops = $derived(out.stops ?? null);
	const held = $derived(!!stops && !stops.overruled);
	const ready = $derived(!!plan && out.fresh && !must && !held);
	const sheets = $derived(Math.max(0, ...(plan?.sheets ?? []).map((s) => s.number ?? 1)));
	let told = $state('');
	const accepted = $derived(out.accepted);

	async function accept() {
		told = '';
		try {
			const params = { path: { project_id: projectId } };
			onchange(await need(api.POST('/api/projects/{project_id}/cut-plan/accept', { params, body: { version: out.version } })));
		} catch (e) {
			if (e instanceof Problem && e.status === 409) onchange(e.facts.answer as PlanOut);
			else told = (e as Error).message;
		}
	}

	async function overrule() {
		told = '';
		try {
			const params = { path: { project_id: projectId } };
			onchange(await need(api.POST('/api/projects/{project_id}/cut-plan/overrule', { params, body: { print: stops!.print } })));
		} catch (e) {
			told = (e as Error).message;
		}
	}

	const skip = $derived(out.choices?.skip ?? []);
	let choosing = $state(false);
	async function choose(change: Partial<PlanChoices>) {
		[told, choosing] = ['', true];
		try {
			const params = { path: { project_id: projectId } };
			onchange(await need(api.PATCH('/api/projects/{project_id}/cut-plan/choices', { params, body: change as never })));
		} catch (e) {
			told = (e as Error).message;
		} finally {
			choosing = false;
		}
	}
</script>

<aside class="side px-4 py-3">
	{#if plan}
		<h2><span class="fig">{clock(plan.seconds)}</span> ± {clock(plan.band)}</h2>
		<p class="quiet">
			{word('cut-plan.sheet-with-handling', {
				sheets,
				sheets2: plan.sheets.length > sheets ? `, ${word('cut-plan.runs', { sheets: plan.sheets.length })}` : '',
				factorruns: out.factor_runs
					? word('cut-plan.the-log-says-run', { factor: out.factor.toFixed(2), factorruns: out.factor_runs })
					: word('cut-plan.no-runs-logged-yet')
			})}
		</p>
		{#if sheet && settings}<OperationTimes {sheet} {settings} {skip} waiting={choosing || busy} onskip={(skip) => choose({ skip })} />{/if}
	{/if}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	{#if plan && !out.fresh}
		<div class="note">
			{word('cut-plan.something-changed-since-this-plan-was', {
				layoutfresh: out.layout_fresh ? '.' : `: ${word('cut-plan.the-parts-must-be-packed-again')}`
			})}
		</div>
		<button class="btn main" disabled={busy || !out.layout_fresh} onclick={onplan}
			>{busy ? word('cut-plan.planning') : word('cut-plan.plan-again')}</button
		>
	{/if}

	{#if plan}
		<h3>{word('cut-plan.before-it-can-go-out')}</h3>
		{#if stops}<Held {stops} onoverrule={overrule} />{/if}
		<PlanFindings {out} {found} {fine} onaccept={found.length > 0 && !must && out.fresh ? accept : null} />
		<FilesOut {projectId} sheets={plan.sheets} ready={ready && (!!accepted || !found.length)} />
		<KerfWhere {out} {sheet} online={plan.kerf_place === 'line'} {onmachine} onproblem={(message) => (told = message)} />
		{#if sheet}<Sides {out} {sheet} onchoose={choose} /><CutChoices {out} {sheet} onchoose={choose} />{/if}
		{#if told}<div class="note bad" role="alert">{told}</div>{/if}
		{#if sheet && out.fresh}<OrderList {projectId} {out} {sheet} {number} labels={out.labels} bind:t {onchange} />{/if}
		<h3>{word('cut-plan.at-the-machine')}</h3>
		<p>
			{word('cut-plan.stay-with-it-lid-shut-air')}
		</p>
	{/if}
</aside>
