<!-- A drawn picture of an assembly, with the numbers of its family as lines; the one being changed is lit. -->
<script lang="ts">
	import type { PictureOut } from '../../api/types';

	let {
		picture,
		colours,
		fallback = '#d9c39a',
		height = 124,
		lit = '',
		lines = false
	}: {
		picture: PictureOut;
		colours: Record<string, string>;
		fallback?: string;
		height?: number;
		/** name of the number to light up */
		lit?: string;
		lines?: boolean;
	} = $props();

	const b = $derived(picture.bounds as unknown as number[]);
	const span = $derived(Math.max(b[2]! - b[0]!, b[3]! - b[1]!, 1));
	const pad = $derived(span * 0.05);
	const path = (ring: readonly (readonly number[])[]) => `M${ring.map((p) => `${p[0]} ${-p[1]!}`).join('L')}Z`;
	const shaded = (stock: string, light: number) => `color-mix(in srgb, ${colours[stock] ?? fallback} ${Math.round(light * 100)}%, #23180a)`;
	/** The end strokes of a dimension, square to it. */
	const ends = (s: readonly number[], e: readonly number[]) => {
		const [dx, dy] = [e[0]! - s[0]!, e[1]! - s[1]!];
		const length = Math.hypot(dx, dy) || 1;
		const [nx, ny] = [(-dy / length) * span * 0.022, (dx / length) * span * 0.022];
		return [s, e].map((p) => `M${p[0]! - nx} ${-(p[1]! - ny)}L${p[0]! + nx} ${-(p[1]! + ny)}`).join('');
	};
</script>

<svg width="100%" {height} viewBox="{b[0]! - pad} {-b[3]! - pad} {b[2]! - b[0]! + 2 * pad} {b[3]! - b[1]! + 2 * pad}" aria-hidden="true">
	<g stroke="#3a2a14" stroke-linejoin="round">
		{#each picture.faces as f, i (i)}
			<path
				d={path(f.ring) + (f.holes ?? []).map(path).join('')}
				fill={shaded(f.stock, f.light)}
				fill-rule="evenodd"
				vector-effect="non-scaling-stroke"
				stroke-width="0.8"
			/>
		{/each}
	</g>
	{#if lines}
		<g class="dim">
			{#each picture.lines as l (l.name)}
				<path
					class:lit={l.name === lit}
					data-number={l.name}
					d="M{l.start[0]} {-l.start[1]!}L{l.end[0]} {-l.end[1]!}{ends(l.start, l.end)}"
					vector-effect="non-scaling-stroke"
				/>
			{/each}
		</g>
	{/if}
</svg>

<style>
	.dim path {
		fill: none;
		stroke: none;
	}
	.dim path.lit {
		stroke: #0f8a6c;
		stroke-width: 3;
	}
</style>
