<!-- Lay out: parts on the sheets that are really there. -->
<script lang="ts">
	import { untrack } from 'svelte';
	import { api, need } from '../../api/client';
	import type { LayoutOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Mat from '../../lib/mat/Mat.svelte';
	import { show } from '../../lib/units/units';
	import PackPanel from './PackPanel.svelte';
	import SheetDrawing from './SheetDrawing.svelte';

	const work = useProject();
	const params = { path: { project_id: work.id } };
	let out = $state.raw<LayoutOut | null>(null);
	let problem = $state('');
	let picked = $state('');
	const busy = $derived(!!out?.job && ['waiting', 'running'].includes(out.job.state));
	const GAP = 40;
	/** Sheets side by side at one scale. */
	const placed = $derived.by(() => {
		let x = 0;
		return (out?.nesting?.sheets ?? []).map((s) => {
			const at = x;
			x += s.width + GAP;
			return { sheet: s, x: at };
		});
	});
	const bounds = $derived.by(() => {
		const last = placed[placed.length - 1];
		const high = Math.max(...placed.map((p) => p.sheet.height), 100);
		return {
			x0: 0,
			y0: -26,
			x1: last ? last.x + last.sheet.width : 600,
			y1: last ? high + 22 : 400
		};
	});
	const labels = $derived(new Map(out?.parts.map((p) => [p.id, p.label]) ?? []));
	const profiles = $derived(new Map(out?.parts.map((p) => [p.id, p.profile]) ?? []));

	async function load() {
		try {
			problem = '';
			out = await need(api.GET('/api/projects/{project_id}/layout', { params }));
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
			await load();
			if (!busy) await work.refreshStrip();
		}, 500);
		return () => clearInterval(timer);
	});
	async function pack(request: LayoutOut['request']) {
		out = await need(api.POST('/api/projects/{project_id}/layout/pack', { params, body: request }));
		await work.refreshStrip();
	}
	async function stop() {
		out = await need(api.POST('/api/projects/{project_id}/layout/stop', { params }));
	}
</script>

<div class="station">
	<section aria-label="Sheets">
		<Mat {bounds} label="Sheets side by side" inch={session.unit !== 'mm'} pad={30}>
			{#snippet children(scale)}
				{#each placed as p (p.sheet.sheet + p.sheet.copy)}
					<g transform="translate({p.x} 0)">
						<SheetDrawing
							sheet={p.sheet}
							{profiles}
							{labels}
							colour={out?.stocks[p.sheet.stock]?.colour ?? '#ddd'}
							bed={out?.bed_mm as [number, number]}
							{scale}
							bind:picked
							stale={!out?.fresh}
						/>
						<g
							transform="translate(0 {p.sheet.height + 10 / scale}) scale({1 / scale} {-1 / scale})"
							><text class="cap"
								>{p.sheet.name}, copy {p.sheet.copy + 1} · {(p.sheet.utilisation * 100).toFixed(0)} %
								used</text
							></g
						>
						<g
							transform="translate({p.sheet.width / 2} {-18 / scale}) scale({1 / scale} {-1 /
								scale})"
							><text class="dim"
								>{show(p.sheet.width, session.unit)} × {show(p.sheet.height, session.unit)}</text
							></g
						>
					</g>
				{/each}
			{/snippet}
			{#snippet over()}
				{#if problem}<div class="tip note bad" role="alert">{problem}</div>{/if}
				{#if out && !out.nesting && !busy}<div class="tip">
						Nothing is packed yet. Press “Pack the parts” on the right.
					</div>{/if}
				{#if out?.nesting && !out.fresh && !busy}<div class="tip" role="status">
						The design changed since: this is revision {out.revision}’s layout. Pack again.
					</div>{/if}
				{#if picked}<div class="tip low">{labels.get(picked.split('.')[0]!)}</div>{/if}
			{/snippet}
		</Mat>
	</section>
	{#if out}<PackPanel {out} {busy} onpack={pack} onstop={stop} />{/if}
</div>

<style>
	.station {
		height: 100%;
		display: grid;
		grid-template-columns: minmax(0, 1fr) 296px;
	}
	.station > * {
		min-height: 0;
	}
	.cap,
	.dim {
		font: 13px var(--font-sans);
		fill: var(--mat-ink);
	}
	.dim {
		font-family: var(--font-mono);
		font-size: 12px;
		text-anchor: middle;
		fill: var(--mat-ink-2);
	}
	.tip {
		position: absolute;
		left: 16px;
		top: 12px;
		background: var(--bench);
		color: var(--ink);
		padding: 6px 12px;
		border-radius: 4px;
	}
	.tip.low {
		top: auto;
		bottom: 14px;
	}
</style>
