<!-- Two revisions side by side: what differs, edge by edge. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { CompareOut, RevisionOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { boundsOf, profilePath } from '../../lib/mat/outlines';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { word } from '../../words/words';

	const work = useProject();
	const id = $props.id();
	const params = { path: { project_id: work.id } };
	let revisions = $state.raw<RevisionOut[]>([]);
	let compared = $state.raw<CompareOut | null>(null);
	const attempt = new Attempt();
	const changed = $derived(compared?.parts.filter((p) => p.change !== 'same') ?? []);

	const [saved, comparisons] = [new Asked(), new Asked()];
	$effect(() => {
		void work.version;
		saved
			.newest(need(api.GET('/api/projects/{project_id}/revisions', { params })))
			.then((all) => (revisions = all ?? revisions))
			.catch(attempt.failed);
	});
	async function compare(number: number) {
		compared = null;
		comparisons.forget();
		if (!number) return;
		const path = { project_id: work.id, number };
		await attempt.at(async () => {
			const told = await comparisons.only(need(api.GET('/api/projects/{project_id}/compare/{number}', { params: { path } })));
			compared = told ?? compared;
		});
	}
	type Change = CompareOut['parts'][number];
	const line = (ring: readonly (readonly number[])[]) => `M${ring.map((p) => p.join(' ')).join('L')}`;
	const box = (p: Change) => {
		const all = [p.then, p.now].filter((x) => x !== null).map((x) => boundsOf(x!.outer as unknown as number[][]));
		return { w: Math.max(...all.map((b) => b.x1)), h: Math.max(...all.map((b) => b.y1)) };
	};
</script>

{#snippet side(p: Change, profile: Change['now'], edges: Change['edges_now'], words: string)}
	{@const b = box(p)}
	<figure>
		<svg viewBox="{-b.w * 0.03} {-b.h * 1.03 - 1} {b.w * 1.06} {b.h * 1.06 + 2}" role="img" aria-label="{p.label}, {words}">
			<g transform="scale(1 -1)">
				{#if profile}<path class="part" d={profilePath(profile)} />{/if}
				{#each edges ?? [] as e, i (i)}<path class="edge" d={line(e as unknown as number[][])} />{/each}
			</g>
		</svg>
		<figcaption class="quiet">{profile ? words : word('dry-fit.not', { words })}</figcaption>
	</figure>
{/snippet}

<h3>{word('dry-fit.two-revisions-side-by-side')}</h3>
<label for="{id}r">{word('dry-fit.now-against')}</label>
<select id="{id}r" class="select" onchange={(e) => compare(Number(e.currentTarget.value))}>
	<option value="">{word('dry-fit.choose-a-revision')}</option>
	{#each revisions.filter((r) => r.number !== work.project!.revision) as r (r.number)}
		<option value={r.number}>{r.number}: {r.label}</option>
	{/each}
</select>
{#if compared}
	<p class="quiet mt-2">
		{word('dry-fit.lit-edges-are-those-that-the', {
			changed: changed.length
				? word('dry-fit.of-parts-are-others-now', { changed: changed.length, parts: compared.parts.length })
				: word('dry-fit.every-part-is-the-same')
		})}
	</p>
	{#each changed as p (p.part)}
		<div class="pair">
			<b>{p.label}</b>{p.stock_changed ? ` · ${word('dry-fit.other-stock')}` : ''}
			<div class="two">
				{@render side(p, p.then, p.edges_then, word('dry-fit.then-before'))}
				{@render side(p, p.now, p.edges_now, word('dry-fit.as-now'))}
			</div>
		</div>
	{/each}
{/if}
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<style>
	.pair {
		border-top: 1px solid var(--rule);
		padding: 6px 0;
	}
	.two {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 8px;
	}
	svg {
		width: 100%;
		max-height: 120px;
		background: var(--color-mat);
		border-radius: 4px;
	}
	.part {
		fill: #e8cfa0;
		fill-rule: evenodd;
		stroke: #3a2a14;
		stroke-width: 1;
		vector-effect: non-scaling-stroke;
	}
	.edge {
		fill: none;
		stroke: #fff;
		stroke-width: 3.5;
		vector-effect: non-scaling-stroke;
	}
	figure {
		margin: 0;
	}
</style>
