<!-- Carry stock and feel into a project, or begin one with them. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { ProjectCard } from '../../api/types';
	import { navigate } from '../../app/router';
	import { feelName } from '../../lib/ui/feels';
	import { word } from '../../words/words';

	let { projects, sheet, feel }: { projects: ProjectCard[]; sheet: { id: string; name: string }; feel: 'slides' | 'snug' | 'mallet' } =
		$props();
	let chosen = $state('');
	const into = $derived(chosen || String(projects[0]?.id ?? ''));
	let told = $state('');
	const id = $props.id();

	async function begin(): Promise<string> {
		const name = word('answers.box-in', { name: sheet.name }).slice(0, 80);
		const body = { name, width_mm: 180, depth_mm: 120, height_mm: 60, stock: Number(sheet.id), feel };
		return String((await need(api.POST('/api/projects', { body }))).id);
	}
	async function change(): Promise<string> {
		const params = { path: { project_id: Number(into) } };
		const now = await need(api.GET('/api/projects/{project_id}', { params }));
		const stocks = Object.fromEntries(Object.keys(now.design.stocks).map((role) => [role, sheet.id]));
		const body = {
			base: now.revision,
			design: { ...now.design, stocks, feel },
			label: word('answers.from-quick-answers', { name: sheet.name, feel: feelName(feel) })
		};
		await need(api.PUT('/api/projects/{project_id}/design', { params, body }));
		return into;
	}
	async function carry() {
		told = '';
		try {
			const made = await (into === 'new' ? begin() : change());
			await navigate('/projects/:id/:station', { params: { id: made, station: 'build' } });
		} catch (e) {
			told = (e as Error).message;
		}
	}
</script>

<div class="carry">
	<label for="{id}i">{word('answers.carry-stock-and-feel-into')}</label>
	<select class="select" id="{id}i" value={into} onchange={(e) => (chosen = e.currentTarget.value)}>
		{#each projects as c (c.id)}<option value={String(c.id)}>{word('answers.all-panels', { name: c.name })}</option>{/each}
		<option value="new">{word('answers.a-new-box')}</option>
	</select>
	<button class="btn main" disabled={!into} onclick={carry}>{word('answers.carry-it-over')}</button>
	{#if told}<div class="note bad" role="alert">{told}</div>{/if}
</div>

<style>
	.carry {
		margin-top: 14px;
		display: grid;
		gap: 6px;
	}
</style>
