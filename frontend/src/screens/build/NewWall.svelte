<!-- A new panel that stands on an edge of the picked one, or one on each of its edges. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { PanelEdges, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import AskedNumbers from './AskedNumbers.svelte';
	import { addAll, SIDES, wallNumbers } from './added';
	import EdgeSketch from './EdgeSketch.svelte';
	import { naming } from './moves';
	import SideChoice from './SideChoice.svelte';

	let {
		part,
		host,
		taken,
		labels,
		onadded
	}: { part: PartOut; host: string; taken: ReadonlySet<string>; labels: ReadonlySet<string>; onadded: () => void } = $props();
	const work = useProject();
	const uid = $props.id();
	const ROUND = 0; // as a number of an edge: every one
	let panel = $state.raw<PanelEdges | null>(null);
	let nth = $state(1);
	let side = $state<'front' | 'back'>('front');
	let numbers = $state({ height: 40, lean: 0, inset_low: 0, inset_high: 0 });
	let problem = $state('');
	const edges = $derived(panel?.edges ?? []);
	/** Four edges, one on each side, are called by their sides; others by their number and length. */
	const bySide = $derived(edges.length === 4 && new Set(edges.map((e) => e.side)).size === 4);
	const names = $derived(
		edges.map((e) => (bySide ? SIDES[e.side] : word('build.edge-nth', { nth: e.nth, length: show(e.length, session.unit) })))
	);
	const fields = $derived(wallNumbers(edges[nth - 1]?.side ?? 'lower').filter((n) => nth !== ROUND || !n.key.startsWith('inset')));

	async function ask() {
		const params = { path: { project_id: work.id, panel: host }, query: { item: work.item } };
		try {
			panel = await need(api.GET('/api/projects/{project_id}/panels/{panel}/edges', { params }));
			if (!panel.edges.length) problem = word('build.no-straight-edge');
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	$effect(() => void ask());

	async function add() {
		const which = nth === ROUND ? edges : edges.filter((e) => e.nth === nth);
		const name = naming(taken, labels);
		const walls = which.map((e) => {
			const edge = bySide ? SIDES[e.side] : word('build.edge-number', { nth: e.nth });
			const given = name('edge-wall', word('build.wall-of', { edge }));
			return { kind: 'wall', ...given, stock: part.stock, host, edge: e.side, nth: e.nth, back: side === 'back', ...numbers };
		});
		const named = (k: number) => (k ? walls[k - 1]!.id : '');
		const all =
			nth === ROUND
				? walls.map((w, k) => ({ ...w, inset_low: 0, inset_high: 0, beside: [named(edges[k]!.before), named(edges[k]!.after)] }))
				: walls;
		problem = await addAll(work, all, walls.length > 1 ? word('build.walls-round', { label: part.label }) : walls[0]!.label);
		if (!problem) onadded();
	}
</script>

<ActionForm
	label={word('build.wall-on-an-edge')}
	does={nth === ROUND ? word('build.add-the-walls') : word('build.add-the-wall')}
	possible={edges.length > 0}
	{problem}
	ondo={add}
>
	{#if panel && edges.length}
		<EdgeSketch {panel} picked={nth} onpick={(k) => (nth = k)} />
		<label for={uid}>{word('build.edge')}</label>
		<select id={uid} class="select" bind:value={nth}>
			{#each edges as e, k (e.nth)}<option value={e.nth}>{names[k]}</option>{/each}
			<option value={ROUND}>{word('build.every-edge')}</option>
		</select>
	{/if}
	<SideChoice bind:value={side} />
	<AskedNumbers {fields} values={numbers} onset={(key, v) => (numbers = { ...numbers, [key]: v })} />
	<p class="quiet">{word('build.edges-are-those-of-the-flat-panel')}</p>
</ActionForm>
