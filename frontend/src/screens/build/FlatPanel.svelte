<!-- The picked panel flat, finished size, with dimensions; click a slot or finger to ask why. -->
<script lang="ts">
	import type { FeatureOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import Mat from '../../lib/mat/Mat.svelte';
	import { boundsOf, pictureFrame, profilePath, ringPath } from '../../lib/mat/outlines';
	import { fromBehind } from '../../lib/mat/behind';
	import { placesOf } from '../../lib/mat/rings';
	import { show } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import { CUTS } from './kinds';
	import { word } from '../../words/words';

	let { build }: { build: BuildState } = $props();
	const drawn = $derived(build.part ?? build.out?.parts.find((p) => p.id === 'front') ?? build.out?.parts[0]);
	/** Which face is looked at. */
	let back = $state(false);
	const part = $derived(drawn && back ? fromBehind(drawn) : drawn);
	const b = $derived(part ? boundsOf(part.profile.outer as number[][]) : { x0: 0, y0: 0, x1: 100, y1: 60 });
	const wide = $derived({ x0: b.x0 - 6, y0: b.y0 - 16, x1: b.x1 + 24, y1: b.y1 + 8 });
	/** Openings and tongues of this part that are kept in view. */
	const pinnedHere = $derived.by(() => {
		const pins = new Set(build.out?.pins.filter((p) => p.pin.part === part?.id).map((p) => p.pin.what));
		const middle = (f: FeatureOut, k: 0 | 1) => (f.corners as unknown as number[][]).reduce((sum, c) => sum + c[k]!, 0) / 4;
		return (part?.features ?? []).filter((f) => pins.has(f.id)).map((f) => ({ ...f, at: [middle(f, 0), middle(f, 1)] }));
	});
	/** What findings mean on this panel. */
	const rings = $derived(
		(build.out?.findings ?? []).flatMap((f) => placesOf(f).flatMap((p) => (p.part === part?.id ? [{ ...p, says: f.says }] : [])))
	);
	const soft = new Set(['slot', 'notch', 'lap', 'hole', 'socket']);
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
		onclick={() => void build.pickSize(part!.id, along)}>{show(mm, session.unit, true)}</text
	>
{/snippet}

<Mat bounds={wide} label={word('build.panel-flat')} inch={session.unit !== 'mm'} pad={20}>
	{#snippet children(scale)}
		{#if part}
			<path d={profilePath(part.profile)} fill={build.colours[part.stock]} fill-rule="evenodd" stroke="#3a2a14" stroke-width={1 / scale} />
			{#each part.marks as s, i (i)}{#if !!s.back !== back}<path
						class="other"
						d={ringPath(s.line as number[][], s.closed)}
						stroke-width={0.8 / scale}
						stroke-dasharray="{2 / scale} {2.5 / scale}"
					/>{:else if s.photo}{@const frame = pictureFrame(s.line as number[][])}<image
						href={build.pictureOf(part.id, i)}
						width={frame.width}
						height={frame.height}
						transform={frame.transform}
						preserveAspectRatio="none"
					/>{:else}<path
						d={ringPath(s.line as number[][], s.closed)}
						fill={s.operation === 'engrave' && s.closed ? 'rgba(43,26,8,.72)' : 'none'}
						stroke={s.operation === 'engrave' ? 'none' : '#2b1a08'}
						stroke-width={1.1 / scale}
						stroke-dasharray={s.closed ? `${5 / scale} ${4 / scale}` : undefined}
					/>{/if}{/each}
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
			<g class="dim" stroke-width={1 / scale}>
				<path d="M{b.x0} {b.y0 - 7}H{b.x1}M{b.x0} {b.y0 - 9}v4M{b.x1} {b.y0 - 9}v4" />
				<path d="M{b.x1 + 7} {b.y0}V{b.y1}M{b.x1 + 5} {b.y0}h4M{b.x1 + 5} {b.y1}h4" />
				<g transform="translate({(b.x0 + b.x1) / 2} {b.y0 - 7 - 13 / scale}) scale({1 / scale} {-1 / scale})"
					>{@render size('x', b.x1 - b.x0)}</g
				>
				<g transform="translate({b.x1 + 7 + 6 / scale} {(b.y0 + b.y1) / 2}) scale({1 / scale} {-1 / scale})"
					>{@render size('y', b.y1 - b.y0)}</g
				>
				{#each pinnedHere as p (p.id)}
					<g transform="translate({p.at[0]} {p.at[1]}) scale({1 / scale} {-1 / scale})"
						><text class="pinned" dy="4">{show(p.width_mm, session.unit, true)}</text></g
					>
				{/each}
			</g>
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
	.other {
		fill: none;
		stroke: #2b1a08;
		opacity: 0.45;
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
