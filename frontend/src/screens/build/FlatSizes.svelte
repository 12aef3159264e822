<!-- Width and height of a panel beside it, and the widths that are kept in view; a size that is clicked tells why. -->
<script lang="ts">
	import type { FeatureOut, PartOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
	import { show } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import { word } from '../../words/words';

	let { build, part, scale }: { build: BuildState; part: PartOut; scale: number } = $props();
	const b = $derived(boundsOf(part.profile.outer as number[][]));
	/** Openings and tongues of this part that are kept in view. */
	const pinnedHere = $derived.by(() => {
		const pins = new Set(build.out?.pins.filter((p) => p.pin.part === part.id).map((p) => p.pin.what));
		const middle = (f: FeatureOut, k: 0 | 1) => (f.corners as unknown as number[][]).reduce((sum, c) => sum + c[k]!, 0) / 4;
		return part.features.filter((f) => pins.has(f.id)).map((f) => ({ ...f, at: [middle(f, 0), middle(f, 1)] }));
	});
</script>

{#snippet size(along: 'x' | 'y', mm: number)}
	<!-- svelte-ignore a11y_click_events_have_key_events -->
	<text
		role="button"
		tabindex="-1"
		class="size"
		class:left={along === 'y'}
		dy={along === 'y' ? 4 : 0}
		aria-label={word('build.why', {
			mm: show(mm, session.unit, true),
			along: along === 'x' ? word('build.across') : word('build.upwards')
		})}
		onclick={() => void build.pickSize(part.id, along)}>{show(mm, session.unit, true)}</text
	>
{/snippet}

<g class="dim" stroke-width={1 / scale}>
	<path d="M{b.x0} {b.y0 - 7}H{b.x1}M{b.x0} {b.y0 - 9}v4M{b.x1} {b.y0 - 9}v4" />
	<path d="M{b.x1 + 7} {b.y0}V{b.y1}M{b.x1 + 5} {b.y0}h4M{b.x1 + 5} {b.y1}h4" />
	<g transform="translate({(b.x0 + b.x1) / 2} {b.y0 - 7 - 13 / scale}) scale({1 / scale} {-1 / scale})">{@render size('x', b.x1 - b.x0)}</g>
	<g transform="translate({b.x1 + 7 + 6 / scale} {(b.y0 + b.y1) / 2}) scale({1 / scale} {-1 / scale})">{@render size('y', b.y1 - b.y0)}</g>
	{#each pinnedHere as p (p.id)}
		<g transform="translate({p.at[0]} {p.at[1]}) scale({1 / scale} {-1 / scale})"
			><text class="pinned" dy="4">{show(p.width_mm, session.unit, true)}</text></g
		>
	{/each}
</g>

<style>
	.dim path {
		stroke: #cfe6df;
		fill: none;
	}
	text {
		font: 13px var(--font-mono);
		fill: #fff;
		text-anchor: middle;
	}
	.size {
		cursor: pointer;
	}
	.size:hover {
		text-decoration: underline;
	}
	.pinned {
		paint-order: stroke;
		stroke: #12362f;
		stroke-width: 3px;
	}
	text.left {
		text-anchor: start;
	}
</style>
