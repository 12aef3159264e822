<!-- An answer drawn on the mat. -->
<script lang="ts">
	import type { Answer } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import Mat from '../../lib/mat/Mat.svelte';
	import { boundsOf, ringPath } from '../../lib/mat/outlines';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { answer, sheet, mate }: { answer: Answer; sheet: string; mate: string } = $props();
	const b = $derived(boundsOf(answer.shapes.flatMap((s) => s.points)));
	const wide = $derived.by(() => {
		const pad = Math.max(b.x1 - b.x0, b.y1 - b.y0) * 0.08 + 0.5;
		return { x0: b.x0 - pad, y0: b.y0 - pad, x1: b.x1 + pad, y1: b.y1 + pad };
	});
	const fills: Record<string, string> = $derived({ sheet, mate, gap: '#17463f', cut: 'none', measure: 'none', guide: 'none' });
</script>

<Mat bounds={wide} label={word('answers.drawing-of-the-answer')} inch={session.unit !== 'mm'} pad={40}>
	{#snippet children(scale)}
		{#each answer.shapes as s, i (i)}
			<path
				d={ringPath(s.points as number[][], s.closed)}
				fill={s.closed ? fills[s.style] : 'none'}
				fill-opacity={s.style === 'mate' ? 0.86 : 1}
				stroke={s.style === 'cut' ? 'var(--color-ember)' : s.style === 'measure' || s.style === 'guide' ? '#e6f2ee' : '#2c2010'}
				stroke-width={(s.style === 'measure' || s.style === 'cut' ? 1.6 : 1) / scale}
				stroke-dasharray={s.style === 'guide' && s.closed ? `${6 / scale} ${4 / scale}` : undefined}
			/>
		{/each}
		{#each answer.shapes as s, i (i)}
			{@const box = boundsOf(s.points)}
			{#if s.style === 'measure'}
				{@const long = Math.hypot(s.points[1]![0]! - s.points[0]![0]!, s.points[1]![1]! - s.points[0]![1]!)}
				<g transform="translate({(box.x0 + box.x1) / 2} {box.y0 - 18 / scale}) scale({1 / scale} {-1 / scale})"
					><text class="fig"
						>{show(long / s.times, session.unit, true)}{s.times > 1
							? ` ${word('answers.drawn', { size: unitName(session.unit), times: s.times })}`
							: ''}</text
					></g
				>
				<path
					d="M{box.x0} {box.y0 - 4 / scale}v{8 / scale}M{box.x1} {box.y0 - 4 / scale}v{8 / scale}"
					stroke="#e6f2ee"
					stroke-width={1.6 / scale}
				/>
			{:else if s.label}
				{@const above = s.style !== 'sheet'}
				<g
					transform="translate({above ? (box.x0 + box.x1) / 2 : box.x0} {above ? box.y1 + 9 / scale : box.y0 - 18 / scale}) scale({1 /
						scale} {-1 / scale})"><text class:start={!above}>{s.label}</text></g
				>
			{/if}
		{/each}
	{/snippet}
</Mat>

<style>
	text {
		font: 600 13px var(--font-sans);
		text-anchor: middle;
		fill: #fff;
	}
	text.start {
		text-anchor: start;
	}
</style>
