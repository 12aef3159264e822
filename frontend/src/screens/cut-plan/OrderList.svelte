<!-- The order of cuts as a list: what is under the reel's mark, and what comes around it; each may be dragged to where the order still holds. -->
<script lang="ts">
	import { untrack } from 'svelte';
	import { api, need, Problem } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { PlanOut, SheetPlan } from '../../api/types';
	import OrderRow from './OrderRow.svelte';
	import { atMoment, namesOf, shownRange } from './order';
	import { word } from '../../words/words';

	let {
		projectId,
		out,
		sheet,
		number,
		labels,
		t = $bindable(),
		onchange
	}: {
		projectId: number;
		out: PlanOut;
		sheet: SheetPlan;
		number: number;
		labels: Record<string, string>;
		t: number;
		onchange: (told: PlanOut) => void;
	} = $props();
	const ROW = 26;
	let ranges = $state.raw<[number, number][]>([]);
	let told = $state('');
	let busy = $state(false);
	let list = $state<HTMLElement>();
	let drag = $state.raw<{ from: number; to: number; y: number } | null>(null);
	const names = $derived(namesOf(sheet.strokes, labels));
	const now = $derived(atMoment(sheet.strokes, t));
	const shown = $derived(shownRange(sheet.strokes.length, now));
	const allowed = (from: number, to: number) => !ranges[from] || (ranges[from][0] <= to && to <= ranges[from][1]);

	const version = $derived(out.version); // the plan comes anew at every look at its job
	$effect(() => {
		void version;
		void number;
		untrack(() => void load());
	});
	$effect(() => {
		const row = list?.children[now - shown.start] as HTMLElement | undefined;
		if (!list || !row || list.contains(document.activeElement)) return;
		list.scrollTop = row.offsetTop - list.offsetTop - list.clientHeight / 2; // only the list moves, not the panel
	});
	const asked = new Asked();
	async function load() {
		const params = { path: { project_id: projectId, sheet: number } };
		try {
			const told = await asked.only(need(api.GET('/api/projects/{project_id}/cut-plan/order/{sheet}', { params })));
			if (told) ranges = told as [number, number][];
		} catch {
			ranges = []; // the server still says what may not be
		}
	}
	async function put(from: number, to: number) {
		if (busy || from === to || to < 0 || to >= sheet.strokes.length) return;
		told = '';
		busy = true;
		try {
			const body = { version: out.version, sheet: number, path: sheet.strokes[from]!.path.id, to };
			const after = await need(api.POST('/api/projects/{project_id}/cut-plan/move', { params: { path: { project_id: projectId } }, body }));
			onchange(after);
			t = after.plan!.sheets[number]!.strokes[to]!.burn_from;
		} catch (e) {
			if (e instanceof Problem && e.status === 409) {
				onchange(e.facts.answer as PlanOut);
				told = word('cut-plan.somebody-else-changed-the-plan-meanwhile');
			} else told = (e as Error).message;
		} finally {
			busy = false;
		}
	}
	function grip(from: number, event: PointerEvent) {
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		drag = { from, to: from, y: event.clientY };
	}
	function follow(event: PointerEvent) {
		if (!drag) return;
		const to = drag.from + Math.round((event.clientY - drag.y) / ROW);
		drag = { ...drag, to: Math.min(Math.max(to, shown.start), shown.end - 1) };
	}
	async function letGo() {
		const { from, to } = drag ?? { from: 0, to: 0 };
		const may = allowed(from, to);
		drag = null;
		if (may) await put(from, to);
		else told = word('cut-plan.it-cannot-go-there-what-lies');
	}
	async function key(at: number, event: KeyboardEvent) {
		const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
		if (!by) return;
		event.preventDefault();
		event.stopPropagation();
		const to = at + by;
		if (!event.altKey) t = sheet.strokes[Math.min(Math.max(to, 0), sheet.strokes.length - 1)]!.burn_from + 1e-3;
		else if (allowed(at, to)) await put(at, to);
		else told = word('cut-plan.it-cannot-go-farther-that-way');
		requestAnimationFrame(() => list?.querySelector<HTMLElement>('[aria-current="true"]')?.focus());
	}
</script>

<h3>{word('cut-plan.order-of-cuts')}</h3>
<p class="quiet">{word('cut-plan.drag-a-cut-or-alt-where')}</p>
{#if shown.start > 0}<p class="quiet">{word('cut-plan.before', { start: shown.start })}</p>{/if}
<ol bind:this={list} start={shown.start + 1} aria-label={word('cut-plan.order-of-cuts')}>
	{#each sheet.strokes.slice(shown.start, shown.end) as s, k (s.path.id)}
		{@const at = shown.start + k}
		<OrderRow
			name={names[at]!}
			number={at + 1}
			operation={s.path.operation}
			now={at === now}
			held={drag?.from === at}
			edge={drag && drag.to === at ? (drag.to < drag.from ? 'above' : drag.to > drag.from ? 'below' : '') : ''}
			wrong={!!drag && !allowed(drag.from, drag.to)}
			onpick={() => (t = s.burn_from + 1e-3)}
			onkey={(e) => key(at, e)}
			ongrip={(e) => grip(at, e)}
			onfollow={follow}
			ondrop={letGo}
			oncancel={() => (drag = null)}
		/>
	{/each}
</ol>
{#if shown.end < sheet.strokes.length}<p class="quiet">{word('cut-plan.after', { strokes: sheet.strokes.length - shown.end })}</p>{/if}
{#if told}<div class="note bad" role="alert">{told}</div>{/if}

<style>
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
		margin: 12px 0 2px;
	}
	.quiet {
		font-size: 12px;
	}
	ol {
		border: 1px solid var(--rule);
		border-radius: 4px;
		max-height: 286px;
		overflow-y: auto;
	}
</style>
