<!-- One sheet with its parts, in the colour of its stock. -->
<script lang="ts">
	import type { Profile, SheetLayout } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { boundsOf, inkOn, placing, profilePath, ringPath, upright } from '../../lib/mat/outlines';
	import { show } from '../../lib/units/units';
	import { copyId } from '../../lib/ids';
	import { word } from '../../words/words';

	let {
		sheet,
		profiles,
		falling = new Map(),
		labels,
		colour,
		bed,
		scale,
		picked = $bindable(''),
		stale = false,
		held = '',
		locked = new Set(),
		onlift,
		onkey
	}: {
		sheet: SheetLayout;
		profiles: Map<string, Profile>;
		/** where pieces lie that are parts and fall out of others, by the piece */
		falling?: Map<string, Record<string, unknown>>;
		labels: Map<string, string>;
		colour: string;
		bed: [number, number];
		scale: number;
		picked?: string;
		stale?: boolean;
		/** the part that is in the hand: not drawn here */
		held?: string;
		locked?: Set<string>;
		onlift?: (key: string, event: PointerEvent) => void;
		onkey?: (key: string, event: KeyboardEvent) => void;
	} = $props();
	const left = $derived(sheet.leftover);
	const ink = $derived(inkOn(colour));
	/** Middle, width and height of a part. */
	function middle(profile: Profile): [number, number, number, number] {
		const b = boundsOf(profile.outer as number[][]);
		return [(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2, b.x1 - b.x0, b.y1 - b.y0];
	}
</script>

<g opacity={stale ? 0.55 : 1}>
	<path d={ringPath(sheet.ring as number[][])} fill={colour} stroke="#5a4422" stroke-width={1 / scale} style:filter="brightness(0.87)" />
	{#if bed && (bed[0] < sheet.width || bed[1] < sheet.height)}
		<rect width={bed[0]} height={bed[1]} fill="none" stroke="#1d2b27" stroke-width={1 / scale} stroke-dasharray="{6 / scale} {5 / scale}" />
	{/if}
	{#each sheet.bad ?? [] as ring, k (k)}<path d={ringPath(ring as number[][])} class="spot" stroke={ink} stroke-width={1.2 / scale} /><title
			>{word('layout.bad-spot')}</title
		>{/each}
	{#if left}
		<rect
			x={left[0]! + 3}
			y={left[1]! + 3}
			width={left[2]! - left[0]! - 6}
			height={left[3]! - left[1]! - 6}
			fill="none"
			stroke={ink}
			stroke-width={1.2 / scale}
			stroke-dasharray="{2 / scale} {4 / scale}"
		/>
		{@const upright = left[2]! - left[0]! < 150 / scale}
		{#if Math.max(left[2]! - left[0]!, left[3]! - left[1]!) > 160 / scale && Math.min(left[2]! - left[0]!, left[3]! - left[1]!) > 18 / scale}<g
				transform="translate({(left[0]! + left[2]!) / 2} {(left[1]! + left[3]!) / 2}) scale({1 / scale} {-1 / scale}) rotate({upright
					? -90
					: 0})"
				><text class="left" fill={ink}
					>{word('layout.leftover', {
						left: show(left[2]! - left[0]!, session.unit),
						left2: show(left[3]! - left[1]!, session.unit)
					})}</text
				></g
			>{/if}
	{/if}
	{#each sheet.placements as p (p.part + p.copy)}
		{@const profile = profiles.get(p.part)}
		{@const key = copyId(p)}
		{#if profile && key !== held}
			{@const [mx, my, wide, high] = middle(profile)}
			{@const label = `${labels.get(p.part) ?? ''}${p.mirrored ? `, ${word('layout.turned-over')}` : ''}`}
			{@const standing = (p.turn % 180 === 0) === high > wide}
			<g transform={placing(p)}>
				<path
					role="button"
					tabindex="0"
					aria-label="{label}{locked.has(key) ? ', locked' : ''}"
					class="part"
					class:picked={picked === key}
					d={profilePath(profile)}
					fill={colour}
					fill-rule="evenodd"
					stroke={ink}
					stroke-width={1 / scale}
					onfocus={() => (picked = key)}
					onclick={() => (picked = key)}
					onpointerdown={(e) => onlift?.(key, e)}
					onkeydown={(e) => (e.key === 'Enter' ? (picked = key) : onkey?.(key, e))}
				/>
				{#each Object.entries(falling.get(p.part) ?? {}) as [piece, ring] (piece)}
					{@const b = boundsOf(ring as number[][])}
					{@const [w, h] = p.turn % 180 === 0 ? [b.x1 - b.x0, b.y1 - b.y0] : [b.y1 - b.y0, b.x1 - b.x0]}
					{@const name = labels.get(piece) ?? ''}
					<path
						class="falls"
						d={ringPath(ring as number[][])}
						stroke={ink}
						stroke-width={1 / scale}
						stroke-dasharray="{5 / scale} {3 / scale}"
					/>
					{#if w * scale > name.length * 6.6 && h * scale > 16}<g
							transform="translate({(b.x0 + b.x1) / 2} {(b.y0 + b.y1) / 2}) {upright(p)} scale({1 / scale} {-1 / scale})"
							><text class="small" dy="4" fill={ink} stroke={colour}>{name}</text></g
						>{/if}
				{/each}
				{#if locked.has(key)}<g transform="translate({mx} {my}) {upright(p)} scale({1 / scale} {-1 / scale}) translate(0 14)"
						><path class="lock" d="M-5 2h10v8h-10zM-3 2v-3a3 3 0 0 1 6 0v3" stroke={ink} fill="none" /></g
					>{/if}
				{#if Math.max(wide, high) * scale > label.length * 6.6 && Math.min(wide, high) * scale > 16}
					<g transform="translate({mx} {my}) {upright(p)} rotate({standing ? 90 : 0}) scale({1 / scale} {-1 / scale})">
						<text dy="-7" fill={ink} stroke={colour}>{label}</text>
					</g>
				{/if}
			</g>
		{/if}
	{/each}
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
	.spot {
		fill: rgb(120 30 10 / 0.28);
	}
	.left {
		stroke: none;
		opacity: 0.85;
	}
</style>
