<!-- Cut plan: an order one can trust, and the files. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { PlanOut } from '../../api/types';
	import { navigate } from '../../app/router';
	import { Followed } from '../../app/followed.svelte';
	import { useProject } from '../../app/project.svelte';
	import { turnedBetween } from '../../lib/mat/runs';
	import JobNote from '../../lib/ui/JobNote.svelte';
	import PlanPanel from './PlanPanel.svelte';
	import PlanSheet from './PlanSheet.svelte';
	import Reel from './Reel.svelte';
	import { turnOver } from './turnover';
	import { word } from '../../words/words';

	const work = useProject();
	const params = { path: { project_id: work.id } };
	const planned = new Followed<PlanOut>(work, () => need(api.GET('/api/projects/{project_id}/cut-plan', { params })), {
		load,
		again: load
	});
	const out = $derived(planned.out);
	const busy = $derived(planned.busy);
	const { attempt } = planned;
	let number = $state(0);
	let t = $state(0);
	const sheet = $derived(out?.plan?.sheets[Math.min(number, out.plan.sheets.length - 1)] ?? null);

	async function load() {
		await planned.look();
		if (out?.laid_out && out.layout_fresh && !out.plan) await plan();
		if (sheet && (t === 0 || t > sheet.seconds)) t = sheet.seconds * 0.42;
	}
	const plan = () => attempt.at(() => planned.change(need(api.POST('/api/projects/{project_id}/cut-plan', { params }))));
	const stop = () => attempt.at(() => planned.change(need(api.POST('/api/projects/{project_id}/cut-plan/stop', { params }))));
	function changed(told: PlanOut) {
		planned.taken(told);
		number = Math.min(number, Math.max((told.plan?.sheets.length ?? 1) - 1, 0));
		const now = told.plan?.sheets[number];
		if (now && t > now.seconds) t = now.seconds * 0.42; // the reel is shorter than it was
	}
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
		<section aria-label={word('cut-plan.sheet')}>
			{#if sheet}
				<PlanSheet out={out!} {sheet} {t} chosen={Math.min(number, out!.plan!.sheets.length - 1)} onchoose={choose} {squeeze} />
			{:else}
				<div class="mat empty">
					{#if out && !out.laid_out}<p>{word('cut-plan.nothing-is-laid-out-yet')}</p>
						<button
							class="on-mat active"
							onclick={() =>
								navigate('/projects/:id/:station', {
									params: { id: String(work.id), station: 'lay-out' }
								})}>{word('cut-plan.go-to-lay-out')}</button
						>
					{:else if busy}<JobNote
							job={out?.job ?? null}
							doing={word('cut-plan.planning')}
							stop={word('cut-plan.stop')}
							onstop={stop}
						/>{:else}<p>{attempt.problem}</p>{/if}
				</div>
			{/if}
		</section>
		{#if sheet}<Reel {sheet} labels={out!.labels} bind:t />{/if}
	</div>
	{#if out}<PlanPanel
			{out}
			{sheet}
			problem={attempt.problem}
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
