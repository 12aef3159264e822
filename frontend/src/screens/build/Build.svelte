<!-- Build: panels in space; joints follow. -->
<script lang="ts">
	import Told from '../../app/Told.svelte';
	import { searchParams } from 'sv-router';
	import { untrack } from 'svelte';
	import { FIRST, ownMeeting, ownName, partOf, rootOf } from '../../app/items';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import type { Hit } from '../../lib/mat/scene';
	import SceneView from '../../lib/mat/SceneView.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { BuildState } from './build.svelte';
	import AddItem from './AddItem.svelte';
	import FamilyForm from './FamilyForm.svelte';
	import FlatPanel from './FlatPanel.svelte';
	import ItemsForm from './ItemsForm.svelte';
	import MeetingInspector from './MeetingInspector.svelte';
	import PanelInspector from './PanelInspector.svelte';
	import PanelsInspector from './PanelsInspector.svelte';
	import { itemDragged, panelDragged } from './dragging';
	import { AXES, type Axis } from './moves';
	import PartOfItem from './PartOfItem.svelte';
	import PartLists from './PartLists.svelte';
	import PinnedSizes from './PinnedSizes.svelte';
	import TestCardNote from './TestCardNote.svelte';
	import { word } from '../../words/words';

	const work = useProject();
	const build = new BuildState(work.id);
	let spread = $state(0);
	let hover = $state<Hit | null>(null);
	let dragged = $state<{ axis: Axis; by: number; met: boolean } | null>(null);
	let scene = $state.raw<ReturnType<typeof SceneView>>();
	const clear = (stock: string) => build.out?.stocks[stock]?.clear ?? false;

	$effect(() => {
		work.showsBuild = true;
		return () => (work.showsBuild = false);
	});
	$effect(() => {
		void [work.version, work.project?.revision, work.item];
		if (work.saving) return; // what is asked now would not know of it yet; it is asked when that is done
		build.item = work.item;
		untrack(() => {
			const there = !work.item || work.item === FIRST || work.project?.design.items?.some((i) => i.id === work.item && !i.gone);
			if (there) void build.load(work.takeBuilt());
			else work.item = ''; // it was undone, or left out
		});
	});
	$effect(() => () => (work.item = ''));
	/** While several items are shown at once, none of their parts is changed. */
	const several = $derived(!work.item && (build.out?.items.length ?? 1) > 1);
	/** What is picked belongs to an item that is joined to the one that is shown: it is changed where that is open. */
	const ofGuest = $derived.by(() => {
		const some = (build.meeting && build.detail ? [build.detail.meeting.a, build.detail.meeting.b] : build.picked).map(
			(id) => build.out?.parts.find((p) => p.id === id)?.item ?? ''
		);
		return some.length > 0 && some[0] !== '' && some.every((item) => item === some[0]);
	});
	/** Another item was opened and is not there yet: what is still shown is not to be changed in its stead. */
	const waiting = $derived(build.out !== null && build.out.item !== work.item);
	let come = '';
	$effect(() => {
		const asked = ['item', 'panel', 'meeting'].map((k) => String(searchParams.get(k) ?? ''));
		if (!build.out || come === asked.join()) return;
		come = asked.join();
		untrack(() => {
			const [item, panel, meeting] = asked as [string, string, string];
			if (!item && !panel && !meeting) return;
			const named = partOf((panel || meeting).split('+')[0]!).item;
			const there = build.out!.items.length > 1 ? item || rootOf(work.project!.design, named) : '';
			build.open(work.item === there, ownName(there, panel), ownMeeting(there, meeting));
			work.item = there;
		});
	});

	function pick(hit: Hit | null) {
		if (!hit) return build.clear();
		const feature = build.featureAt(hit.part, hit.at, 1.2);
		if (feature) void build.pickFeature(feature, hit.part);
		else build.pickPanel(hit.part);
	}
	/** What is picked can be dragged while everything stands in its place: the panel, or all of an item. */
	const movable = $derived.by(() => {
		if (!build.part || build.picked.length !== 1 || spread !== 0) return null;
		return several || ofGuest ? itemDragged(build, work) : panelDragged(build, work);
	});
	const move = (axis: Axis, by: number) => movable?.save(axis, by).catch((e: Error) => (build.problem = e.message));
	const hovered = $derived(hover ? build.featureAt(hover.part, hover.at, 1.2) : null);
</script>

<div class="station">
	<PartLists {build} />
	<div class="middle" inert={waiting}>
		<section class="three" aria-label="3D">
			{#if build.out}
				<SceneView
					bind:this={scene}
					parts={build.out.parts}
					colours={build.colours}
					{clear}
					{spread}
					lit={build.lit}
					features={build.outlines}
					picture={build.pictureOf}
					{movable}
					ondrag={(d) => (dragged = d)}
					onmove={move}
					onpick={pick}
					onhover={(h) => (hover = h)}
				/>
			{/if}
			<label class="apart"
				><span>{word('build.together')}</span><input
					type="range"
					min="0"
					max="1"
					step="0.01"
					bind:value={spread}
					aria-label={word('build.pull-apart')}
				/><span>{word('build.apart')}</span></label
			>
			<button class="on-mat fit" onclick={() => scene?.fit()}>{word('build.fit-view')}</button>
			<PinnedSizes {build} />
			{#if dragged}<div class="tip">
					{word('build.esc-leaves-it-where-it-was', {
						by: show(dragged.by, session.unit),
						size: unitName(session.unit),
						name: AXES[dragged.axis]!.name,
						met: dragged.met ? ` · ${word('build.meets-a-face')}` : ''
					})}
				</div>
			{:else if hover}<div class="tip">
					{build.names.get(hover.part)}{hovered ? ` · ${word('build.click-for-why', { kind: hovered.kind })}` : ''}
				</div>{/if}
			{#if build.problem}<div class="tip" role="alert">{build.problem}</div>{/if}
			{#if build.out && !build.out.parts.length}
				<div class="stop" role="alert">
					{#each build.out.findings as f, i (i)}<p><Told of={f.says} /></p>{/each}
				</div>
			{/if}
		</section>
		<section class="flat" aria-label={word('build.flat')}><FlatPanel {build} /></section>
	</div>
	<aside class="side px-4 py-3" inert={waiting}>
		{#if build.adding}<AddItem {build} />
		{:else if (several || ofGuest) && build.part}<PartOfItem {build} part={build.part} />
		{:else if build.meeting && build.detail}<MeetingInspector {build} detail={build.detail} />
		{:else if build.picked.length > 1}<PanelsInspector {build} />
		{:else if build.part}<PanelInspector {build} part={build.part} />
		{:else if work.project?.is_test}<TestCardNote />
		{:else if several}<ItemsForm {build} />
		{:else}<FamilyForm {build} />{/if}
	</aside>
</div>

<style>
	.station {
		height: 100%;
		display: grid;
		grid-template-columns: 228px minmax(0, 1fr) 296px;
	}
	@media (max-width: 1100px) {
		.station {
			grid-template-columns: 188px minmax(0, 1fr) 270px;
		}
	}
	.station > * {
		min-height: 0;
	}
	.middle {
		display: grid;
		grid-template-rows: minmax(0, 1.55fr) minmax(0, 1fr);
	}
	.middle section {
		position: relative;
		min-height: 0;
	}
	.flat {
		border-top: 1px solid #4f8377;
	}
	.apart {
		position: absolute;
		left: 16px;
		bottom: 14px;
		display: flex;
		gap: 12px;
		align-items: center;
		color: var(--mat-ink);
		background: rgba(18, 54, 47, 0.7);
		padding: 2px 8px;
		border-radius: 4px;
	}
	.apart input {
		width: 170px;
		accent-color: #d9efe8;
	}
	.fit {
		position: absolute;
		right: 14px;
		bottom: 12px;
	}
	.tip {
		position: absolute;
		left: 14px;
		top: 10px;
		color: var(--mat-ink);
		background: rgba(18, 54, 47, 0.8);
		padding: 2px 8px;
		border-radius: 4px;
		pointer-events: none;
	}
	.stop {
		position: absolute;
		inset: 30% 12% auto;
		background: var(--bench);
		color: var(--ink);
		border-left: 4px solid var(--bad);
		padding: 12px 18px;
		border-radius: 4px;
	}
</style>
