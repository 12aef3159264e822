<!-- The test that would spare most rework, what it costs, and the way to it. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { AdviceOut, BuildOut, TestWorth } from '../../api/types';
	import { navigate } from '../../app/router';
	import { useProject } from '../../app/project.svelte';
	import { word } from '../../words/words';

	let { build }: { build: BuildOut } = $props();
	const work = useProject();
	const params = { path: { project_id: work.id } };
	let worth = $state.raw<TestWorth[]>([]);
	/** false until the server has said which test is worth something */
	let answered = $state(false);
	const unknown = $derived(
		Object.values(build.stocks)
			.filter((s) => [s.thickness, s.kerf].some((q) => q.terms.some((t) => t.trust !== 'measured')))
			.map((s) => s.name)
	);
	let problem = $state('');
	const [worths, costs] = [new Asked(), new Asked()];
	$effect(() => {
		void build.built_from;
		worths
			.only(need(api.GET('/api/projects/{project_id}/test-worth', { params })))
			.then((all) => all && ([worth, answered] = [all, true]))
			.catch((e: Error) => (problem = e.message));
	});
	const WORDS = { readings: word('dry-fit.more-readings'), kerf: word('dry-fit.a-kerf-test') } as const;
	const best = $derived(worth[0]);
	/** What the best test costs: minutes, and sheet where one is cut. */
	let cost = $state.raw<AdviceOut | null>(null);
	$effect(() => {
		const [test, machine] = [best, work.project!.machine];
		cost = null;
		costs.forget();
		if (!test) return;
		const params = { path: { stock_id: Number(test.stock) }, query: { machine: Number(machine) } };
		costs
			.only(need(api.GET('/api/stocks/{stock_id}', { params })))
			.then((stock) => (cost = stock?.advice.find((a) => a.action === (test.kind === 'kerf' ? 'strips' : 'reading')) ?? null))
			.catch((e: Error) => (problem = e.message));
	});
	const price = $derived(
		cost
			? word('dry-fit.it-takes-about', {
					minutes: Math.max(Math.round(cost.minutes), 1),
					piece: cost.size_mm ? ` ${word('dry-fit.and-a-piece-of-mm', { sizemm: cost.size_mm.map((v) => v.toFixed(0)).join(' × ') })}` : ''
				})
			: ''
	);
	const sheets = (stock: string) =>
		navigate('/projects/:id/:station', { params: { id: String(work.id), station: 'sheets' }, search: { stock } });
</script>

{#if best}<span
		>{word('dry-fit.most-would-help-of-about-joints', {
			WORDS: WORDS[best.kind],
			name: build.stocks[best.stock]?.name,
			saves: best.saves.toFixed(1),
			price
		})}</span
	><button class="btn" onclick={() => sheets(best.stock)}>{word('dry-fit.measure-it')}</button>
{:else if answered && unknown.length}<span class="quiet"
		>{word('dry-fit.no-test-would-spare-rework-that', { unknown: unknown.join(', '), n: unknown.length })}</span
	>
{:else if answered}<span class="quiet">{word('dry-fit.all-stocks-are-known-well-enough')}</span>{/if}{#if problem}<span role="alert"
		>{problem}</span
	>{/if}

<style>
	span {
		margin-right: 10px;
	}
</style>
