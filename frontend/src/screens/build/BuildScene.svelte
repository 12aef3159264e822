<!-- The assembly in space: picked, looked at, pulled apart, and dragged. -->
<script lang="ts">
	import Told from '../../app/Told.svelte';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import type { Hit } from '../../lib/mat/scene';
	import SceneView from '../../lib/mat/SceneView.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import { itemDragged, panelDragged } from './dragging';
	import type { Moved } from '../../lib/mat/handles';
	import { AXES } from './moves';
	import PinnedSizes from './PinnedSizes.svelte';

	let { build, whole }: { build: BuildState; /** what is picked is dragged as a whole item */ whole: boolean } = $props();
	const work = useProject();
	let spread = $state(0);
	let hover = $state<Hit | null>(null);
	let dragged = $state.raw<Moved | null>(null);
	let scene = $state.raw<ReturnType<typeof SceneView>>();
	const clear = (stock: string) => build.out?.stocks[stock]?.clear ?? false;

	function pick(hit: Hit | null) {
		if (!hit) return build.clear();
		const feature = build.featureAt(hit.part, hit.at, 1.2);
		if (feature) void build.pickFeature(feature, hit.part);
		else build.pickPanel(hit.part);
	}
	/** What is picked can be dragged while everything stands in its place: the panel, or all of an item. */
	const movable = $derived.by(() => {
		if (!build.part || build.picked.length !== 1 || spread !== 0) return null;
		return whole ? itemDragged(build, work) : panelDragged(build, work);
	});
	const move = (moved: Moved) => movable?.save(moved).catch((e: Error) => (build.problem = e.message));
	const hovered = $derived(hover ? build.featureAt(hover.part, hover.at, 1.2) : null);
</script>

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
			{#if 'turn' in dragged}{word('build.turning-by', { by: dragged.by })}{:else}{word('build.esc-leaves-it-where-it-was', {
					by: show(dragged.by, session.unit),
					size: unitName(session.unit),
					name: AXES[dragged.axis]!.name,
					met: dragged.met ? ` · ${word('build.meets-a-face')}` : ''
				})}{/if}
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

<style>
	.three {
		position: relative;
		min-height: 0;
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
