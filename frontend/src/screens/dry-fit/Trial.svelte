<!-- A trial in scrap: everything cut from one cheap sheet, what was felt written down, then back to the true stocks. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { sendTrialNote } from '../../api/files';
	import type { BuildOut, RackRow, TrialOut } from '../../api/types';
	import { navigate } from '../../app/router';
	import { useProject } from '../../app/project.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { FEELS } from '../../lib/ui/feels';
	import TrialNote from './TrialNote.svelte';
	import { word } from '../../words/words';

	let { build }: { build: BuildOut } = $props();
	const work = useProject();
	const id = $props.id();
	const params = { path: { project_id: work.id } };
	let notes = $state.raw<TrialOut[]>([]);
	let stocks = $state.raw<RackRow[]>([]);
	let about = $state('');
	let feel = $state('');
	let text = $state('');
	let photo = $state.raw<File | null>(null);
	const attempt = new Attempt();
	const now = $derived(work.project!.design.prototype ?? '');
	const names = $derived(new Map(build.parts.map((p) => [p.id, p.label])));
	const joints = $derived(
		build.meetings.filter((m) => m.feel).map((m) => ({ id: m.id, name: word('dry-fit.with', { a: names.get(m.a), b: names.get(m.b) }) }))
	);
	const called = $derived(new Map([...build.parts.map((p) => [p.id, p.label] as const), ...joints.map((j) => [j.id, j.name] as const)]));

	const load = async () => (notes = await need(api.GET('/api/projects/{project_id}/trial', { params })));
	void attempt.at(load);
	void attempt.at(async () => (stocks = (await need(api.GET('/api/rack'))).stocks));
	const swap = (stock: string | null) =>
		attempt.at(() =>
			work.saveWhole((d) => ({ ...d, prototype: stock }), stock ? word('dry-fit.trial-in-scrap') : word('dry-fit.back-to-the-true-stocks'))
		);
	const layOut = () => navigate('/projects/:id/:station', { params: { id: String(work.id), station: 'lay-out' } });
	/** What was measured on the trial goes back as an edit, where it belongs. */
	function goTo(what: string) {
		const search: Record<string, string> = names.has(what) ? { panel: what } : { meeting: what };
		void navigate('/projects/:id/:station', { params: { id: String(work.id), station: 'build' }, search });
	}
	function add(event: SubmitEvent) {
		event.preventDefault();
		return attempt.at(async () => {
			await sendTrialNote(work.id, { about, feel, text }, photo);
			[about, feel, text, photo] = ['', '', '', null];
			await load();
		});
	}
	const drop = (note: TrialOut) =>
		attempt.at(async () => {
			await need(api.DELETE('/api/projects/{project_id}/trial/{note_id}', { params: { path: { project_id: work.id, note_id: note.id } } }));
			await load();
		});
</script>

<h2>{word('dry-fit.trial-in-scrap')}</h2>
{#if now}
	<p>
		{word('dry-fit.everything-is-cut-from')} <b>{stocks.find((s) => s.id === now)?.name ?? word('dry-fit.scrap')}</b>
		{word('dry-fit.now-your-choice-of-stocks-is')}
	</p>
	<div class="acts">
		<button class="btn main" onclick={layOut}>{word('dry-fit.lay-it-out')}</button><button class="btn" onclick={() => swap(null)}
			>{word('dry-fit.back-to-the-true-stocks')}</button
		>
	</div>
{:else}
	<p class="quiet">{word('dry-fit.cut-it-once-from-something-cheap')}</p>
	<label for="{id}s">{word('dry-fit.cut-it-from')}</label>
	<select id="{id}s" class="select" value="" onchange={(e) => e.currentTarget.value && void swap(e.currentTarget.value)}>
		<option value="">{word('dry-fit.choose-the-scrap')}</option>
		{#each stocks.filter((s) => s.verdict !== 'forbidden') as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
	</select>
{/if}
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<h3>{word('dry-fit.what-was-felt-and-seen')}</h3>
<form onsubmit={add} aria-label={word('dry-fit.a-note-on-the-trial')}>
	<label for="{id}a">{word('dry-fit.about')}</label>
	<select id="{id}a" class="select" bind:value={about}>
		<option value="">{word('dry-fit.the-whole')}</option>
		<optgroup label={word('dry-fit.joints')}
			>{#each joints as j (j.id)}<option value={j.id}>{j.name}</option>{/each}</optgroup
		>
		<optgroup label={word('dry-fit.panels')}
			>{#each build.parts as p (p.id)}<option value={p.id}>{p.label}</option>{/each}</optgroup
		>
	</select>
	<label for="{id}f">{word('dry-fit.feel')}</label>
	<select id="{id}f" class="select" bind:value={feel}>
		<option value="">{word('dry-fit.not-felt')}</option>
		{#each FEELS as f (f.key)}<option value={f.key}>{f.name}</option>{/each}
	</select>
	<label for="{id}t">{word('dry-fit.in-words')}</label>
	<textarea id="{id}t" class="input" bind:value={text} placeholder={word('dry-fit.what-to-change-what-was-in')}></textarea>
	<label for="{id}p">{word('dry-fit.photo')}</label>
	<input id="{id}p" type="file" accept=".png,.jpg,.jpeg" onchange={(e) => (photo = e.currentTarget.files?.[0] ?? null)} />
	<button class="btn main" disabled={!text.trim() && !feel && !photo}>{word('dry-fit.write-it-down')}</button>
</form>
{#each notes as n (n.id)}
	<TrialNote note={n} projectId={work.id} called={called.get(n.about)} ongo={() => goTo(n.about)} ondrop={() => drop(n)} />
{/each}

<style>
	form {
		display: grid;
		grid-template-columns: 74px 1fr;
		gap: 5px 8px;
		align-items: center;
	}
	form .btn {
		grid-column: 2;
		justify-self: start;
	}
	input[type='file'] {
		width: 100%;
		font-size: 12px;
	}
	textarea {
		min-height: 52px;
	}
	.acts {
		display: flex;
		gap: 6px;
		margin: 6px 0;
	}
</style>
