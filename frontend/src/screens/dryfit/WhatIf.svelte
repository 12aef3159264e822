<!-- What if a sheet is thicker, or the beam wider, than believed: nothing is saved, the strip shows it at once. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { AdviceOut, BuildOut, TestWorth, WhatIfOut } from '../../api/types';
	import { navigate } from '../../app/router';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { signed } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { build, onodds }: { build: BuildOut; onodds: (out: WhatIfOut | null) => void } = $props();
	const work = useProject();
	const params = { path: { project_id: work.id } };
	let shifts = $state<Record<string, { thickness: number; kerf: number }>>({});
	let worth = $state.raw<TestWorth[]>([]);
	/** false until the server has said which test is worth something */
	let answered = $state(false);
	const unknown = $derived(
		Object.values(build.stocks)
			.filter((s) => [s.thickness, s.kerf].some((q) => q.terms.some((t) => t.trust !== 'measured')))
			.map((s) => s.name)
	);
	let problem = $state('');
	const stocks = $derived(Object.entries(build.stocks));
	const moved = $derived(Object.values(shifts).some((s) => s.thickness || s.kerf));
	const [slides, worths, costs] = [new Asked(), new Asked(), new Asked()];

	$effect(() => {
		void build.built_from;
		shifts = {}; // of parts that are no more
		worths
			.only(need(api.GET('/api/projects/{project_id}/test-worth', { params })))
			.then((all) => all && ([worth, answered] = [all, true]))
			.catch((e: Error) => (problem = e.message));
	});
	async function slide(stock: string, what: 'thickness' | 'kerf', mm: number) {
		const before = shifts[stock] ?? { thickness: 0, kerf: 0 };
		shifts = { ...shifts, [stock]: { ...before, [what]: mm } };
		slides.forget();
		if (!moved) return onodds(null);
		try {
			const out = await slides.only(need(api.POST('/api/projects/{project_id}/what-if', { params, body: { shifts } })));
			if (out) onodds(out);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	function reset() {
		slides.forget();
		shifts = {};
		onodds(null);
	}
	const WORDS = { readings: word('dryfit.more-readings'), kerf: word('dryfit.a-kerf-test') } as const;
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
			? `It takes about ${Math.max(Math.round(cost.minutes), 1)} min${cost.size_mm ? ` ${word('dryfit.and-a-piece-of-mm', { sizemm: cost.size_mm.map((v) => v.toFixed(0)).join(' × ') })}` : ''}.`
			: ''
	);
	const sheets = (stock: string) =>
		navigate('/projects/:id/:station', { params: { id: String(work.id), station: 'sheets' }, search: { stock } });
</script>

<div class="whatif" role="group" aria-label={word('dryfit.what-if')}>
	{#each stocks as [id, s] (id)}
		{@const now = shifts[id] ?? { thickness: 0, kerf: 0 }}
		<div class="stock">
			<b>{s.name}</b>
			<label
				>{word('dryfit.sheet')}
				<input
					type="range"
					min="-0.4"
					max="0.4"
					step="0.01"
					value={now.thickness}
					aria-label={word('dryfit.sheet-off-by', { name: s.name })}
					oninput={(e) => slide(id, 'thickness', Number(e.currentTarget.value))}
				/><span class="fig">{signed(now.thickness, session.unit)}</span></label
			>
			<label
				>{word('dryfit.beam')}
				<input
					type="range"
					min="-0.15"
					max="0.15"
					step="0.005"
					value={now.kerf}
					aria-label={word('dryfit.beam-off-by', { name: s.name })}
					oninput={(e) => slide(id, 'kerf', Number(e.currentTarget.value))}
				/><span class="fig">{signed(now.kerf, session.unit)}</span></label
			>
		</div>
	{/each}
	<div class="told">
		{#if moved}<button class="btn" onclick={reset}>{word('dryfit.as-believed')}</button>{/if}
		{#if best}<span
				>{word('dryfit.most-would-help-of-about-joints', {
					WORDS: WORDS[best.kind],
					name: build.stocks[best.stock]?.name,
					saves: best.saves.toFixed(1),
					price
				})}</span
			><button class="btn" onclick={() => sheets(best.stock)}>{word('dryfit.measure-it')}</button>
		{:else if answered && unknown.length}<span class="quiet"
				>{word('dryfit.no-test-would-spare-rework-that', { unknown: unknown.join(', '), n: unknown.length })}</span
			>
		{:else if answered}<span class="quiet">{word('dryfit.all-stocks-are-known-well-enough')}</span>{/if}
		{#if problem}<span role="alert">{problem}</span>{/if}
	</div>
</div>

<style>
	.whatif {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 26px;
		padding: 4px 16px 8px;
		font-size: 12.5px;
		align-items: center;
	}
	.stock {
		display: flex;
		gap: 12px;
		align-items: center;
	}
	label {
		display: flex;
		gap: 6px;
		align-items: center;
		color: var(--ink-2);
	}
	input {
		width: 90px;
		accent-color: var(--color-mat);
	}
	.fig {
		min-width: 46px;
		text-align: right;
	}
	.told {
		display: flex;
		gap: 10px;
		align-items: center;
	}
</style>
