<!-- Build: panels in space; joints follow. -->
<script lang="ts">
	import { searchParams } from 'sv-router';
	import { untrack } from 'svelte';
	import { FIRST, ownMeeting, ownName, partOf, rootOf } from '../../app/items';
	import type { Values } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { BuildState } from './build.svelte';
	import AddItem from './AddItem.svelte';
	import BuildScene from './BuildScene.svelte';
	import FamilyForm from './FamilyForm.svelte';
	import FlatPanel from './FlatPanel.svelte';
	import ItemsForm from './ItemsForm.svelte';
	import MeetingInspector from './MeetingInspector.svelte';
	import PanelInspector from './PanelInspector.svelte';
	import PanelsInspector from './PanelsInspector.svelte';
	import PartOfItem from './PartOfItem.svelte';
	import TileMap from './TileMap.svelte';
	import PartLists from './PartLists.svelte';
	import TestCardNote from './TestCardNote.svelte';
	import { word } from '../../words/words';

	const work = useProject();
	const build = new BuildState(work.id);

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
	/** The numbers of a set of tiles whose map is shown in place of a flat panel, while none is picked. */
	const mapped = $derived.by(() => {
		const values = (build.out?.item === work.item ? build.out.numbers : null) as unknown as Values | null;
		return values?.family === 'tiles' && !build.panel && !build.meeting && !several && !build.adding ? values : null;
	});
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
</script>

<div class="station">
	<PartLists {build} />
	<div class="middle" class:mapped inert={waiting}>
		<BuildScene {build} whole={several || ofGuest} />
		{#if mapped}<section class="flat" aria-label={word('build.map-show')}><TileMap {build} values={mapped} /></section>
		{:else}<section class="flat" aria-label={word('build.flat')}><FlatPanel {build} /></section>{/if}
	</div>
	<aside class="side px-4 py-3" inert={waiting}>
		<!-- keyed, so that what was typed for one panel is kept of that panel when another is picked while it is on its way -->
		{#if build.adding}<AddItem {build} />
		{:else if (several || ofGuest) && build.part}{#each [build.part] as part (part.id)}<PartOfItem {build} {part} />{/each}
		{:else if build.meeting && build.detail}{#each [build.detail] as detail (detail.meeting.id)}<MeetingInspector {build} {detail} />{/each}
		{:else if build.picked.length > 1}<PanelsInspector {build} />
		{:else if build.part}{#each [build.part] as part (part.id)}<PanelInspector {build} {part} />{/each}
		{:else if work.project?.is_test}<TestCardNote />
		{:else if several}<ItemsForm {build} />
		{:else}<FamilyForm {build} />{/if}
	</aside>
</div>

<style>
	.station {
		grid-template-columns: 228px minmax(0, 1fr) 296px;
	}
	@media (max-width: 1100px) {
		.station {
			grid-template-columns: 188px minmax(0, 1fr) 270px;
		}
	}
	.middle {
		display: grid;
		grid-template-rows: minmax(0, 1.55fr) minmax(0, 1fr);
	}
	.middle.mapped {
		grid-template-rows: minmax(0, 1fr) minmax(0, 1.3fr);
	}
	.middle section {
		position: relative;
		min-height: 0;
	}
	.flat {
		border-top: 1px solid #4f8377;
	}
</style>
