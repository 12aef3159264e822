<!-- The shop board: projects, each with its picture and what comes next. -->
<script lang="ts">
	import { onDestroy } from 'svelte';
	import { api, need } from '../../api/client';
	import type { KeptAside, ProjectCard, ProjectPlace, Rack } from '../../api/types';
	import { navigate, p } from '../../app/router';
	import { session } from '../../app/session.svelte';
	import Mark from '../../lib/ui/Mark.svelte';
	import Aside from './Aside.svelte';
	import NewProject from './NewProject.svelte';
	import People from './People.svelte';
	import ProjectTile from './ProjectTile.svelte';
	import ShopNotes from './ShopNotes.svelte';
	import { word } from '../../words/words';

	let cards = $state.raw<ProjectCard[] | null>(null);
	let rack = $state.raw<Rack | null>(null);
	let problem = $state('');
	let aside = $state.raw<KeptAside[]>([]);

	async function load() {
		await Promise.all([
			board(),
			need(api.GET('/api/shop-board/aside')).then((found) => {
				aside = found;
			}),
			need(api.GET('/api/rack')).then((found) => {
				rack = found;
			})
		]);
	}
	/** The server builds for a moment and tells what it has; it is asked again until every project shows. */
	async function board() {
		do cards = await need(api.GET('/api/shop-board'));
		while (here && cards.some((c) => !c.face));
	}
	async function place(project: number, to: ProjectPlace) {
		problem = '';
		try {
			aside = await need(api.PUT('/api/projects/{project_id}/place', { params: { path: { project_id: project } }, body: { place: to } }));
			await board();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	let here = true;
	onDestroy(() => {
		here = false;
	});
	load().catch((e: Error) => (problem = e.message));
	const open = (id: number, station = 'build') => navigate('/projects/:id/:station', { params: { id: String(id), station } });
</script>

<div class="board">
	<header>
		<Mark /><b>{word('start.notch-board')}</b><span class="quiet">{session.me?.shop}</span><span class="grow"></span>
		<a class="quiet" href={p('/answers')}>{word('start.quick-answers')}</a>
		<button class="quiet" onclick={() => session.signOut()}>{word('start.sign-out', { username: session.me?.username })}</button>
	</header>
	<main class="mat">
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		<NewProject onmade={(id) => open(id)} />
		<div class="cards">
			{#each cards ?? [] as c (c.id)}
				<ProjectTile card={c} onopen={(station) => open(c.id, station)} onaway={() => place(c.id, 'away')} />
			{/each}
		</div>
		<Aside {aside} onplace={place} />
		{#if cards && !cards.length}<p>{word('start.no-projects-yet-choose-above-what')}</p>{/if}
	</main>
	<aside class="side px-4 py-4">
		<h2>{word('start.what-the-shop-must-know')}</h2>
		{#if rack}<ShopNotes {rack} />{/if}
		<People />
	</aside>
</div>

<style>
	.board {
		height: 100%;
		display: grid;
		grid-template: auto minmax(0, 1fr) / minmax(0, 1fr) 290px;
	}
	header {
		grid-column: 1 / -1;
		display: flex;
		gap: 12px;
		align-items: center;
		padding: 9px 14px;
		background: var(--bench-2);
	}
	header b {
		font-size: 17px;
	}
	.grow {
		flex: 1;
	}
	main {
		overflow: auto;
		padding: 22px 26px;
		background-image:
			linear-gradient(var(--mat-line-5) 1px, transparent 1px), linear-gradient(90deg, var(--mat-line-5) 1px, transparent 1px);
		background-size: 60px 60px;
	}
	.cards {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(248px, 1fr));
		gap: 16px;
		margin-top: 20px;
	}
</style>
