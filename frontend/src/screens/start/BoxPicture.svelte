<!-- A drawn picture of a box from its numbers: oblique, in its stocks' colours. -->
<script lang="ts">
	import type { Design, Numbers } from '../../api/types';

	let { size, design, colours }: { size: [number, number, number]; design: Design; colours: Record<string, string> } = $props();
	const [w, d, h] = $derived(size);
	const k = $derived(Math.min(190 / (w + d * 0.5 || 1), 104 / (h + d * 0.38 || 1)));
	const at = (x: number, y: number, z: number) => `${(x + y * 0.5) * k},${(h + d * 0.38 - z - y * 0.38) * k}`;
	const face = (...points: [number, number, number][]) => points.map((p) => at(...p)).join(' ');
	const wall = $derived(colours[design.stocks.walls ?? ''] ?? '#ddd');
	const divider = $derived(colours[design.stocks.dividers ?? ''] ?? wall);
	const n = $derived(design.numbers as Numbers);
	const between = (count: number, full: number) => Array.from({ length: count - 1 }, (_, i) => (full * (i + 1)) / count);
	const closed = $derived(n.top === 'fixed');
</script>

<svg width="100%" height="124" viewBox="-8 -8 {(w + d * 0.5) * k + 16} {(h + d * 0.38) * k + 16}" aria-hidden="true">
	<g stroke="#4b3a22" stroke-width="1" stroke-linejoin="round">
		<polygon points={face([0, d, 0], [w, d, 0], [w, d, h], [0, d, h])} fill={wall} style:filter="brightness(0.82)" />
		<polygon points={face([0, 0, 0], [0, d, 0], [0, d, h], [0, 0, h])} fill={wall} style:filter="brightness(0.9)" />
		{#if !closed}
			{#each between(n.rows ?? 1, d).reverse() as y (y)}<polygon
					points={face([0, y, 0], [w, y, 0], [w, y, h * 0.94], [0, y, h * 0.94])}
					fill={divider}
				/>{/each}
			{#each between(n.columns ?? 1, w) as x (x)}<polygon
					points={face([x, 0, 0], [x, d, 0], [x, d, h * 0.94], [x, 0, h * 0.94])}
					fill={divider}
					style:filter="brightness(0.88)"
				/>{/each}
		{/if}
		<polygon points={face([w, 0, 0], [w, d, 0], [w, d, h], [w, 0, h])} fill={wall} style:filter="brightness(0.86)" />
		<polygon points={face([0, 0, 0], [w, 0, 0], [w, 0, h], [0, 0, h])} fill={wall} />
		{#if closed}<polygon
				points={face([0, 0, h], [w, 0, h], [w, d, h], [0, d, h])}
				fill={colours[design.stocks.lid ?? ''] ?? wall}
				style:filter="brightness(1.04)"
			/>{/if}
	</g>
</svg>
