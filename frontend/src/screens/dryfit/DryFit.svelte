<!-- Dry fit: find out before the fire. -->
<script lang="ts">
	import { untrack } from 'svelte';
	import { api, need } from '../../api/client';
	import type { BuildOut, CheckOut, Finding } from '../../api/types';
	import { navigate } from '../../app/router';
	import { useProject } from '../../app/project.svelte';
	import SceneView from '../../lib/mat/SceneView.svelte';
	import FitStrip from './FitStrip.svelte';
	import Player from './Player.svelte';

	const work = useProject();
	const params = { path: { project_id: work.id } };
	let out = $state.raw<CheckOut | null>(null);
	let build = $state.raw<BuildOut | null>(null);
	let problem = $state('');
	let picked = $state.raw<Finding | null>(null);
	let lit = $state.raw(new Set<string>());
	let at = $state(0);
	let move = $state(1);
	let fineOpen = $state(false);
	let all = $state(false);
	const FEW = 6;
	const busy = $derived(!!out?.job && ['waiting', 'running'].includes(out.job.state));
	const steps = $derived(out?.result?.order.steps ?? []);
	const names = $derived(new Map(build?.parts.map((p) => [p.id, p.label]) ?? []));
	const colours = $derived(Object.fromEntries(Object.entries(build?.stocks ?? {}).map(([k, s]) => [k, s.colour])));
	const groups = $derived({
		must: out?.result?.findings.filter((f) => f.severity === 'must') ?? [],
		look: out?.result?.findings.filter((f) => f.severity === 'look') ?? [],
		fine: out?.result?.findings.filter((f) => f.severity === 'fine') ?? []
	});
	const size = $derived(build?.size_mm || 100);
	const playing = $derived(steps.length > 0 && at < steps.length);
	const hidden = $derived(new Set(playing ? steps.slice(at + 1).flatMap((s) => s.parts) : []));
	const offsets = $derived.by(() => {
		const map = new Map<string, [number, number, number]>();
		const step = playing ? steps[at] : null;
		if (step && at > 0)
			for (const p of step.parts) map.set(p, step.direction.map((d) => -d * size * 0.55 * (1 - move)) as [number, number, number]);
		return map;
	});

	async function load() {
		try {
			problem = '';
			build = await need(api.GET('/api/projects/{project_id}/build', { params }));
			out = await need(api.GET('/api/projects/{project_id}/check', { params }));
			if (!out.fresh && !['waiting', 'running'].includes(out.job?.state ?? '')) {
				out = await need(api.POST('/api/projects/{project_id}/check', { params }));
				await work.refreshStrip();
			}
			at = out.result?.order.steps.length ?? 0;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	$effect(() => {
		void work.version;
		untrack(() => void load());
	});
	$effect(() => {
		if (!busy) return;
		const timer = setInterval(async () => {
			out = await need(api.GET('/api/projects/{project_id}/check', { params }));
			if (out.fresh) await work.refreshStrip();
		}, 500);
		return () => clearInterval(timer);
	});
	function show(f: Finding) {
		picked = f;
		lit = new Set(f.parts ?? []);
		at = steps.length;
	}
	function go(f: Finding) {
		const search: Record<string, string> = f.meeting ? { meeting: f.meeting } : f.parts?.[0] ? { panel: f.parts[0] } : {};
		navigate('/projects/:id/:station', {
			params: { id: String(work.id), station: 'build' },
			search
		});
	}
</script>

<div class="station">
	<div class="middle">
		<section aria-label="3D">
			{#if build}<SceneView
					parts={build.parts}
					{colours}
					clear={(s) => build?.stocks[s]?.family === 'acrylic'}
					{offsets}
					{hidden}
					{lit}
				/>{/if}
			<Player {steps} {names} bind:at bind:move />
		</section>
		<div class="strip">
			{#if out?.result && build}<FitStrip
					odds={out.result.odds}
					boundaries={out.boundaries}
					meetings={build.meetings}
					{names}
					expected={out.result.expected_rework}
					onpick={(m) => (lit = new Set([m.a, m.b]))}
				/>{/if}
		</div>
	</div>
	<aside class="side px-4 py-3">
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		{#if busy}<p>Checking in the background …</p>{/if}
		{#if out?.result}
			<h2>
				{groups.must.length ? `${groups.must.length} to fix` : groups.look.length ? 'It goes together' : 'It fits'}
			</h2>
			<p class="quiet">
				{groups.must.length
					? 'before anything is cut'
					: `${steps.length} steps by straight moves · about ${out.result.expected_rework.toFixed(1)} of ${out.result.odds.length} joints will need a hand`}
			</p>
			{#each [['must', 'Must fix', groups.must], ['look', 'Look at', groups.look]] as const as [key, title, list] (key)}
				{#if list.length}
					<h3>{title}</h3>
					{#each all ? list : list.slice(0, FEW) as f, i (i)}
						<div class="note" class:bad={key === 'must'} class:picked={picked === f}>
							<button class="text" onclick={() => show(f)}>{f.message}</button>
							<button class="btn" onclick={() => go(f)}>{f.field ? 'Change the number' : 'Go there'}</button>
						</div>
					{/each}
					{#if !all && list.length > FEW}<button class="btn" onclick={() => (all = true)}>{list.length - FEW} more like these</button>{/if}
				{/if}
			{/each}
			<button class="fine" aria-expanded={fineOpen} onclick={() => (fineOpen = !fineOpen)}
				>{groups.fine.length} checks fine {fineOpen ? '▴' : '▾'}</button
			>
			{#if fineOpen || !(groups.must.length + groups.look.length)}<ul>
					{#each groups.fine as f (f.code)}<li>{f.message}</li>{/each}
				</ul>{/if}
			{#if steps.length}
				<h3>Order of assembly</h3>
				<ol>
					{#each steps as s, i (i)}<li>
							<button class:on={i === at} onclick={() => ((at = i), (move = 1))}>{s.parts.map((p) => names.get(p)).join(' + ')}</button>
						</li>{/each}
				</ol>
			{/if}
			<div class="note mt-3">
				Anything that people stand, sit or hang on needs a qualified person's check: this program does not certify strength.
			</div>
		{/if}
	</aside>
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
		position: relative;
		min-height: 0;
	}
	.strip {
		background: var(--bench);
		border-top: 1px solid var(--rule);
	}
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
		margin: 12px 0 4px;
	}
	.text {
		text-align: left;
		display: block;
		margin-bottom: 6px;
	}
	.picked {
		background: var(--pick);
	}
	.fine {
		margin-top: 10px;
		color: var(--ink-2);
	}
	ul {
		list-style: '✓  ';
		padding-left: 18px;
		color: var(--ink-2);
	}
	ol {
		list-style: decimal;
		padding-left: 24px;
	}
	ol button {
		padding: 1px 6px;
		border-radius: 4px;
		text-align: left;
	}
	ol button:hover,
	ol .on {
		background: var(--pick);
	}
</style>
