<!-- After a change: which pieces that were cut still serve. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { RecutOut } from '../../api/types';
	import { missingOf, packOnly } from '../../app/missing';
	import { useProject } from '../../app/project.svelte';
	import Revisions from './Revisions.svelte';
	import { word } from '../../words/words';

	const work = useProject();
	const params = { path: { project_id: work.id } };
	const FATES = { recut: word('dry-fit.cut-again'), new: word('dry-fit.not-cut-yet'), good: word('dry-fit.still-good') } as const;
	let recut = $state.raw<RecutOut | null>(null);
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

	const cut = new Asked();
	async function load() {
		try {
			problem = '';
			recut = (await cut.newest(need(api.GET('/api/projects/{project_id}/recut', { params })))) ?? recut;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	$effect(() => {
		void work.version;
		void load();
	});
</script>

<h2>{word('dry-fit.pieces')}</h2>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
{#if recut && !anyCut}<p class="quiet">{word('dry-fit.nothing-of-this-project-was-cut')}</p>{/if}
{#if anyCut}
	{#each groups as g (g.fate)}
		<h3>{FATES[g.fate]}</h3>
		{#each g.rows as r (r.part)}<p class="row">
				<span>{r.label}</span><span class="fig">{word('dry-fit.of', { good: r.good, wanted: r.wanted })}</span>
			</p>{/each}
	{/each}
	{#if recut!.left_over.length}
		<h3>{word('dry-fit.no-longer-needed')}</h3>
		{#each recut!.left_over as r (r.label)}<p class="row"><span>{r.label}</span><span class="fig">{r.count}</span></p>{/each}
	{/if}
	<p class="quiet mt-2">{word('dry-fit.a-piece-serves-while-no-line', { size: session.length(0.01, 2) })}</p>
	{#if someMissing && someGood}<button class="btn main" onclick={packMissing}>{word('dry-fit.pack-only-what-is-missing')}</button>{/if}
{/if}
<Revisions />

<style>
	.row {
		display: flex;
		justify-content: space-between;
	}
</style>
