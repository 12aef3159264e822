<!-- How the whole sheet was turned over: the line it was turned about, and the way. -->
<script lang="ts">
	import type { SheetPlan } from '../../api/types';

	let { sheet, scale }: { sheet: SheetPlan; scale: number } = $props();
	const upwards = $derived(sheet.lay?.turn === 'upwards');
	const [w, h] = $derived([sheet.width, sheet.height]);
	const out = $derived(10 / scale);
</script>

<g class="turn" stroke-width={1.4 / scale}>
	<path
		d={upwards ? `M${-out} ${h / 2}H${w + out}` : `M${w / 2} ${-out}V${h + out}`}
		stroke-dasharray="{9 / scale} {5 / scale} {2 / scale} {5 / scale}"
	/>
	<g
		transform="translate({upwards ? w + 16 / scale : w / 2} {upwards ? h / 2 : h + 13 / scale}) rotate({upwards ? -90 : 0}) scale({1 /
			scale})"
	>
		<path d="M-26 0C-14 13 14 13 26 0M17 1L26.5 -0.5L25 9" stroke-width="2" />
	</g>
</g>

<style>
	.turn {
		fill: none;
		stroke: #fff;
	}
</style>
