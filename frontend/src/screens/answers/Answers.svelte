<!-- Quick answers without a project: one question, the number at once, its ledger and a drawing. -->
<script lang="ts">
	import { searchParams } from 'sv-router';
	import { api, need } from '../../api/client';
	import type { Answer, Ask, ProjectCard, Rack } from '../../api/types';
	import { navigate, p } from '../../app/router';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import Ledger from '../../lib/ui/Ledger.svelte';
	import Mark from '../../lib/ui/Mark.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show, unitName, UNITS, type Unit } from '../../lib/units/units';
	import AnswerDrawing from './AnswerDrawing.svelte';
	import { QUESTIONS } from './questions';
	import { KERF_TESTS } from '../../lib/ui/kerftests';
	import { word } from '../../words/words';

	let rack = $state.raw<Rack | null>(null);
	let projects = $state.raw<ProjectCard[]>([]);
	let scales = $state.raw<{ n: number; name: string }[]>([]);
	let at = $state(
		Math.max(
			QUESTIONS.findIndex((q) => q.kind === searchParams.get('ask')),
			0
		)
	);
	const q = $derived(QUESTIONS[at]!);
	/** What was typed, by question, so that going to and fro loses nothing. */
	let typed = $state<Record<string, Partial<Ask>>>({});
	let sheet = $state('');
	let mate = $state('');
	let feel = $state<'slides' | 'snug' | 'mallet'>('snug');
	let test = $state<'strips' | 'gap' | 'peg'>('strips');
	let ends = $state<'yes' | 'no'>('yes');
	let out = $state.raw<Answer | null>(null);
	let problem = $state('');
	let told = $state('');
	let into = $state('');
	const id = $props.id();
	const given = $derived({ ...q.start, ...typed[q.kind] } as Partial<Ask>);
	const stock = (wanted: string) => rack?.stocks.find((s) => s.id === wanted);
	/** A joint's ledger ends in what is drawn in the file; others are plain sums. */
	const joint = $derived(['slot', 'tab', 'angled'].includes(q.kind));
	const fields = $derived(q.fields.filter((f) => !(q.kind === 'kerf' && f.key === 'count' && test !== 'strips')));

	Promise.all([need(api.GET('/api/rack')), need(api.GET('/api/shop-board')), need(api.GET('/api/scales'))]).then(
		([r, cards, presets]) => {
			[rack, projects, scales] = [r, cards, presets];
			const first = r.stocks.find((s) => s.id === String(searchParams.get('stock'))) ?? r.stocks.find((s) => !s.guess) ?? r.stocks[0];
			[sheet, mate, into] = [first?.id ?? '', first?.id ?? '', String(cards[0]?.id ?? '')];
		},
		(e: Error) => (problem = e.message)
	);

	let asked = 0;
	$effect(() => {
		if (!rack) return;
		const mine = ++asked;
		const body = {
			kind: q.kind,
			...given,
			feel,
			test,
			gaps_at_ends: ends === 'yes',
			sheet: q.sheet && sheet ? Number(sheet) : null,
			mate: q.mate && mate ? Number(mate) : null
		} as Ask;
		need(api.POST('/api/answers', { body })).then(
			(a) => mine === asked && ([out, problem] = [a, '']),
			(e: Error) => mine === asked && ([out, problem] = [null, e.message])
		);
	});
	function put(key: keyof Ask, value: number | null) {
		const both = key === 'real' ? { model: null } : key === 'model' ? { real: null } : {};
		typed = { ...typed, [q.kind]: { ...typed[q.kind], ...both, [key]: value } };
	}
	const number = (r: Answer['results'][number]) =>
		r.kind === 'mm'
			? show(r.value, session.unit, true)
			: r.kind === 'deg'
				? `${Number(r.value.toFixed(2))}°`
				: String(Number(r.value.toFixed(r.kind === 'count' ? 0 : 4)));
	function key(event: KeyboardEvent) {
		const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
		if (!step) return;
		event.preventDefault();
		at = Math.min(Math.max(at + step, 0), QUESTIONS.length - 1);
		(event.currentTarget as HTMLElement).querySelectorAll('button')[at]?.focus();
	}
	/** Carry stock and feel into a project, or begin one with them. */
	async function carry() {
		told = '';
		try {
			const name = stock(sheet)!.name;
			if (into === 'new') {
				const body = { name: `Box in ${name}`.slice(0, 80), width_mm: 180, depth_mm: 120, height_mm: 60, stock: Number(sheet), feel };
				const made = await need(api.POST('/api/projects', { body }));
				return navigate('/projects/:id/:station', { params: { id: String(made.id), station: 'build' } });
			}
			const params = { path: { project_id: Number(into) } };
			const now = await need(api.GET('/api/projects/{project_id}', { params }));
			const stocks = Object.fromEntries(Object.keys(now.design.stocks).map((role) => [role, sheet]));
			const body = {
				base: now.revision,
				design: { ...now.design, stocks, feel },
				label: word('answers.from-quick-answers', { name, feel })
			};
			await need(api.PUT('/api/projects/{project_id}/design', { params, body }));
			return navigate('/projects/:id/:station', { params: { id: into, station: 'build' } });
		} catch (e) {
			told = (e as Error).message;
		}
	}
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
	<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
	<nav class="side" aria-label={word('answers.questions')} onkeydown={key}>
		{#each QUESTIONS as question, i (question.kind)}
			<button class:on={i === at} aria-current={i === at} onclick={() => ((at = i), (told = ''))}
				><b>{question.name}</b><small>{question.asks}</small></button
			>
		{/each}
	</nav>
	<main class="mat">
		{#if out}
			<div class="says">
				<span class="big fig" data-testid="answer"
					>{number(out.results[0]!)}{out.results[0]!.kind === 'mm' ? ` ${unitName(session.unit)}` : ''}</span
				>
				<p>{session.told(out.says)}</p>
			</div>
			<div class="drawing">
				<AnswerDrawing answer={out} sheet={stock(sheet)?.colour ?? '#e8cfa0'} mate={stock(mate)?.colour ?? '#b08a5f'} />
			</div>
		{:else if problem}<p class="says" role="alert">{problem}</p>{/if}
	</main>
	<aside class="side px-4 py-3">
		<h2>{q.asks}</h2>
		{#snippet pick(label: string, value: string, put: (v: string) => void)}
			<label class="stock"
				>{label}
				<select {value} onchange={(e) => put(e.currentTarget.value)}>
					{#each rack?.stocks ?? [] as s (s.id)}<option value={s.id}
							>{s.name} · {show(s.thickness_mm, session.unit, true)}{s.guess ? ' ?' : ''}</option
						>{/each}
				</select></label
			>
		{/snippet}
		{#if q.sheet}{@render pick(q.sheet, sheet, (v) => (sheet = v))}{/if}
		{#if q.mate}{@render pick(q.mate, mate, (v) => (mate = v))}{/if}
		{#if q.feel}
			<Choice
				label={word('answers.how-it-should-feel')}
				options={[
					{ value: 'slides', name: word('answers.slides') },
					{ value: 'snug', name: word('answers.snug') },
					{ value: 'mallet', name: word('answers.mallet') }
				]}
				value={feel}
				onchoose={(v) => ((feel = v), put('clearance', null))}
			/>
			<NumberField
				label={word('answers.clearance')}
				value={given.clearance ?? out?.results.find((r) => r.label === 'Clearance')?.value ?? null}
				unit={session.unit}
				finest
				oncommit={(mm) => put('clearance', mm)}
			/>
		{/if}
		{#if q.kind === 'kerf'}
			<Choice
				label={word('answers.kind-of-test')}
				options={KERF_TESTS}
				value={test}
				onchoose={(v) => {
					test = v;
					const start = { strips: [10, 98.4], gap: [5, 5.16], peg: [5, 4.84] }[v] as [number, number];
					typed = { ...typed, kerf: { count: 10, drawn: start[0], measured: start[1] } };
				}}
			/>
		{/if}
		{#if q.kind === 'scale'}
			<label class="stock"
				>{word('answers.common-scales')}
				<select value={String(given.n)} onchange={(e) => put('n', Number(e.currentTarget.value))}>
					{#each scales as s (s.n)}<option value={String(s.n)}>{s.name}</option>{/each}
					{#if !scales.some((s) => s.n === given.n)}<option value={String(given.n)}>1:{given.n}</option>{/if}
				</select></label
			>
		{/if}
		{#key q.kind}
			{#each fields as f (f.key)}
				<NumberField
					label={f.name}
					value={(given[f.key] as number | null | undefined) ??
						(f.key === 'proud'
							? 0
							: f.key === 'spacing'
								? 2
								: f.key === 'margin'
									? 5
									: f.key === 'sheet_width'
										? 600
										: f.key === 'sheet_height'
											? 400
											: null)}
					kind={f.as === 'count' ? 'count' : f.as === 'number' ? 'number' : 'length'}
					unit={session.unit}
					fine={f.as === 'fine'}
					finest={f.as === 'finest'}
					suffix={f.suffix}
					oncommit={(v) => put(f.key, v)}
				/>
			{/each}
		{/key}
		{#if q.kind === 'pitch'}
			<Choice
				label={word('answers.gaps-at-the-ends')}
				options={[
					{ value: 'yes', name: word('answers.gaps-at-the-ends-2') },
					{ value: 'no', name: word('answers.none') }
				]}
				value={ends}
				onchoose={(v) => (ends = v)}
			/>
		{/if}
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		{#each out?.findings ?? [] as f (f.code)}<div class="note">{session.told(f.says)}</div>{/each}
		{#if out}
			<dl>
				{#each out.results as r, i (i)}<dt>{r.label}</dt>
					<dd class="fig">{number(r)}</dd>{/each}
			</dl>
			{#if out.ledger && !joint}
				<h3>{word('answers.how-it-comes-about')}</h3>
				<dl class="sum">
					{#each out.ledger.terms as t, i (i)}<dt>{t.label}</dt>
						<dd class="fig">{number({ label: '', value: t.value, kind: out.results[0]!.kind })}</dd>{/each}
				</dl>
			{/if}
			{#if out.ledger && joint}<Ledger drawn={out.ledger} unit={session.unit} />{/if}
		{/if}
		{#if q.feel && out}
			<div class="carry">
				<label for="{id}i">{word('answers.carry-stock-and-feel-into')}</label>
				<select id="{id}i" bind:value={into}>
					{#each projects as c (c.id)}<option value={String(c.id)}>{word('answers.all-panels', { name: c.name })}</option>{/each}
					<option value="new">{word('answers.a-new-box')}</option>
				</select>
				<button class="btn main" disabled={!into} onclick={carry}>{word('answers.carry-it-over')}</button>
				{#if told}<div class="note bad" role="alert">{told}</div>{/if}
			</div>
		{/if}
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
	nav button {
		display: block;
		width: 100%;
		text-align: left;
		padding: 8px 14px;
		border-left: 3px solid transparent;
	}
	nav button:hover {
		background: var(--bench-2);
	}
	nav button.on {
		background: var(--pick);
		border-color: var(--color-mat);
	}
	nav b {
		font-weight: 600;
	}
	small {
		display: block;
		color: var(--ink-2);
		font-size: 11.5px;
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
	.stock {
		display: block;
		margin: 6px 0;
	}
	.stock select,
	.carry select {
		display: block;
		width: 100%;
		border: 1px solid var(--rule);
		border-radius: 4px;
		background-color: var(--bench);
		color: var(--ink);
		padding: 4px 7px;
		font-size: 13px;
	}
	dl {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 3px 10px;
		margin: 10px 0;
		padding-top: 8px;
		border-top: 1px solid var(--rule);
	}
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
	}
	dd {
		text-align: right;
	}
	.carry {
		margin-top: 14px;
		display: grid;
		gap: 6px;
	}
	@media (max-width: 1100px) {
		.page {
			grid-template-columns: 180px minmax(0, 1fr) 280px;
		}
	}
</style>
