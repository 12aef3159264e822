<!-- What if a sheet is thicker, or the beam wider, than believed: nothing is saved, the strip shows it at once. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { BuildOut, WhatIfOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { signed } from '../../lib/units/units';
	import BestTest from './BestTest.svelte';
	import { word } from '../../words/words';

	let { build, onchances }: { build: BuildOut; onchances: (out: WhatIfOut | null) => void } = $props();
	const work = useProject();
	const params = { path: { project_id: work.id } };
	let shifts = $state<Record<string, { thickness: number; kerf: number }>>({});
	let problem = $state('');
	const stocks = $derived(Object.entries(build.stocks));
	const moved = $derived(Object.values(shifts).some((s) => s.thickness || s.kerf));
	const slides = new Asked();

	$effect(() => {
		void build.built_from;
		shifts = {}; // of parts that are no more
	});
	async function slide(stock: string, what: 'thickness' | 'kerf', mm: number) {
		const before = shifts[stock] ?? { thickness: 0, kerf: 0 };
		shifts = { ...shifts, [stock]: { ...before, [what]: mm } };
		slides.forget();
		if (!moved) return onchances(null);
		try {
			const out = await slides.only(need(api.POST('/api/projects/{project_id}/what-if', { params, body: { shifts } })));
			if (out) onchances(out);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	function reset() {
		slides.forget();
		shifts = {};
		onchances(null);
	}
</script>

<div class="whatif" role="group" aria-label={word('dry-fit.what-if')}>
	{#each stocks as [id, s] (id)}
		{@const now = shifts[id] ?? { thickness: 0, kerf: 0 }}
		<div class="stock">
			<b>{s.name}</b>
			<label
				>{word('dry-fit.sheet')}
				<input
					type="range"
					min="-0.4"
					max="0.4"
					step="0.01"
					value={now.thickness}
					aria-label={word('dry-fit.sheet-off-by', { name: s.name })}
					oninput={(e) => slide(id, 'thickness', Number(e.currentTarget.value))}
				/><span class="fig">{signed(now.thickness, session.unit)}</span></label
			>
			<label
				>{word('dry-fit.beam')}
				<input
					type="range"
					min="-0.15"
					max="0.15"
					step="0.005"
					value={now.kerf}
					aria-label={word('dry-fit.beam-off-by', { name: s.name })}
					oninput={(e) => slide(id, 'kerf', Number(e.currentTarget.value))}
				/><span class="fig">{signed(now.kerf, session.unit)}</span></label
			>
		</div>
	{/each}
	<div class="told">
		{#if moved}<button class="btn" onclick={reset}>{word('dry-fit.as-believed')}</button>{/if}
		<BestTest {build} />
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
