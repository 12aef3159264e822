<!-- A sheet seen edge-on, at true relative thickness. -->
<script lang="ts">
	let { colour, thickness, width = 92 }: { colour: string; thickness: number; width?: number } = $props();
	const h = $derived(Math.max(3, Math.min(thickness * 3.1, 26)));
</script>

<svg {width} height={Math.max(h, 8)} aria-hidden="true" style:flex="none">
	<rect x="0.5" y={(Math.max(h, 8) - h) / 2 + 0.5} width={width - 1} height={h - 1} fill={colour} stroke="#5b4a33" stroke-opacity="0.7" />
</svg>
