<!-- The wood of a sheet with its readings at their spots, those on their way, and a place for the next one. -->
<script lang="ts">
	import type { Snippet } from 'svelte';
	import { session } from '../../app/session.svelte';
	import { day, show } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { RackState } from './rack.svelte';

	type Spot = { x: number; y: number };
	let {
		rack,
		colour,
		grained,
		next,
		onpick,
		children
	}: {
		rack: RackState;
		colour: string;
		grained: boolean;
		/** where the next reading is, as shares of the sheet */
		next: Spot;
		onpick: (at: Spot) => void;
		/** the field for it */
		children: Snippet;
	} = $props();
	function pick(event: MouseEvent) {
		const box = (event.currentTarget as Element).getBoundingClientRect();
		onpick({ x: (event.clientX - box.left) / box.width, y: 1 - (event.clientY - box.top) / box.height });
	}
</script>

<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
<div class="wood" class:grained style:background-color={colour} onclick={pick}>
	{#each rack.typed.waiting as t (t.key)}<span
			class="spot fig coming"
			class:failed={t.wrong}
			class:small={rack.readings.length > 14}
			style:left="{t.x * 100}%"
			style:bottom="{t.y * 100}%">{t.text}</span
		>{/each}
	{#each rack.coming ? [] : rack.readings as r (r.id)}
		<button
			class="spot fig"
			class:small={rack.readings.length > 14}
			style:left="{r.x * 100}%"
			style:bottom="{r.y * 100}%"
			title={word('sheets.press-to-withdraw-this-reading', { on: day(r.on), by: r.by })}
			aria-label={word('sheets.reading-withdraw', { thicknessmm: show(r.thickness_mm, session.unit, true) })}
			onclick={(e) => {
				e.stopPropagation();
				void rack.withdrawReading(r, true);
			}}>{show(r.thickness_mm, session.unit, true)}</button
		>
	{/each}
	<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
	<span class="entry" style:left="{next.x * 100}%" style:bottom="{next.y * 100}%" onclick={(e) => e.stopPropagation()}>
		{@render children()}
	</span>
</div>

<style>
	.coming {
		opacity: 0.65;
	}
	.failed {
		opacity: 1;
		outline: 2px solid #f0b45a;
	}
	.wood {
		position: absolute;
		inset: 0;
		border: 1px solid #6e5732;
		cursor: crosshair;
	}
	.wood.grained {
		background-image: repeating-linear-gradient(2deg, rgba(70, 40, 5, 0.09) 0 1px, transparent 1px 13px);
	}
	.spot,
	.entry {
		position: absolute;
		transform: translate(-50%, 50%);
		min-width: 42px;
		height: 42px;
		padding: 0 5px;
		border-radius: 21px; /* round, and longer where an inch needs more figures */
		font-size: 12px;
		display: grid;
		place-items: center;
	}
	.spot {
		background: #fff;
		color: #16211e;
		border: 1px solid #16211e;
	}
	.spot.small {
		font-size: 0;
		min-width: 12px;
		width: 12px;
		height: 12px;
		padding: 0;
	}
	.spot:hover {
		text-decoration: line-through;
	}
	.entry {
		border: 3px dashed #fff;
		background: rgba(23, 70, 63, 0.35);
	}
</style>
