<!-- Dry fit: find out before the fire. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { BuildOut, CheckOut, Finding, WhatIfOut } from '../../api/types';
	import { pictureAddress } from '../../api/files';
	import { Followed } from '../../app/followed.svelte';
	import { useProject } from '../../app/project.svelte';
	import SceneView from '../../lib/mat/SceneView.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import Findings from './Findings.svelte';
	import FitPlays from './FitPlays.svelte';
	import FitStrip from './FitStrip.svelte';
	import { ringsOf } from '../../lib/mat/rings';
	import Joints from './Joints.svelte';
	import Pieces from './Pieces.svelte';
	import JobNote from '../../lib/ui/JobNote.svelte';
	import Player from './Player.svelte';
	import { firstOfItsOwn, notThere, offsetsOf } from './scope';
	import Steps from './Steps.svelte';
	import Trial from './Trial.svelte';
	import WhatIf from './WhatIf.svelte';
	import { word } from '../../words/words';

	const work = useProject();
	const params = { path: { project_id: work.id } };
	const check = new Followed<CheckOut>(work, () => need(api.GET('/api/projects/{project_id}/dry-fit', { params })), { load });
	const out = $derived(check.out);
	const busy = $derived(check.busy);
	const { attempt } = check;
	let build = $state.raw<BuildOut | null>(null);
	/** what is shown is of a revision that is no more */
	let loading = $state(false);
	let lit = $state.raw(new Set<string>());
	/** around the places that a finding means, by part */
	let rings = $state.raw(new Map<string, number[][][]>());
	/** the step shown; beyond the last one, all is together: so it stands until a person steps back */
	let at = $state(Infinity);
	let move = $state(1);
	let tab = $state<'findings' | 'steps' | 'joints' | 'trial' | 'pieces'>('findings');
	let tried = $state.raw<WhatIfOut | null>(null);
	const TABS = [
		{ value: 'findings' as const, name: word('dry-fit.findings') },
		{ value: 'steps' as const, name: word('dry-fit.steps') },
		{ value: 'joints' as const, name: word('dry-fit.joints') },
		{ value: 'trial' as const, name: word('dry-fit.trial') },
		{ value: 'pieces' as const, name: word('dry-fit.pieces') }
	];
	/** In the order in which they are done: a person's own where there is one. */
	const steps = $derived(out?.guide.length ? out.guide : (out?.result?.order.steps ?? []));
	const names = $derived(new Map(build?.parts.map((p) => [p.id, p.label]) ?? []));
	const itemNames = $derived(new Map(build?.items.map((i) => [i.id, i.label]) ?? []));
	const colours = $derived(Object.fromEntries(Object.entries(build?.stocks ?? {}).map(([k, s]) => [k, s.colour])));
	const size = $derived(build?.size_mm || 100);
	const playing = $derived(steps.length > 0 && at < steps.length);
	const hidden = $derived(playing ? notThere(steps, at) : new Set<string>());
	const offsets = $derived(offsetsOf(steps, at, move, size * 0.55));

	const builds = new Asked();
	async function load() {
		loading = true;
		if (tab !== 'steps') at = Infinity; // at once: a step taken while this waits is not taken back
		await attempt.at(async () => {
			build = (await builds.newest(need(api.GET('/api/projects/{project_id}/build', { params })))) ?? build;
			await check.ask();
			if (!out!.fresh && !busy) await check.change(need(api.POST('/api/projects/{project_id}/dry-fit', { params })));
			tried = null;
		});
		loading = false;
	}
	const stop = () => attempt.at(() => check.change(need(api.POST('/api/projects/{project_id}/dry-fit/stop', { params }))));
	function lightUp(parts: string[]) {
		lit = new Set(parts);
		rings = new Map();
	}
	function show(f: Finding) {
		lit = new Set(f.parts ?? []);
		rings = ringsOf(f, Math.max(size * 0.025, 3));
		at = Infinity;
	}
</script>

<div class="station">
	<div class="middle">
		<section aria-label="3D">
			{#if build}<SceneView
					parts={build.parts}
					{colours}
					clear={(s) => build?.stocks[s]?.clear ?? false}
					picture={(part, mark) => pictureAddress(work.id, part, mark, build!.built_from)}
					way={playing && !firstOfItsOwn(steps, at) ? (steps[at] as { parts: string[]; direction: number[] }) : null}
					{offsets}
					{hidden}
					{lit}
					features={rings}
				/>{/if}
			<Player {steps} {names} bind:at bind:move />
		</section>
		<div class="strip">
			{#if out?.result && build}<FitStrip
					chances={tried?.chances ?? out.result.chances}
					boundaries={out.boundaries}
					meetings={build.meetings}
					{names}
					expected={tried?.expected_rework ?? out.result.expected_rework}
					tried={!!tried}
					onpick={(m) => lightUp([m.a, m.b])}
				/>
				<FitPlays plays={tried?.plays ?? out.result.plays ?? []} names={itemNames} />
				<WhatIf {build} onchances={(o) => (tried = o)} />{/if}
		</div>
	</div>
	<aside class="side px-4 py-3">
		<div class="tabs"><Choice label={word('dry-fit.show')} options={TABS} value={tab} onchoose={(v) => (tab = v)} /></div>
		{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
		{#if busy}<JobNote
				job={out?.job ?? null}
				doing={word('dry-fit.checking-in-the-background')}
				stop={word('dry-fit.stop-tell-what-was-found')}
				onstop={stop}
			/>{/if}
		{#if tab === 'trial' && build}<Trial {build} />
		{:else if tab === 'pieces'}<Pieces />
		{:else if out?.result && tab === 'steps'}
			<Steps steps={out.guide} {names} {at} onpick={(i) => ((at = i), (move = 1))} />
		{:else if out?.result && tab === 'joints' && build}
			<Joints chances={tried?.chances ?? out.result.chances} {build} {names} onpick={(m) => lightUp([m.a, m.b])} />
		{:else if out?.result}<Findings result={out.result} steps={steps.length} waiting={loading || busy} onshow={show} />{/if}
	</aside>
</div>

<style>
	.middle {
		display: grid;
		grid-template-rows: minmax(0, 1fr) auto;
	}
	section {
		position: relative;
		min-height: 0;
	}
	.tabs {
		margin-bottom: 10px;
	}
	.strip {
		background: var(--bench);
		border-top: 1px solid var(--rule);
	}
</style>
