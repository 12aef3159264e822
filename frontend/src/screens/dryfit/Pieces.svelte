<!-- After a change: which pieces that were cut still serve, and what two revisions differ in, edge by edge. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { CompareOut, RecutOut, RevisionOut } from '../../api/types';
	import { missingOf, packOnly } from '../../app/missing';
	import { useProject } from '../../app/project.svelte';
	import { boundsOf, profilePath } from '../../lib/mat/outlines';
	import { word } from '../../words/words';

	const work = useProject();
	const id = $props.id();
	const params = { path: { project_id: work.id } };
	const FATES = { recut: word('dryfit.cut-again'), new: word('dryfit.not-cut-yet'), good: word('dryfit.still-good') } as const;
	let recut = $state.raw<RecutOut | null>(null);
	let revisions = $state.raw<RevisionOut[]>([]);
	let compared = $state.raw<CompareOut | null>(null);
	let problem = $state('');
	const groups = $derived(
		(['recut', 'new', 'good'] as const)
			.map((fate) => ({ fate, rows: recut?.rows.filter((r) => r.fate === fate) ?? [] }))
			.filter((g) => g.rows.length)
	);
	const anyCut = $derived(!!recut && (recut.rows.some((r) => r.good || r.fate === 'recut') || recut.left_over.length > 0));
	const missing = $derived(missingOf(recut));
	const someMissing = $derived(Object.keys(missing).length > 0);
	const someGood = $derived(!!recut?.rows.some((r) => r.good));
	const packMissing = () => packOnly(work, missing).catch((e: Error) => (problem = e.message));
	const changed = $derived(compared?.parts.filter((p) => p.change !== 'same') ?? []);

	const [cut, saved, comparisons] = [new Asked(), new Asked(), new Asked()];
	async function load() {
		try {
			problem = '';
			recut = (await cut.newest(need(api.GET('/api/projects/{project_id}/recut', { params })))) ?? recut;
			revisions = (await saved.newest(need(api.GET('/api/projects/{project_id}/revisions', { params })))) ?? revisions;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	$effect(() => {
		void work.version;
		void load();
	});
	async function compare(number: number) {
		compared = null;
		comparisons.forget();
		if (!number) return;
		try {
			const path = { project_id: work.id, number };
			const told = await comparisons.only(need(api.GET('/api/projects/{project_id}/compare/{number}', { params: { path } })));
			compared = told ?? compared;
		} catch (e) {
			problem = (e as Error).message;
		}
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
		<figcaption class="quiet">{profile ? words : word('dryfit.not', { words })}</figcaption>
	</figure>
{/snippet}

<h2>{word('dryfit.pieces')}</h2>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
{#if recut && !anyCut}<p class="quiet">{word('dryfit.nothing-of-this-project-was-cut')}</p>{/if}
{#if anyCut}
	{#each groups as g (g.fate)}
		<h3>{FATES[g.fate]}</h3>
		{#each g.rows as r (r.part)}<p class="row">
				<span>{r.label}</span><span class="fig">{word('dryfit.of', { good: r.good, wanted: r.wanted })}</span>
			</p>{/each}
	{/each}
	{#if recut!.left_over.length}
		<h3>{word('dryfit.no-longer-needed')}</h3>
		{#each recut!.left_over as r (r.label)}<p class="row"><span>{r.label}</span><span class="fig">{r.count}</span></p>{/each}
	{/if}
	<p class="quiet mt-2">{word('dryfit.a-piece-serves-while-no-line', { size: session.length(0.01, 2) })}</p>
	{#if someMissing && someGood}<button class="btn main" onclick={packMissing}>{word('dryfit.pack-only-what-is-missing')}</button>{/if}
{/if}

<h3>{word('dryfit.two-revisions-side-by-side')}</h3>
<label for="{id}r">{word('dryfit.now-against')}</label>
<select id="{id}r" class="select" onchange={(e) => compare(Number(e.currentTarget.value))}>
	<option value="">{word('dryfit.choose-a-revision')}</option>
	{#each revisions.filter((r) => r.number !== work.project!.revision) as r (r.number)}
		<option value={r.number}>{r.number}: {r.label}</option>
	{/each}
</select>
{#if compared}
	<p class="quiet mt-2">
		{word('dryfit.lit-edges-are-those-that-the', {
			changed: changed.length
				? word('dryfit.of-parts-are-others-now', { changed: changed.length, parts: compared.parts.length })
				: word('dryfit.every-part-is-the-same')
		})}
	</p>
	{#each changed as p (p.part)}
		<div class="pair">
			<b>{p.label}</b>{p.stock_changed ? ` · ${word('dryfit.other-stock')}` : ''}
			<div class="two">
				{@render side(p, p.then, p.edges_then, 'then')}
				{@render side(p, p.now, p.edges_now, 'now')}
			</div>
		</div>
	{/each}
{/if}

<style>
	.row {
		display: flex;
		justify-content: space-between;
	}
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
