<!-- All variants beside each other: what one of each takes, which one is chosen, and several of them made together. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { useProject } from '../../app/project.svelte';
	import { navigate } from '../../app/router';
	import Popup from '../../lib/ui/Popup.svelte';
	import { word } from '../../words/words';
	import VariantRow, { type Row } from './VariantRow.svelte';

	let { open = $bindable(), onchoose }: { open: boolean; onchoose: (choice: Record<string, string>) => Promise<void> } = $props();
	const work = useProject();
	const params = { path: { project_id: work.id } };
	let rows = $state.raw<Row[]>([]);
	let now = $state('');
	let problem = $state('');
	const key = (choice: Record<string, string>) => Object.values(choice).join(' · ');
	const done = $derived(rows.filter((r) => r.out).length);
	const wanted = $derived(rows.filter((r) => r.count > 0));

	/** One after the other: each is there as soon as it is known, and nothing goes on once the window is closed. */
	async function load() {
		try {
			const told = await need(api.GET('/api/projects/{project_id}/variants', { params }));
			now = key(told.now);
			rows = told.all.map((choice) => ({ choice, out: null, count: 0 }));
			for (const { choice } of rows) {
				if (!open) return;
				const out = await need(api.POST('/api/projects/{project_id}/variants/one', { params, body: { choice } }));
				rows = rows.map((r) => (r.choice === choice ? { ...r, out } : r));
			}
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	void load();

	async function choose(choice: Record<string, string>) {
		await onchoose(choice);
		now = key(choice);
	}
	async function together() {
		problem = '';
		try {
			const body = {
				name: word('build.made-together-name', { name: work.project!.name.slice(0, 60) }),
				wanted: wanted.map(({ choice, count }) => ({ choice, count }))
			};
			const made = await need(api.POST('/api/projects/{project_id}/variants/together', { params, body }));
			open = false;
			navigate('/projects/:id/:station', { params: { id: String(made.id), station: 'build' } });
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const counted = (row: Row, text: string) => {
		const count = Math.max(0, Math.min(200, Math.round(Number(text)) || 0));
		rows = rows.map((r) => (r.choice === row.choice ? { ...r, count } : r));
	};
</script>

<Popup bind:open title={word('build.all-variants')} size="lg">
	{#if done < rows.length}<p class="quiet" role="status">{word('build.still-looking', { done, all: rows.length })}</p>{/if}
	<div class="wide">
		<table>
			<thead>
				<tr>
					{#each Object.keys(rows[0]?.choice ?? {}) as name (name)}<th>{name}</th>{/each}
					<th class="n">{word('build.pieces-of-one')}</th><th>{word('build.sheets-of-one')}</th>
					<th class="n">{word('build.burning-of-one')}</th><th class="n">{word('build.price-of-one')}</th><th></th><th
						>{word('build.how-many-wanted')}</th
					>
				</tr>
			</thead>
			<tbody>
				{#each rows as row (key(row.choice))}
					<VariantRow
						{row}
						words={key(row.choice)}
						chosen={key(row.choice) === now}
						onchoose={() => void choose(row.choice)}
						oncount={(text) => counted(row, text)}
					/>
				{/each}
			</tbody>
		</table>
	</div>
	<div class="end">
		<p class="quiet">{word('build.cut-together-says')}</p>
		<button class="btn main" disabled={!wanted.length} onclick={together}>{word('build.cut-these-together')}</button>
	</div>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
</Popup>

<style>
	.wide {
		overflow: auto;
		max-height: 55vh;
	}
	table {
		color: var(--ink);
		width: 100%;
		border-collapse: collapse;
	}
	th {
		text-align: left;
		font-weight: 600;
		color: var(--ink-2);
		font-size: 12px;
		padding: 4px 10px 4px 0;
		border-bottom: 1px solid var(--rule);
	}
	.n {
		text-align: right;
	}
	.end {
		display: flex;
		gap: 14px;
		align-items: center;
		justify-content: space-between;
		margin-top: 10px;
	}
</style>
