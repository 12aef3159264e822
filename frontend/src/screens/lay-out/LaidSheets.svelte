<!-- The sheets side by side with what lies on them, and the part in hand above them. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { copyId } from '../../lib/ids';
	import { inkOn, placing, profilePath } from '../../lib/mat/outlines';
	import { show } from '../../lib/units/units';
	import type { ByHand } from './byhand.svelte';
	import SheetDrawing from './SheetDrawing.svelte';
	import type { sideBySide } from './sidebyside';
	import { word } from '../../words/words';

	let {
		out,
		placed,
		profiles,
		falling,
		labels,
		locked,
		hand,
		scale,
		picked = $bindable(),
		onlift,
		onkey
	}: {
		out: LayoutOut;
		placed: ReturnType<typeof sideBySide>['sheets'];
		profiles: Map<string, LayoutOut['parts'][number]['profile']>;
		falling: Map<string, LayoutOut['parts'][number]['falling']>;
		labels: Map<string, string>;
		locked: Set<string>;
		hand: ByHand;
		scale: number;
		picked: string;
		onlift: (key: string, event: PointerEvent) => void;
		onkey: (part: string, event: KeyboardEvent) => void;
	} = $props();
</script>

{#each placed as p (`${p.sheet.sheet}#${p.sheet.copy}`)}
	<g transform="translate({p.x} {p.y})">
		<SheetDrawing
			sheet={p.sheet}
			{profiles}
			{falling}
			{labels}
			colour={out.stocks[p.sheet.stock]?.colour ?? '#ddd'}
			bed={out.bed_mm as [number, number]}
			{scale}
			bind:picked
			stale={!out.fresh}
			held={hand.held ? copyId(hand.held) : ''}
			{locked}
			{onlift}
			{onkey}
		/>
		<g transform="translate(0 {p.sheet.height + 10 / scale}) scale({1 / scale} {-1 / scale})"
			><text class="cap"
				>{word('lay-out.used', {
					width: p.sheet.width * scale > 230 ? `${word('lay-out.copy', { name: p.sheet.name, copy: p.sheet.copy + 1 })} ` : '',
					utilisation: (p.sheet.utilisation * 100).toFixed(0)
				})}</text
			></g
		>
		{#if p.sheet.width * scale > 110}<g transform="translate({p.sheet.width / 2} {-18 / scale}) scale({1 / scale} {-1 / scale})"
				><text class="dim">{show(p.sheet.width, session.unit)} × {show(p.sheet.height, session.unit)}</text></g
			>{/if}
	</g>
{/each}
{#if hand.held}
	{@const profile = profiles.get(hand.held.part)}
	{@const colour = out.stocks[out.parts.find((p) => p.id === hand.held!.part)?.stock ?? '']?.colour ?? '#ddd'}
	<g transform={placing(hand.held)}>
		{#if profile}<path
				class="held"
				class:bad={hand.held.bad}
				d={profilePath(profile)}
				fill={colour}
				fill-rule="evenodd"
				stroke={inkOn(colour)}
				role="presentation"
				onpointerdown={(e) => onlift(copyId(hand.held!), e)}
			/>{/if}
	</g>
{/if}

<style>
	.cap,
	.dim {
		font: 13px var(--font-sans);
		fill: var(--mat-ink);
	}
	.dim {
		font-family: var(--font-mono);
		font-size: 12px;
		text-anchor: middle;
		fill: var(--mat-ink-2);
	}
	.held {
		cursor: grabbing;
		stroke-width: 2px;
		vector-effect: non-scaling-stroke;
		filter: drop-shadow(0 3px 5px rgb(0 0 0 / 0.45));
	}
	.held.bad {
		stroke: var(--bad);
		stroke-dasharray: 6 4;
	}
</style>
