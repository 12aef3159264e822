<!-- A line sketch of the box; the number being changed is lit. -->
<script lang="ts">
	import type { Numbers } from '../../api/types';

	let { numbers: n, lit }: { numbers: Numbers; lit: string } = $props();
	const on = (key: string) => (lit === key ? 'lit' : '');
	const share = (count: number) => Array.from({ length: count - 1 }, (_, i) => (i + 1) / count);
</script>

<svg viewBox="0 0 264 118" aria-hidden="true">
	<g class="box">
		<path d="M30 98V52H170V98ZM170 98L220 72V26L170 52M30 52L80 26H220" />
		{#if (n.columns ?? 1) <= 8}{#each share(n.columns ?? 1) as s (s)}<path
					class={on('columns')}
					d="M{30 + 140 * s} 52L{80 + 140 * s} 26"
				/>{/each}{/if}
		{#if (n.rows ?? 1) <= 8}{#each share(n.rows ?? 1) as s (s)}<path
					class={on('rows')}
					d="M{30 + 50 * s} {52 - 26 * s}H{170 + 50 * s}"
				/>{/each}{/if}
		{#if (n.thumb_notch ?? 0) > 0 || lit === 'thumb_notch'}<path class={on('thumb_notch')} d="M86 52A14 14 0 0 0 114 52" />{/if}
		{#if n.top !== 'open'}<path d="M26 46L78 19H226L172 46ZM26 46V50H172L226 23V19" /><ellipse
				class={on('lid_hole')}
				cx="126"
				cy="33"
				rx="14"
				ry="5"
			/>{/if}
	</g>
	<g class="dim">
		<path class={on('width')} d="M30 108H170M30 104V112M170 104V112" /><text class={on('width')} x="100" y="117">width</text>
		<path class={on('depth')} d="M178 106L228 80M175 102L181 110M225 76L231 84" /><text class={on('depth')} x="222" y="104">depth</text>
		<path class={on('height')} d="M16 52V98M12 52H20M12 98H20" /><text class={on('height')} x="16" y="46">height</text>
		{#if lit === 'divider_drop'}<path class="lit" d="M60 52V60M56 60H64" />{/if}
	</g>
</svg>

<style>
	path,
	ellipse {
		fill: none;
		stroke: var(--ink-2);
		stroke-width: 1.2;
	}
	.dim path {
		stroke-width: 1;
		opacity: 0.7;
	}
	text {
		font-size: 10.5px;
		text-anchor: middle;
		fill: var(--ink-2);
	}
	.lit,
	.dim .lit {
		stroke: #0f8a6c;
		stroke-width: 2.6;
		opacity: 1;
	}
	text.lit {
		stroke: none;
		fill: #0f8a6c;
		font-weight: 700;
	}
</style>
