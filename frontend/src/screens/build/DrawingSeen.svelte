<!-- What was read of a file: its lines, with the places that its notes mean ringed, or the picture itself. -->
<script lang="ts">
	import type { DrawingOut } from '../../api/types';
	import { word } from '../../words/words';

	let { drawing, picture }: { drawing: DrawingOut; picture: File | null } = $props();
	const [w, h] = $derived(drawing.size as unknown as [number, number]);
	const shown = $derived(picture ? URL.createObjectURL(picture) : '');
	$effect(() => {
		const url = shown;
		return () => url && URL.revokeObjectURL(url);
	});
	const path = (ring: readonly (readonly number[])[]) => `M${ring.map((p) => `${p[0]} ${h - p[1]!}`).join('L')}`;
</script>

{#if picture}<img src={shown} alt={word('build.what-was-read')} />{:else}
	<svg viewBox="{-w * 0.03} {-h * 0.03} {w * 1.06} {h * 1.06}" role="img" aria-label={word('build.what-was-read')}>
		{#each drawing.lines as line, i (i)}<path d={path(line)} vector-effect="non-scaling-stroke" />{/each}
		{#each drawing.notes.filter((n) => n.place) as n (n.code)}<circle
				cx={n.place![0]}
				cy={h - n.place![1]!}
				r={Math.max(w, h) * 0.025}
				vector-effect="non-scaling-stroke"
			/>{/each}
	</svg>
{/if}

<style>
	svg,
	img {
		width: 100%;
		max-height: 150px;
		object-fit: contain;
		background: var(--bench-2);
		border-radius: 4px;
	}
	path {
		fill: none;
		stroke: var(--ink);
		stroke-width: 1;
	}
	circle {
		fill: none;
		stroke: var(--bad);
		stroke-width: 2;
	}
</style>
