<!-- A part where it lies on its sheet: its name, what falls out of it, a lock. -->
<script lang="ts">
	import type { Profile, SheetLayout } from '../../api/types';
	import { boundsOf, inkOn, placing, profilePath, ringPath, upright } from '../../lib/mat/outlines';
	import { word } from '../../words/words';

	let {
		place: p,
		profile,
		falling,
		labels,
		colour,
		scale,
		picked,
		locked,
		onpick,
		onlift,
		onkey
	}: {
		place: SheetLayout['placements'][number];
		profile: Profile;
		/** where pieces that are parts lie, which fall out of it, by the piece */
		falling: Record<string, unknown>;
		labels: Map<string, string>;
		colour: string;
		scale: number;
		picked: boolean;
		locked: boolean;
		onpick: () => void;
		onlift?: (event: PointerEvent) => void;
		onkey?: (event: KeyboardEvent) => void;
	} = $props();
	const GLYPH = 6.6; // width of a letter [px]
	const ink = $derived(inkOn(colour));
	const box = $derived(boundsOf(profile.outer as number[][]));
	const [mx, my, wide, high] = $derived([(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2, box.x1 - box.x0, box.y1 - box.y0]);
	const label = $derived(`${labels.get(p.part) ?? ''}${p.mirrored ? `, ${word('lay-out.turned-over')}` : ''}`);
	const standing = $derived((p.turn % 180 === 0) === high > wide);
</script>

<g transform={placing(p)}>
	<path
		role="button"
		tabindex="0"
		aria-label={locked ? word('lay-out.part-locked', { label }) : label}
		class="part"
		class:picked
		d={profilePath(profile)}
		fill={colour}
		fill-rule="evenodd"
		stroke={ink}
		stroke-width={1 / scale}
		onfocus={onpick}
		onclick={onpick}
		onpointerdown={onlift}
		onkeydown={(e) => (e.key === 'Enter' ? onpick() : onkey?.(e))}
	/>
	{#each Object.entries(falling) as [piece, ring] (piece)}
		{@const b = boundsOf(ring as number[][])}
		{@const [w, h] = p.turn % 180 === 0 ? [b.x1 - b.x0, b.y1 - b.y0] : [b.y1 - b.y0, b.x1 - b.x0]}
		{@const name = labels.get(piece) ?? ''}
		<path class="falls" d={ringPath(ring as number[][])} stroke={ink} stroke-width={1 / scale} stroke-dasharray="{5 / scale} {3 / scale}" />
		{#if w * scale > name.length * GLYPH && h * scale > 16}<g
				transform="translate({(b.x0 + b.x1) / 2} {(b.y0 + b.y1) / 2}) {upright(p)} scale({1 / scale} {-1 / scale})"
				><text class="small" dy="4" fill={ink} stroke={colour}>{name}</text></g
			>{/if}
	{/each}
	{#if locked}<g transform="translate({mx} {my}) {upright(p)} scale({1 / scale} {-1 / scale}) translate(0 14)"
			><path class="lock" d="M-5 2h10v8h-10zM-3 2v-3a3 3 0 0 1 6 0v3" stroke={ink} fill="none" /></g
		>{/if}
	{#if Math.max(wide, high) * scale > label.length * GLYPH && Math.min(wide, high) * scale > 16}
		<g transform="translate({mx} {my}) {upright(p)} rotate({standing ? 90 : 0}) scale({1 / scale} {-1 / scale})">
			<text dy="-7" fill={ink} stroke={colour}>{label}</text>
		</g>
	{/if}
</g>

<style>
	.part {
		cursor: pointer;
	}
	.falls {
		fill: none;
		pointer-events: none;
	}
	text.small {
		font-size: 10.5px;
	}
	.part:hover,
	.part.picked {
		filter: brightness(1.07);
		stroke: #fff;
	}
	text {
		font: 12px var(--font-sans);
		stroke-width: 5px;
		stroke-linejoin: round;
		text-anchor: middle;
		pointer-events: none;
		paint-order: stroke;
	}
	.part:focus-visible {
		outline: none;
		stroke: #fff;
		stroke-width: 2.5px;
		vector-effect: non-scaling-stroke;
	}
	.lock {
		stroke-width: 1.6;
		pointer-events: none;
	}
</style>
