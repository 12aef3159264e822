<!-- Run: tick, burn, log. -->
<script lang="ts">
	import { untrack } from 'svelte';
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { PlanOut, RunsOut } from '../../api/types';
	import { navigate } from '../../app/router';
	import RunSheet from '../../app/RunSheet.svelte';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { repeated } from '../../lib/ui/again';
	import { runName } from '../../lib/mat/runs';
	import SheetTabs from '../../lib/ui/SheetTabs.svelte';
	import Interrupted from './Interrupted.svelte';
	import LogForm from './LogForm.svelte';
	import RunLive from './RunLive.svelte';
	import RunLog from './RunLog.svelte';
	import StartRun from './StartRun.svelte';
	import StillMissing from './StillMissing.svelte';
	import { word } from '../../words/words';

	const work = useProject();
	const params = { path: { project_id: work.id } };
	let plan = $state.raw<PlanOut | null>(null);
	let runs = $state.raw<RunsOut | null>(null);
	let problem = $state('');
	let chosen = $state<number | null>(null);
	const OPEN = ['waiting', 'running', 'paused', 'fault'];
	const live = $derived(runs?.runs.find((r) => OPEN.includes(r.state)) ?? null);
	const broken = $derived(runs?.runs.find((r) => r.state === 'interrupted') ?? null);
	const toLog = $derived(
		runs?.runs.find((r) => !OPEN.includes(r.state) && r.state !== 'failed' && r.state !== 'interrupted' && !r.logged) ?? null
	);
	const failed = $derived(runs?.runs[0]?.state === 'failed' ? runs.runs[0] : null);
	const done = $derived(runs?.runs.filter((r) => r.state === 'done' && r.plan_print === plan?.plan_print) ?? []);
	const cut = $derived(new Set(done.map((r) => r.sheet)));
	/** Sheets of which nothing was good the last time; runs come newest first. */
	const spoiled = $derived(
		new Set([...cut].filter((n) => ((log) => log?.sheet_spoiled || (log?.spoiled && !log.good))(done.find((r) => r.sheet === n)?.log)))
	);
	const next = $derived(plan?.plan?.sheets.findIndex((_, i) => !cut.has(i + 1)) ?? -1);
	const number = $derived(live?.sheet ?? broken?.sheet ?? toLog?.sheet ?? chosen ?? (next >= 0 ? next + 1 : 1));
	const sheet = $derived(plan?.plan?.sheets[number - 1] ?? null);
	const status = $derived(
		(live ?? broken ?? toLog)?.progress as
			{ clock?: number; seconds?: number; x?: number; y?: number; burning?: boolean; path?: string } | undefined
	);
	const t = $derived(
		sheet && status?.seconds ? (sheet.seconds * (status.clock ?? 0)) / status.seconds : cut.has(number) ? (sheet?.seconds ?? 0) : 0
	);
	const head = $derived(
		live && status ? { x: status.x ?? 0, y: status.y ?? 0, burning: !!status.burning, path: status.path ?? '' } : undefined
	);

	/** something runs, or was left in the middle: it is looked at again and again */
	const watched = $derived(!!live || !!broken);
	const [asked, plans] = [new Asked(), new Asked()];
	async function load() {
		try {
			problem = '';
			const before = live?.state;
			runs = (await asked.newest(need(api.GET('/api/projects/{project_id}/runs', { params })))) ?? runs;
			if (before && live?.state !== before) await work.refreshStrip();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	$effect(() => {
		void work.version;
		untrack(() => {
			void load();
			plans
				.newest(need(api.GET('/api/projects/{project_id}/cut-plan', { params })))
				.then((p) => (plan = p ?? plan))
				.catch((e: Error) => (problem = e.message));
		});
	});
	$effect(() => {
		if (watched) return repeated(300, load);
	});
</script>

<div class="station" style:--side="326px">
	<section class="mat" aria-label={word('run.machine')}>
		{#if sheet}
			<RunSheet plan={plan!} {sheet} {t} {head} label={word('run.the-sheet-on-the-machine')}>
				{#snippet tabs()}
					<SheetTabs
						names={plan!.plan!.sheets.map(runName)}
						chosen={number - 1}
						done={new Set([...cut].map((n) => n - 1))}
						spoiled={new Set([...spoiled].map((n) => n - 1))}
						disabled={!!live}
						onchoose={(i) => (chosen = i + 1)}
					/>
					<span>{sheet.name}</span>
				{/snippet}
			</RunSheet>
		{:else}
			<div class="empty">
				<p>{word('run.there-is-no-cut-plan-yet')}</p>
				<button
					class="on-mat active"
					onclick={() =>
						navigate('/projects/:id/:station', {
							params: { id: String(work.id), station: 'cut-plan' }
						})}>{word('run.go-to-cut-plan')}</button
				>
			</div>
		{/if}
	</section>
	<aside class="side px-4 py-3">
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		{#if failed}<div class="note bad" role="alert">{session.told(failed.says)}</div>{/if}
		{#if work.project?.is_test && cut.size}
			<div class="note good">
				{word('run.cut')} <a class="underline" href="/projects/{work.id}/sheets">{word('run.enter-what-came-of-it')}</a>
			</div>
		{/if}
		{#if live}<RunLive run={live} labels={plan?.labels ?? {}} onchange={load} />
		{:else if broken}{#key broken.id}<Interrupted run={broken} labels={plan?.labels ?? {}} onchange={() => work.touched()} />{/key}
		{:else if toLog}{#key toLog.id}<LogForm run={toLog} onlogged={() => work.touched()} />{/key}
		{:else if plan && sheet && runs}
			{#if next < 0 && plan.fresh && !work.project?.is_test}<StillMissing />{/if}
			{#key number}<StartRun
					{number}
					of={Math.max(...plan.plan!.sheets.map((s) => s.number ?? 1))}
					{sheet}
					checklist={runs.checklists[String(number)] ?? []}
					fresh={plan.fresh}
					done={cut.has(number)}
					spoiled={spoiled.has(number)}
					projectId={work.id}
					onstarted={() => work.touched()}
				/>{/key}
		{/if}
		{#if runs}<RunLog {runs} test={work.project?.is_test} onlearned={() => work.touched()} />{/if}
	</aside>
</div>

<style>
	.empty {
		height: 100%;
		display: grid;
		place-content: center;
		justify-items: center;
		gap: 10px;
	}
</style>
