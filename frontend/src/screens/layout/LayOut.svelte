<!-- Lay out: parts on the sheets that are really there. -->
<script lang="ts">
	import { untrack } from 'svelte';
	import { api, need } from '../../api/client';
	import { Asked } from '../../api/asked';
	import type { LayoutOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { copyId } from '../../lib/ids';
	import Mat from '../../lib/mat/Mat.svelte';
	import { askAgain, underWay } from '../../lib/ui/jobs';
	import { ByHand } from './byhand.svelte';
	import InHand from './InHand.svelte';
	import LaidSheets from './LaidSheets.svelte';
	import PackPanel from './PackPanel.svelte';
	import { sideBySide } from './sidebyside';
	import { word } from '../../words/words';

	const work = useProject();
	const params = { path: { project_id: work.id } };
	let out = $state.raw<LayoutOut | null>(null);
	let problem = $state('');
	let picked = $state('');
	let room = $state({ w: 900, h: 640 });
	const busy = $derived(underWay(out?.job));
	const again = $derived(askAgain(out?.job));
	/** Sheets side by side at one scale, in as many rows as show them largest on a mat of these proportions. */
	const placed = $derived(sideBySide(out?.nesting?.sheets ?? [], room.w, room.h));
	const bounds = $derived({
		x0: 0,
		y0: -26 - 46 / placed.scale, // room for what is told of a picked part
		x1: placed.width,
		y1: placed.height + 22
	});
	const labels = $derived(new Map(out?.parts.map((p) => [p.id, p.label]) ?? []));
	const profiles = $derived(new Map(out?.parts.map((p) => [p.id, p.profile]) ?? []));
	const falling = $derived(new Map(out?.parts.map((p) => [p.id, p.falling]) ?? []));

	const locked = $derived(new Set(out?.locked.map((p) => copyId({ part: p.part, copy: p.number })) ?? []));
	const hand = new ByHand(
		work.id,
		() => out!,
		() => placed.sheets,
		(told) => {
			void show(Promise.resolve(told));
			void work.refreshStrip();
		}
	);
	const movable = $derived(!!out?.fresh && !busy);
	/** where the pointer was, and how many pixels a millimetre is */
	let pointer: { x: number; y: number; scale: number } | null = null;
	function lift(key: string, event: PointerEvent, scale: number) {
		if (!movable || event.button !== 0) return;
		picked = key;
		event.stopPropagation(); // the mat stays
		if (hand.held && copyId(hand.held) !== key) hand.back();
		pointer = { x: event.clientX, y: event.clientY, scale };
	}
	function drag(event: PointerEvent) {
		if (!pointer) return;
		const [dx, dy] = [event.clientX - pointer.x, event.clientY - pointer.y];
		if (!hand.held && (Math.hypot(dx, dy) < 4 || !hand.lift(picked))) return;
		hand.drag(dx / pointer.scale, -dy / pointer.scale);
		pointer = { ...pointer, x: event.clientX, y: event.clientY };
	}
	function letGo() {
		if (pointer && hand.held) void hand.drop();
		pointer = null;
	}
	/** How far an arrow key moves a part: a plain step, with Shift, with Alt. */
	const steps = $derived(session.unit === 'mm' ? [1, 10, 0.1] : [1.27, 12.7, 0.127]);
	const NUDGES: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
	function key(part: string, event: KeyboardEvent) {
		const way = NUDGES[event.key];
		if (!movable) return;
		if (way) {
			const by = steps[event.shiftKey ? 1 : event.altKey ? 2 : 0]!;
			void hand.nudge(part, way[0] * by, way[1] * by);
		} else if (event.key === 't') void hand.turnAt(part);
		else if (event.key === 'b' && hand.hasBack(part.slice(0, part.lastIndexOf('.')))) void hand.turnAt(part, true);
		else if (event.key === 'l') void hand.lock(part, !locked.has(part));
		else if (event.key === 'Escape' && hand.held) hand.back();
		else return;
		event.preventDefault();
		event.stopPropagation();
	}

	const asked = new Asked();
	async function show(question: Promise<LayoutOut>) {
		out = (await asked.newest(question)) ?? out;
	}
	async function load() {
		try {
			problem = '';
			await show(need(api.GET('/api/projects/{project_id}/layout', { params })));
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	$effect(() => {
		void work.version;
		untrack(() => void load());
	});
	$effect(() => {
		if (!again) return;
		const timer = setInterval(async () => {
			await load();
			if (!busy) await work.refreshStrip();
		}, again);
		return () => clearInterval(timer);
	});
	async function pack(request: LayoutOut['request']) {
		out = await asked.changed(need(api.POST('/api/projects/{project_id}/layout/pack', { params, body: request })));
		await work.refreshStrip();
	}
	async function stop() {
		out = await asked.changed(need(api.POST('/api/projects/{project_id}/layout/stop', { params })));
	}
</script>

<svelte:window onpointermove={drag} onpointerup={letGo} />
<div class="station">
	<section aria-label={word('layout.sheets')} bind:clientWidth={room.w} bind:clientHeight={room.h}>
		<Mat {bounds} label={word('layout.sheets-side-by-side')} inch={session.unit !== 'mm'} pad={30}>
			{#snippet children(scale)}
				{#if out}<LaidSheets
						{out}
						placed={placed.sheets}
						{profiles}
						{falling}
						{labels}
						{locked}
						{hand}
						{scale}
						bind:picked
						onlift={(k, e) => lift(k, e, scale)}
						onkey={key}
					/>{/if}
			{/snippet}
			{#snippet over()}
				{#if problem}<div class="tip note bad" role="alert">{problem}</div>{/if}
				{#if out && !out.nesting && !busy}<div class="tip">{word('layout.nothing-is-packed-yet-press-pack')}</div>{/if}
				{#if out?.nesting && !out.fresh && !busy}<div class="tip" role="status">
						{word('layout.the-design-changed-since-this-is', { revision: out.revision })}
					</div>{/if}
				{#if picked}<InHand
						{hand}
						{picked}
						label={labels.get(picked.slice(0, picked.lastIndexOf('.'))) ?? ''}
						{movable}
						backed={hand.hasBack(picked.slice(0, picked.lastIndexOf('.')))}
						why={busy ? word('layout.it-can-be-moved-once-the') : word('layout.it-can-be-moved-once-the-2')}
						locked={locked.has(picked)}
					/>{/if}
			{/snippet}
		</Mat>
	</section>
	{#if out}<PackPanel
			{out}
			{busy}
			onpack={pack}
			onway={(name) => hand.takeWay(name)}
			onswap={(from, to) => hand.swap(from, to)}
			onstop={stop}
		/>{/if}
</div>

<style>
	.station {
		height: 100%;
		display: grid;
		grid-template-columns: minmax(0, 1fr) 296px;
	}
	.station > * {
		min-height: 0;
	}
	.tip {
		position: absolute;
		left: 16px;
		top: 12px;
		background: var(--bench);
		color: var(--ink);
		padding: 6px 12px;
		border-radius: 4px;
	}
</style>
