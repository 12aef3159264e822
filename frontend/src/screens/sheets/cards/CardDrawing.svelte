<!-- A card as it lies before its maker: press a cell, or walk with the arrows, and say what came of it with 1 to 5. -->
<script lang="ts">
	import type { CardOut, Cell } from '../../../api/types';
	import { session } from '../../../app/session.svelte';
	import Mat from '../../../lib/mat/Mat.svelte';
	import { boundsOf, inkOn, profilePath, ringPath } from '../../../lib/mat/outlines';
	import { show, showKerf } from '../../../lib/units/units';
	import { chosen, neighbour, optionsFor, standing } from './entry';
	import { word } from '../../../words/words';

	let {
		card,
		at,
		onpick,
		onsay
	}: { card: CardOut; at: number; onpick: (index: number) => void; onsay: (index: number, option: number | null) => void } = $props();
	const options = $derived(optionsFor(card.kind));
	const results = $derived(standing(card));
	const pieces = $derived(new Map(card.pieces.map((p) => [p.id, p])));
	const all = $derived(card.pieces.flatMap((p) => p.profile.outer.map((q) => [q[0]! + p.at[0]!, q[1]! + p.at[1]!])));
	const b = $derived(boundsOf(all));
	const room = $derived({ x0: b.x0 - 4, y0: b.y0 - 4, x1: b.x1 + 4, y1: b.y1 + 10 });
	const mid = (c: Cell) => (c.box[0]! + c.box[2]!) / 2;
	/** Slots stand side by side: where a word is wider than their pitch on screen, the number of the word stands for it. */
	const pitch = $derived(
		Math.min(...card.cells.slice(1).map((c, i) => (c.part === card.cells[i]!.part ? mid(c) - mid(card.cells[i]!) : 1e9)), 1e9)
	);
	const told = (c: Cell): { text: string; colour: string; number?: number } | null => {
		const value = results.get(c.id);
		const option = chosen(options, value);
		if (option) return { text: option.short, colour: option.colour, number: options.indexOf(option) + 1 };
		const number = value?.depth_mm ?? value?.measured_mm;
		return typeof number === 'number'
			? { text: card.kind === 'steps' ? showKerf(number, session.unit) : show(number, session.unit, true), colour: '#fff' }
			: null;
	};
	let root: HTMLElement;

	function key(event: KeyboardEvent) {
		const digit = Number(event.code.replace('Digit', '').replace('Numpad', ''));
		if (event.key.startsWith('Arrow')) focus(neighbour(card.cells, at, event.key));
		else if (digit >= 1 && digit <= options.length && !event.altKey && !event.ctrlKey) onsay(at, digit - 1);
		else if (event.key === 'Delete' || event.key === 'Backspace') onsay(at, null);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
	export function focus(index: number) {
		onpick(index);
		root?.querySelectorAll<SVGElement>('[data-cell]')[index]?.focus();
	}
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div class="whole" bind:this={root} onkeydown={key}>
	<Mat bounds={room} label={word('sheets.test-card')} inch={session.unit !== 'mm'} pad={26}>
		{#snippet children(scale)}
			{#each card.pieces as p (p.id)}
				<g transform="translate({p.at[0]} {p.at[1]})">
					<path d={profilePath(p.profile)} fill={p.colour} fill-rule="evenodd" stroke="#3a2a14" stroke-width={1 / scale} />
					{#each p.marks as m, i (i)}
						<path
							d={ringPath(m.line as number[][], m.closed)}
							fill={m.operation === 'engrave' ? '#6b4a2b' : 'none'}
							fill-opacity="0.55"
							stroke={m.operation === 'inner' ? '#8c2f08' : inkOn(p.colour)}
							stroke-width={(m.operation === 'inner' ? 1.3 : 1.1) / scale}
						/>
					{/each}
				</g>
			{/each}
			{#each card.cells as c, i (c.id)}
				{@const p = pieces.get(c.part)!}
				{@const said = told(c)}
				{@const grow = c.what === 'slot' && i === at ? 3 / scale : 0}
				<g transform="translate({p.at[0]} {p.at[1]})">
					<rect
						data-cell={c.id}
						role="button"
						tabindex={i === at ? 0 : -1}
						aria-label="{c.what} {c.label}, {said ? said.text : word('sheets.nothing-entered')}"
						aria-current={i === at}
						x={c.box[0]! - grow}
						y={c.box[1]}
						width={c.box[2]! - c.box[0]! + 2 * grow}
						height={c.box[3]! - c.box[1]!}
						fill={said ? said.colour : '#fff'}
						fill-opacity={said ? (c.what === 'slot' ? 0.8 : 0.55) : i === at ? 0.28 : 0.001}
						stroke={i === at ? '#fff' : 'none'}
						stroke-width={2.5 / scale}
						onclick={() => focus(i)}
						onkeydown={() => {}}
						onfocus={() => onpick(i)}
					/>
					{#if said && scale > 2.4}
						{@const wide = said.text.length * 5.7 + 9}
						{@const short = c.what === 'slot' && said.number && wide > pitch * scale}
						{@const w = short ? 16 : wide}
						<g
							transform="translate({mid(c)} {c.box[3]! + (c.what === 'slot' ? 15 : 3) / scale}) scale({1 / scale} {-1 / scale})"
							pointer-events="none"
						>
							{#if c.what === 'slot' || c.what === 'peg'}<rect x={-w / 2} y="-13" width={w} height="18" rx="3" fill={said.colour} />{/if}
							<text class:light={c.what === 'text' || c.what === 'web'}>{short ? said.number : said.text}</text>
						</g>
					{/if}
				</g>
			{/each}
		{/snippet}
	</Mat>
</div>

<style>
	.whole {
		min-height: 0;
		height: 100%;
	}
	rect {
		cursor: pointer;
	}
	rect:focus {
		outline: none;
	}
	text {
		font: 600 11.5px var(--font-sans);
		fill: #16211e;
		text-anchor: middle;
	}
	text.light {
		display: none;
	}
</style>
