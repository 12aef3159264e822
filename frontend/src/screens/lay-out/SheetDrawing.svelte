<!-- One sheet with its parts, in the colour of its stock. -->
<script lang="ts">
	import type { Profile, SheetLayout } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { inkOn, ringPath } from '../../lib/mat/outlines';
	import { show } from '../../lib/units/units';
	import { copyId } from '../../lib/ids';
	import PlacedPart from './PlacedPart.svelte';
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
</script>

<g opacity={stale ? 0.55 : 1}>
	<path d={ringPath(sheet.ring as number[][])} fill={colour} stroke="#5a4422" stroke-width={1 / scale} style:filter="brightness(0.87)" />
	{#if bed && (bed[0] < sheet.width || bed[1] < sheet.height)}
		<rect width={bed[0]} height={bed[1]} fill="none" stroke="#1d2b27" stroke-width={1 / scale} stroke-dasharray="{6 / scale} {5 / scale}" />
	{/if}
	{#each sheet.bad ?? [] as ring, k (k)}<path d={ringPath(ring as number[][])} class="spot" stroke={ink} stroke-width={1.2 / scale} /><title
			>{word('lay-out.bad-spot')}</title
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
					>{word('lay-out.leftover', {
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
			<PlacedPart
				place={p}
				{profile}
				falling={falling.get(p.part) ?? {}}
				{labels}
				{colour}
				{scale}
				picked={picked === key}
				locked={locked.has(key)}
				onpick={() => (picked = key)}
				onlift={(e) => onlift?.(key, e)}
				onkey={(e) => onkey?.(key, e)}
			/>
		{/if}
	{/each}
</g>

<style>
	text {
		font: 12px var(--font-sans);
		text-anchor: middle;
		pointer-events: none;
	}
	.spot {
		fill: rgb(120 30 10 / 0.28);
	}
	.left {
		opacity: 0.85;
	}
</style>
