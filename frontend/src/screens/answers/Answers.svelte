<!-- Quick answers without a project: one question, the number at once, its ledger and a drawing. -->
<script lang="ts">
	import { searchParams } from 'sv-router';
	import { api, need } from '../../api/client';
	import type { ProjectCard } from '../../api/types';
	import { p } from '../../app/router';
	import { session } from '../../app/session.svelte';
	import Mark from '../../lib/ui/Mark.svelte';
	import { unitName, UNITS, type Unit } from '../../lib/units/units';
	import AnswerDrawing from './AnswerDrawing.svelte';
	import AnswerSum from './AnswerSum.svelte';
	import { Asking, figure } from './ask.svelte';
	import AskForm from './AskForm.svelte';
	import CarryOver from './CarryOver.svelte';
	import QuestionList from './QuestionList.svelte';
	import { word } from '../../words/words';

	const asked = searchParams.get('ask');
	const ask = new Asking(asked === undefined || asked === null ? null : String(asked));
	let projects = $state.raw<ProjectCard[]>([]);
	const joint = $derived(['slot', 'tab', 'angled'].includes(ask.q.kind));
	const sheet = $derived(ask.stock(ask.sheet));

	Promise.all([need(api.GET('/api/rack')), need(api.GET('/api/shop-board')), need(api.GET('/api/scales'))]).then(
		([rack, cards, scales]) => {
			const first =
				rack.stocks.find((s) => s.id === String(searchParams.get('stock'))) ?? rack.stocks.find((s) => !s.guess) ?? rack.stocks[0];
			[ask.sheet, ask.mate] = [first?.id ?? '', first?.id ?? ''];
			[ask.rack, ask.scales, projects] = [rack, scales, cards];
		},
		(e: Error) => (ask.problem = e.message)
	);
</script>

<div class="page">
	<header>
		<a href={p('/')} aria-label={word('answers.shop-board')} title={word('answers.shop-board')}><Mark /></a><b
			>{word('answers.quick-answers')}</b
		>
		<span class="grow"></span>
		<select aria-label={word('answers.units')} value={session.unit} onchange={(e) => session.chooseUnit(e.currentTarget.value as Unit)}>
			{#each UNITS as u (u.value)}<option value={u.value}>{u.name}</option>{/each}
		</select>
		<a class="quiet" href={p('/')}>{word('answers.shop-board-2')}</a>
	</header>
	<QuestionList bind:at={ask.at} />
	<main class="mat">
		{#if ask.out}{@const first = ask.out.results[0]!}
			<div class="says">
				<span class="big fig" data-testid="answer">{figure(first)}{first.kind === 'mm' ? ` ${unitName(session.unit)}` : ''}</span>
				<p>{session.told(ask.out.says)}</p>
			</div>
			<div class="drawing">
				<AnswerDrawing answer={ask.out} sheet={ask.stock(ask.sheet)?.colour ?? '#e8cfa0'} mate={ask.stock(ask.mate)?.colour ?? '#b08a5f'} />
			</div>
		{:else if ask.problem}<p class="says" role="alert">{ask.problem}</p>{/if}
	</main>
	<aside class="side px-4 py-3">
		<h2>{ask.q.asks}</h2>
		<AskForm {ask} />
		{#if ask.problem}<div class="note bad" role="alert">{ask.problem}</div>{/if}
		{#each ask.out?.findings ?? [] as f (f.code)}<div class="note">{session.told(f.says)}</div>{/each}
		{#if ask.out}<AnswerSum answer={ask.out} {joint} />{/if}
		{#if ask.q.feel && ask.out && sheet}{#key ask.at}<CarryOver {projects} {sheet} feel={ask.feel} />{/key}{/if}
	</aside>
</div>

<style>
	.page {
		height: 100%;
		display: grid;
		grid-template: auto minmax(0, 1fr) / 218px minmax(0, 1fr) 316px;
	}
	header {
		grid-column: 1 / -1;
		display: flex;
		gap: 12px;
		align-items: center;
		padding: 8px 14px;
		background: var(--bench-2);
	}
	header b {
		font-size: 17px;
	}
	header select {
		border: 0;
		background-color: transparent;
		background-size: 14px;
		padding: 2px 28px 2px 4px;
		font-size: 13px;
	}
	.grow {
		flex: 1;
	}
	main {
		display: grid;
		grid-template-rows: auto minmax(0, 1fr);
	}
	.says {
		padding: 16px 24px 6px;
	}
	.says p {
		max-width: 640px;
		color: var(--mat-ink);
	}
	.big {
		font-size: 40px;
		font-weight: 600;
		color: #fff;
		line-height: 1.15;
	}
	.drawing {
		min-height: 0;
	}
	@media (max-width: 1100px) {
		.page {
			grid-template-columns: 180px minmax(0, 1fr) 280px;
		}
	}
</style>
