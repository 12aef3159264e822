<!-- A panel's outline with its straight edges, numbered; one is picked by pointing at it. The list beside it says the same in words. -->
<script lang="ts">
	import type { PanelEdges } from '../../api/types';
	import { boundsOf, ringPath } from '../../lib/mat/outlines';

	let { panel, picked, onpick }: { panel: PanelEdges; picked: number; onpick: (nth: number) => void } = $props();
	const b = $derived(boundsOf(panel.outline as number[][]));
	const size = $derived(Math.max(b.x1 - b.x0, b.y1 - b.y0));
	const pad = $derived(size * 0.12);
	const marks = $derived(
		panel.edges.map((e) => {
			const [p, q] = [e.start as unknown as number[], e.end as unknown as number[]];
			const out = [(q[1]! - p[1]!) / e.length, (p[0]! - q[0]!) / e.length];
			const at = [0, 1].map((k) => (p[k]! + q[k]!) / 2 + out[k]! * size * 0.06) as [number, number];
			return { ...e, path: ringPath([p, q], false), at };
		})
	);
</script>

<svg viewBox="{b.x0 - pad} {-b.y1 - pad} {b.x1 - b.x0 + 2 * pad} {b.y1 - b.y0 + 2 * pad}" aria-hidden="true">
	<g transform="scale(1 -1)">
		<path class="sheet" d={ringPath(panel.outline as number[][])} />
		{#each marks as m (m.nth)}
			<path class="edge" class:on={!picked || picked === m.nth} d={m.path} />
			<path class="reach" d={m.path} stroke-width={size * 0.1} role="presentation" onclick={() => onpick(m.nth)} />
		{/each}
	</g>
	{#each marks as m (m.nth)}
		<text x={m.at[0]} y={-m.at[1]} font-size={size * 0.075} class:on={!picked || picked === m.nth}>{m.nth}</text>
	{/each}
</svg>

<style>
	svg {
		width: 100%;
		max-height: 150px;
	}
	.sheet {
		fill: var(--pick);
		stroke: var(--rule);
		stroke-width: 1px;
		vector-effect: non-scaling-stroke;
	}
	.edge {
		fill: none;
		stroke: var(--ink-2);
		stroke-width: 1.5px;
		vector-effect: non-scaling-stroke;
	}
	.edge.on {
		stroke: var(--ink);
		stroke-width: 4px;
	}
	.reach {
		fill: none;
		stroke: transparent;
		cursor: pointer;
	}
	text {
		text-anchor: middle;
		dominant-baseline: central;
		fill: var(--ink-2);
	}
	text.on {
		fill: var(--ink);
		font-weight: 600;
	}
</style>
