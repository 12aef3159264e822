<!-- Cut plan: an order one can trust, and the files. -->
<script lang="ts">
	import { untrack } from 'svelte';
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { PlanOut } from '../../api/types';
	import { navigate } from '../../app/router';
	import { pictureAddress } from '../../api/files';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { drawnStrokes } from '../../lib/mat/burn';
	import BurnSheet from '../../lib/mat/BurnSheet.svelte';
	import Mat from '../../lib/mat/Mat.svelte';
	import { runName, turnedBetween } from '../../lib/mat/runs';
	import JobNote from '../../lib/ui/JobNote.svelte';
	import SheetTabs from '../../lib/ui/SheetTabs.svelte';
	import { show } from '../../lib/units/units';
	import { askAgain, underWay } from '../../lib/ui/jobs';
	import PlanPanel from './PlanPanel.svelte';
	import Reel from './Reel.svelte';
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
	const drawn = $derived(sheet ? drawnStrokes(sheet) : []);
	const stock = $derived(sheet ? out!.stocks[sheet.stock] : undefined);

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
	const TURN_MS = 600;
	let squeeze = $state(1);
	/** Show another run; a sheet that is turned over for it is seen turning. */
	function choose(i: number) {
		const turned = turnedBetween(out?.plan?.sheets[number], out?.plan?.sheets[i]);
		t = 0;
		if (!turned || matchMedia('(prefers-reduced-motion: reduce)').matches) {
			number = i;
			return;
		}
		const begun = performance.now();
		requestAnimationFrame(function tick(now) {
			const share = Math.min((now - begun) / TURN_MS, 1);
			if (share >= 0.5) number = i;
			squeeze = share < 1 ? Math.abs(Math.cos(share * Math.PI)) : 1;
			if (share < 1) requestAnimationFrame(tick);
		});
	}
</script>

<div class="station">
	<div class="middle">
		<section aria-label={word('cutplan.sheet')}>
			{#if sheet}
				<Mat
					bounds={{ x0: 0, y0: 0, x1: sheet.width, y1: sheet.height + 40 }}
					label={word('cutplan.sheet-with-its-cuts')}
					inch={session.unit !== 'mm'}
					pad={22}
				>
					{#snippet children(scale)}<BurnSheet
							{sheet}
							{drawn}
							{t}
							{squeeze}
							colour={stock?.colour ?? '#ddd'}
							{scale}
							picture={(part, mark) => pictureAddress(work.id, part, mark, out!.plan_print ?? '')}
						/>{/snippet}
					{#snippet over()}
						<div class="tabs">
							<SheetTabs names={out!.plan!.sheets.map(runName)} chosen={Math.min(number, out!.plan!.sheets.length - 1)} onchoose={choose} />
							<span
								>{word('cutplan.measured', {
									name: stock?.name,
									value: show(stock?.thickness.value ?? 0, session.unit, true),
									width: show(sheet.width, session.unit),
									height: show(sheet.height, session.unit)
								})}</span
							>
						</div>
					{/snippet}
				</Mat>
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
	.tabs {
		position: absolute;
		left: 16px;
		top: 10px;
		display: flex;
		gap: 8px;
		align-items: center;
		color: var(--mat-ink);
	}
	.tabs span {
		margin-left: 10px;
	}
	.empty {
		height: 100%;
		display: grid;
		place-content: center;
		justify-items: center;
		gap: 10px;
	}
</style>
