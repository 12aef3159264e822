<!-- The shop board: projects, each with its picture and what comes next. -->
<script lang="ts">
	import { onDestroy } from 'svelte';
	import { api, need } from '../../api/client';
	import type { KeptAside, ProjectCard, ProjectPlace, Rack } from '../../api/types';
	import { navigate, p } from '../../app/router';
	import { session } from '../../app/session.svelte';
	import Picture from '../../lib/mat/Picture.svelte';
	import Mark from '../../lib/ui/Mark.svelte';
	import { day } from '../../lib/units/units';
	import Aside from './Aside.svelte';
	import NewProject from './NewProject.svelte';
	import People from './People.svelte';
	import { word } from '../../words/words';

	let cards = $state.raw<ProjectCard[] | null>(null);
	let rack = $state.raw<Rack | null>(null);
	let problem = $state('');
	let aside = $state.raw<KeptAside[]>([]);
	const low = $derived((rack?.stocks ?? []).filter((s) => s.whole + s.offcuts <= 1));
	const guesses = $derived((rack?.stocks ?? []).filter((s) => s.verdict === 'allowed' && (s.guess || s.kerf_guess)));

	const OLD_DAYS = 180;
	const age = (iso: string) => Math.floor((Date.now() - new Date(iso).getTime()) / 86_400_000);
	const old = $derived((rack?.stocks ?? []).filter((s) => s.verdict === 'allowed' && s.kerf_on && age(s.kerf_on) > OLD_DAYS));

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
	const kindOf = ({ face }: ProjectCard) => (face ? word('start.of-parts', { family: face.family, n: face.parts }) : '…');
	const left = (deadline: string) => Math.ceil((new Date(deadline).getTime() - Date.now()) / 86_400_000);
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
				<div class="card">
					<button class="whole" onclick={() => open(c.id)}>
						{#if c.face}
							<Picture picture={c.face.picture} colours={c.face.colours} />
						{:else}
							<span class="blank quiet">{word('start.drawing')}</span>
						{/if}
						<span class="name">{c.name}</span>
						<span class="quiet">{kindOf(c)}{c.pieces_cut ? ` · ${word('start.cut', { piecescut: c.pieces_cut })}` : ''}</span>
						<span class="quiet"
							>{word('start.revision', { revision: c.revision, changed: day(c.changed) })}{#if c.deadline}&nbsp;· {word('start.due-days', {
									deadline: day(c.deadline),
									deadline2: left(c.deadline)
								})}{/if}</span
						>
					</button>
					{#if c.face}
						<button class="next" onclick={() => open(c.id, c.face?.next.station)}>{c.face.next.text} →</button>
					{/if}
					<button class="away quiet" title={word('start.off-the-board-it-can-be')} onclick={() => place(c.id, 'away')}
						>{word('start.put-away')}</button
					>
				</div>
			{/each}
		</div>
		<Aside {aside} onplace={place} />
		{#if cards && !cards.length}<p>{word('start.no-projects-yet-choose-above-what')}</p>{/if}
	</main>
	<aside class="side px-4 py-4">
		<h2>{word('start.what-the-shop-must-know')}</h2>
		{#each guesses as s (s.id)}<div class="note">
				<b>{s.name}</b><br />{s.kerf_guess ? word('start.its-kerf-was-never-measured-here') : word('start.its-thickness-is-a-guess')}
			</div>{/each}
		{#each old as s (s.id)}<div class="note">
				<b>{s.name}</b><br />{word('start.its-kerf-was-measured-days-ago', { kerfon: age(s.kerf_on!) })}
			</div>{/each}
		{#each low as s (s.id)}<div class="note bad">
				<b>{s.name}</b><br />{word('start.left-on-the-shelf', { whole: s.whole + s.offcuts })}
			</div>{/each}
		{#if rack && !guesses.length && !low.length && !old.length}<p class="quiet">{word('start.everything-is-measured-and-stocked')}</p>{/if}
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
	.card {
		background: var(--bench);
		color: var(--ink);
		border-radius: 4px;
		overflow: hidden;
		position: relative;
	}
	.whole,
	.next {
		text-align: left;
		width: 100%;
		padding: 12px 14px 10px;
	}
	.whole span {
		display: block;
	}
	.next {
		border-top: 1px solid var(--rule);
		padding-block: 8px;
		font-weight: 600;
		color: #176a58;
	}
	:global(.dark) .next {
		color: #8fd3c1;
	}
	.whole:hover,
	.next:hover {
		background: var(--pick);
	}
	.whole .blank {
		height: 124px;
		display: grid;
		place-items: center;
	}
	.name {
		font-weight: 650;
		font-size: 15px;
	}
	.away {
		position: absolute;
		top: 6px;
		right: 8px;
		padding: 2px 8px;
		border-radius: 4px;
		background: var(--bench);
		opacity: 0.55; /* it can be found without a mouse over it */
	}
	.card:hover .away,
	.away:focus-visible {
		opacity: 1;
	}
</style>
