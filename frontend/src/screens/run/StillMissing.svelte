<!-- Once all sheets of a plan are cut: what of the batch is still missing, and the way to it. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { RecutOut } from '../../api/types';
	import { missingOf, packOnly } from '../../app/missing';
	import { useProject } from '../../app/project.svelte';
	import { word } from '../../words/words';

	const work = useProject();
	const asked = new Asked();
	let recut = $state.raw<RecutOut | null>(null);
	let problem = $state('');
	const missing = $derived(missingOf(recut));
	const count = $derived(Object.values(missing).reduce((a, b) => a + b, 0));
	const FEW = 6;
	const names = $derived((recut?.rows ?? []).filter((r) => missing[r.part]).map((r) => `${missing[r.part]} × ${r.label}`));
	$effect(() => {
		void work.version;
		asked
			.newest(need(api.GET('/api/projects/{project_id}/recut', { params: { path: { project_id: work.id } } })))
			.then((r) => (recut = r ?? recut))
			.catch((e: Error) => (problem = e.message));
	});
	const pack = () => packOnly(work, missing).catch((e: Error) => (problem = e.message));
</script>

{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
{#if count}
	<div class="note">
		<strong>{word('run.piece-still-missing', { count })}</strong>
		<p>{names.slice(0, FEW).join(', ')}{names.length > FEW ? ` ${word('run.and-more', { names: names.length - FEW })}` : ''}</p>
		<button class="btn main mt-2" onclick={pack}>{word('run.pack-only-what-is-missing')}</button>
	</div>
{:else if recut}<div class="note good">{word('run.every-piece-that-is-wanted-was')}</div>{/if}
