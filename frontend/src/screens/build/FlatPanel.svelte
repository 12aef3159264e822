<!-- The picked panel flat, finished size, with dimensions; click a slot or finger to ask why. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import Mat from '../../lib/mat/Mat.svelte';
	import { boundsOf, profilePath, ringPath } from '../../lib/mat/outlines';
	import { fromBehind } from '../../lib/mat/behind';
	import { placesOf } from '../../lib/mat/rings';
	import type { BuildState } from './build.svelte';
	import FlatFeet from './FlatFeet.svelte';
	import FlatMarks from './FlatMarks.svelte';
	import FlatSizes from './FlatSizes.svelte';
	import { CUTS } from './kinds';
	import { word } from '../../words/words';

	let { build }: { build: BuildState } = $props();
	const drawn = $derived(build.part ?? build.out?.parts.find((p) => p.id === 'front') ?? build.out?.parts[0]);
	/** Which face is looked at. */
	let back = $state(false);
	const part = $derived(drawn && back ? fromBehind(drawn) : drawn);
	const b = $derived(part ? boundsOf(part.profile.outer as number[][]) : { x0: 0, y0: 0, x1: 100, y1: 60 });
	const wide = $derived({ x0: b.x0 - 6, y0: b.y0 - 16, x1: b.x1 + 24, y1: b.y1 + 8 });
	/** What findings mean on this panel. */
	const rings = $derived(
		(build.out?.findings ?? []).flatMap((f) => placesOf(f).flatMap((p) => (p.part === part?.id ? [{ ...p, says: f.says }] : [])))
	);
	const soft = new Set(['slot', 'notch', 'lap', 'hole', 'socket']);
</script>

<Mat bounds={wide} label={word('build.panel-flat')} inch={session.unit !== 'mm'} pad={20}>
	{#snippet children(scale)}
		{#if part}
			<path d={profilePath(part.profile)} fill={build.colours[part.stock]} fill-rule="evenodd" stroke="#3a2a14" stroke-width={1 / scale} />
			<FlatMarks {part} {back} {scale} pictureOf={(mark) => build.pictureOf(part.id, mark)} />
			{#each part.features as f, i (f.id)}
				{@const mine = f.meeting ? f.meeting === build.meeting : f.id === build.feature}
				<!-- svelte-ignore a11y_click_events_have_key_events -->
				<path
					role="button"
					tabindex="-1"
					aria-label={word('build.feature-number', { kind: CUTS[f.kind], number: i + 1 })}
					class="feature"
					class:mine
					class:picked={f.id === build.feature}
					data-kind={f.kind}
					d={ringPath(f.corners as unknown as number[][])}
					fill={f.id === build.feature ? 'rgba(255,255,255,.55)' : 'transparent'}
					stroke={mine ? (soft.has(f.kind) ? '#fff' : '#0b2b25') : 'none'}
					stroke-width={(f.id === build.feature ? 3 : 1.6) / scale}
					onclick={() => build.pickFeature(f, part.id)}
				/>
			{/each}
			{#each rings as r, i (i)}
				<circle
					class="meant"
					cx={back ? -r.x : r.x}
					cy={r.y}
					r={11 / scale}
					stroke-width={2 / scale}
					stroke-dasharray="{5 / scale} {3 / scale}"><title>{session.told(r.says)}</title></circle
				>
			{/each}
			{#if drawn}<FlatFeet {build} part={drawn} {back} {scale} onproblem={(message) => (build.problem = message)} />{/if}
			<FlatSizes {build} {part} {scale} />
		{/if}
	{/snippet}
	{#snippet over()}
		{#if part}<div class="cap">
				{word('build.flat-finished-size-seen-from-its', { label: part.label, back: back ? word('build.back') : word('build.front') })}
			</div>
			<button class="on-mat side" aria-pressed={back} onclick={() => (back = !back)}
				>{back ? word('build.see-its-front') : word('build.see-its-back')}</button
			>{/if}
	{/snippet}
</Mat>

<style>
	.meant {
		fill: none;
		stroke: var(--bad);
		pointer-events: all;
	}
	.feature {
		cursor: pointer;
	}
	.feature:hover {
		fill: rgba(255, 255, 255, 0.4);
	}
	.side {
		position: absolute;
		right: 14px;
		top: 8px;
		font-size: 12.5px;
		padding: 2px 10px;
	}
	.cap {
		position: absolute;
		left: 14px;
		top: 8px;
		color: var(--mat-ink);
		font-size: 12.5px;
		pointer-events: none;
	}
</style>
