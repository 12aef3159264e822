<!-- What is engraved or scored on a panel; what is on its other face is pale. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { pictureFrame, ringPath } from '../../lib/mat/outlines';

	let { part, back, scale, pictureOf }: { part: PartOut; back: boolean; scale: number; pictureOf: (mark: number) => string } = $props();
</script>

{#each part.marks as s, i (i)}{#if !!s.back !== back}<path
			class="other"
			d={ringPath(s.line as number[][], s.closed)}
			stroke-width={0.8 / scale}
			stroke-dasharray="{2 / scale} {2.5 / scale}"
		/>{:else if s.photo}{@const frame = pictureFrame(s.line as number[][])}<image
			href={pictureOf(i)}
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

<style>
	.other {
		fill: none;
		stroke: #2b1a08;
		opacity: 0.45;
	}
</style>
