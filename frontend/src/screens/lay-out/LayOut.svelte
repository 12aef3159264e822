<!-- Lay out: parts on the sheets that are really there. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { LayoutOut } from '../../api/types';
	import { Followed } from '../../app/followed.svelte';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { copyId } from '../../lib/ids';
	import Mat from '../../lib/mat/Mat.svelte';
	import { ByHand } from './byhand.svelte';
	import { Gestures, partOf } from './gestures.svelte';
	import InHand from './InHand.svelte';
	import LaidSheets from './LaidSheets.svelte';
	import PackPanel from './PackPanel.svelte';
	import { sideBySide } from './sidebyside';
	import { word } from '../../words/words';

	const work = useProject();
	const params = { path: { project_id: work.id } };
	const laid = new Followed(work, () => need(api.GET('/api/projects/{project_id}/lay-out', { params })));
	const out = $derived(laid.out);
	const busy = $derived(laid.busy);
	let room = $state({ w: 900, h: 640 });
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
		() => laid.out!,
		() => placed.sheets,
		(told) => laid.taken(told)
	);
	const movable = $derived(!!out?.fresh && !busy);
	const gestures = new Gestures(
		hand,
		() => movable,
		() => locked
	);
	const { drag, letGo, key } = gestures;
	const picked = $derived(gestures.picked);
	const pack = (body: LayoutOut['request']) => laid.change(need(api.POST('/api/projects/{project_id}/lay-out/pack', { params, body })));
	/** What was never packed is packed on coming here, as far as there is a sheet for it and this person may. */
	let begun = false;
	$effect(() => {
		if (begun || !out || out.nesting || out.job || busy || !session.designs || !out.parts.length || !out.shelf.some((s) => s.count)) return;
		begun = true;
		void laid.attempt.at(() => pack(out.request));
	});
	const stop = () => laid.change(need(api.POST('/api/projects/{project_id}/lay-out/stop', { params })));
</script>

<svelte:window onpointermove={drag} onpointerup={letGo} />
<div class="station" style:--side="296px">
	<section aria-label={word('lay-out.sheets')} bind:clientWidth={room.w} bind:clientHeight={room.h}>
		<Mat {bounds} label={word('lay-out.sheets-side-by-side')} inch={session.unit !== 'mm'} pad={30}>
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
						bind:picked={gestures.picked}
						onlift={(k, e) => gestures.lift(k, e, scale)}
						onkey={key}
					/>{/if}
			{/snippet}
			{#snippet over()}
				{#if laid.attempt.problem}<div class="tip note bad" role="alert">{laid.attempt.problem}</div>{/if}
				{#if out && !out.nesting && !busy}<div class="tip">{word('lay-out.nothing-is-packed-yet-press-pack')}</div>{/if}
				{#if out?.nesting && !out.fresh && !busy}<div class="tip" role="status">
						{out.revision === work.project?.revision
							? word('lay-out.what-is-known-changed-since')
							: word('lay-out.the-design-changed-since-this-is', { revision: out.revision })}
					</div>{/if}
				{#if picked}<InHand
						{hand}
						{picked}
						label={labels.get(partOf(picked)) ?? ''}
						{movable}
						backed={hand.hasBack(partOf(picked))}
						why={busy ? word('lay-out.it-can-be-moved-once-the') : word('lay-out.it-can-be-moved-once-the-2')}
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
