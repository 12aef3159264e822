<!-- Cut plan: an order one can trust, and the files. -->
<script lang="ts">
	import { untrack } from 'svelte';
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { PlanOut } from '../../api/types';
	import { navigate } from '../../app/router';
	import { useProject } from '../../app/project.svelte';
	import { turnedBetween } from '../../lib/mat/runs';
	import JobNote from '../../lib/ui/JobNote.svelte';
	import { askAgain, underWay } from '../../lib/ui/jobs';
	import PlanPanel from './PlanPanel.svelte';
	import PlanSheet from './PlanSheet.svelte';
	import Reel from './Reel.svelte';
	import { turnOver } from './turnover';
	import { word } from '../../words/words';

	const work = useProject();
	const params = { path: { project_id: work.id } };
	let out = $state.raw<PlanOut | null>(null);
	let problem = $state('');
	let number = $state(0);
	let t = $state(0);
	const busy = $derived(underWay(out?.job));
	const again = $derived(askAgain(out?.job));
	const sheet = $derived(out?.plan?.sheets[Math.min(number, out.plan.sheets.length - 1)] ?? null);

	const asked = new Asked();
	async function take(question: Promise<PlanOut>) {
		out = (await asked.newest(question)) ?? out;
	}
	async function load() {
		try {
			problem = '';
			await take(need(api.GET('/api/projects/{project_id}/plan', { params })));
			if (out?.laid_out && out.layout_fresh && !out.plan) await plan();
			if (sheet && (t === 0 || t > sheet.seconds)) t = sheet.seconds * 0.42;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	async function plan() {
		problem = '';
		try {
			out = await asked.changed(need(api.POST('/api/projects/{project_id}/plan', { params })));
			await work.refreshStrip();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	async function stop() {
		try {
			out = await asked.changed(need(api.POST('/api/projects/{project_id}/plan/stop', { params })));
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	function changed(told: PlanOut) {
		void take(Promise.resolve(told));
		number = Math.min(number, Math.max((told.plan?.sheets.length ?? 1) - 1, 0));
		const now = told.plan?.sheets[number];
		if (now && t > now.seconds) t = now.seconds * 0.42; // the reel is shorter than it was
		void work.refreshStrip();
	}
	$effect(() => {
		void work.version;
		untrack(() => void load());
	});
	$effect(() => {
		if (!again) return;
		const timer = setInterval(async () => {
			await load();
			if (!busy) await work.refreshStrip();
		}, again);
		return () => clearInterval(timer);
	});
	let squeeze = $state(1);
	/** Show another run; a sheet that is turned over for it is seen turning. */
	function choose(i: number) {
		const turned = turnedBetween(out?.plan?.sheets[number], out?.plan?.sheets[i]);
		t = 0;
		if (!turned || matchMedia('(prefers-reduced-motion: reduce)').matches) {
			number = i;
			return;
		}
		turnOver(
			() => (number = i),
			(share) => (squeeze = share)
		);
	}
</script>

<div class="station">
	<div class="middle">
		<section aria-label={word('cutplan.sheet')}>
			{#if sheet}
				<PlanSheet out={out!} {sheet} {t} chosen={Math.min(number, out!.plan!.sheets.length - 1)} onchoose={choose} {squeeze} />
			{:else}
				<div class="mat empty">
					{#if out && !out.laid_out}<p>{word('cutplan.nothing-is-laid-out-yet')}</p>
						<button
							class="on-mat active"
							onclick={() =>
								navigate('/projects/:id/:station', {
									params: { id: String(work.id), station: 'lay-out' }
								})}>{word('cutplan.go-to-lay-out')}</button
						>
					{:else if busy}<JobNote
							job={out?.job ?? null}
							doing={word('cutplan.planning')}
							stop={word('cutplan.stop')}
							onstop={stop}
						/>{:else}<p>{problem}</p>{/if}
				</div>
			{/if}
		</section>
		{#if sheet}<Reel {sheet} labels={out!.labels} bind:t />{/if}
	</div>
	{#if out}<PlanPanel
			{out}
			{sheet}
			{problem}
			{busy}
			projectId={work.id}
			number={Math.min(number, (out.plan?.sheets.length ?? 1) - 1)}
			bind:t
			onplan={plan}
			onmachine={load}
			onchange={changed}
		/>{/if}
</div>

<style>
	.station {
		height: 100%;
		display: grid;
		grid-template-columns: minmax(0, 1fr) 316px;
	}
	.station > * {
		min-height: 0;
	}
	.middle {
		display: grid;
		grid-template-rows: minmax(0, 1fr) auto;
	}
	section {
		min-height: 0;
	}
	.empty {
		height: 100%;
		display: grid;
		place-content: center;
		justify-items: center;
		gap: 10px;
	}
</style>
