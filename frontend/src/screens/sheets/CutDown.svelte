<!-- A board that is larger than the bed: where to saw it, what blanks come of it, a page for beside the saw. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { CutDownPlan, StockOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import { show } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, board, onclose }: { rack: RackState; board: StockOut['sheets'][number]; onclose: () => void } = $props();
	let saw = $state(3);
	// svelte-ignore state_referenced_locally (a fresh form for each board)
	let sheets = $state(Math.min(1, board.count));
	let plan = $state.raw<CutDownPlan | null>(null);
	let problem = $state('');
	const machine = $derived(rack.machine ? Number(rack.machine.id) : undefined);
	const path = $derived({ sheet_id: board.id });
	const query = $derived({ saw_mm: saw, ...(machine === undefined ? {} : { machine }) });
	const page = $derived(
		`/api/sheets/${board.id}/cut-down.pdf?${new URLSearchParams({ ...Object.fromEntries(Object.entries(query).map(([k, v]) => [k, String(v)])), sheets: String(sheets) })}`
	);
	const px = $derived(board.width_mm / 250);

	$effect(() => {
		const asked = { path, query };
		let stale = false;
		need(api.GET('/api/sheets/{sheet_id}/cut-down', { params: asked }))
			.then((told) => !stale && ([plan, problem] = [told, '']))
			.catch((e) => !stale && ([plan, problem] = [null, (e as Error).message]));
		return () => (stale = true);
	});
	async function book(event: Event) {
		if (!(await settled(event))) return;
		problem = '';
		try {
			await rack.shelveBlanks(board.id, saw, sheets);
			onclose();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<div class="plan" role="group" aria-label={word('sheets.cut-down', { name: board.name })}>
	<h3>{word('sheets.cut-down', { name: board.name })}</h3>
	<NumberField label={word('sheets.saw-kerf')} value={saw} unit={session.unit} fine oncommit={(mm) => void (saw = mm)} />
	<NumberField label={word('sheets.boards')} kind="count" value={sheets} oncommit={(n) => void (sheets = n)} />
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	{#if plan}
		<svg
			viewBox="{-10 * px} {-10 * px} {plan.width + 20 * px} {plan.height + 20 * px}"
			role="img"
			aria-label={word('sheets.cuts-blanks', { cuts: plan.cuts.length, blanks: plan.blanks.length })}
		>
			<rect width={plan.width} height={plan.height} class="board" />
			{#each plan.blanks as b, k (k)}
				<rect x={b.x} y={plan.height - b.y - b.height} width={b.width} height={b.height} class="blank" />
				<text x={b.x + b.width / 2} y={plan.height - b.y - b.height / 2 + 4 * px} font-size={Math.min(11 * px, b.width / 9)}
					>{show(b.width, session.unit)} × {show(b.height, session.unit)}</text
				>
			{/each}
			{#each plan.cuts as c, k (k)}
				<line x1={c.x0} y1={plan.height - c.y0} x2={c.x1} y2={plan.height - c.y1} stroke-width={Math.max(plan.saw, 1.5 * px)} />
				<circle cx={c.x0} cy={plan.height - c.y0} r={8 * px} /><text
					class="number"
					x={c.x0}
					y={plan.height - c.y0 + 4 * px}
					font-size={11 * px}>{k + 1}</text
				>
			{/each}
		</svg>
		<ol>
			{#each plan.cuts as c, k (k)}
				<li>
					{word('sheets.stop-at')} <b class="fig">{show(c.stop, session.unit)}</b>, {c.x0 === c.x1
						? word('sheets.up-the-board')
						: word('sheets.across-the-board')}
				</li>
			{/each}
		</ol>
		<p class="quiet">{word('sheets.blanks-waste', { blanks: plan.blanks.length * sheets, waste: (plan.waste * 100).toFixed(1) })}</p>
		<div class="note">{word('sheets.saws-injure-guards-on-push-sticks')}</div>
		<div class="acts">
			<a class="btn" href={page} target="_blank" rel="noreferrer">{word('sheets.page-for-the-saw')}</a>
			<button class="btn main" onclick={book}>{word('sheets.it-is-cut-blanks-onto-the')}</button>
		</div>
	{/if}
	<button class="btn" onclick={onclose}>{word('sheets.close')}</button>
</div>

<style>
	.plan {
		border-top: 1px solid var(--rule);
		margin-top: 8px;
		padding-top: 8px;
	}
	svg {
		width: 100%;
		background: var(--color-mat);
		border-radius: 4px;
	}
	.board {
		fill: rgb(120 30 10 / 0.5);
	}
	.blank {
		fill: #dfc08a;
	}
	line {
		stroke: #12362f;
	}
	circle {
		fill: #12362f;
	}
	text {
		text-anchor: middle;
		fill: #12362f;
		font-family: var(--font-mono);
	}
	.number {
		fill: #fff;
	}
	ol {
		list-style: decimal;
		padding-left: 22px;
		margin: 6px 0;
	}
	.acts {
		display: flex;
		gap: 6px;
		flex-wrap: wrap;
		margin: 6px 0;
	}
</style>
