<!-- The bench strip: six stations whose edges interlock, each with its live status. -->
<script lang="ts">
	import { session } from './session.svelte';
	import type { Station } from '../api/types';
	import Dot from '../lib/ui/Dot.svelte';
	import { STATIONS } from './stations';
	import { word } from '../words/words';

	let { stations, current, onchoose }: { stations: Station[]; current: string; onchoose: (at: number) => void } = $props();
	const told = $derived(new Map(stations.map((s) => [s.key, s])));
</script>

<nav aria-label={word('shell.stations')}>
	{#each STATIONS as place, i (place.key)}
		{@const s = told.get(place.key)}
		<button class:on={place.key === current} aria-current={place.key === current ? 'step' : undefined} onclick={() => onchoose(i)}>
			<span class="name"
				><kbd>{i + 1}</kbd>{place.name}{#if s}<Dot dot={s.dot} />{/if}</span
			>
			<span class="told" class:stale={s?.stale}
				>{#if s?.stale}<svg width="10" height="8" aria-hidden="true"><path d="M0 0H10V8H7V3H3V8H0Z" fill="currentColor" /></svg>{/if}{s
					? session.told(s.says)
					: ' '}</span
			>
		</button>
	{/each}
</nav>

<style>
	nav {
		display: grid;
		grid-template-columns: repeat(6, 1fr);
		padding: 0 14px;
		background: var(--bench-2);
	}
	button {
		position: relative;
		text-align: left;
		padding: 6px 14px 7px 16px;
		background: var(--bench-3);
		border: 1px solid var(--rule);
		border-right: 0;
		min-width: 0;
	}
	button:last-child {
		border-right: 1px solid var(--rule);
	}
	/* the finger that reaches into the next station */
	button:not(:last-child)::after {
		content: '';
		position: absolute;
		z-index: 1;
		right: -9px;
		top: 8px;
		width: 9px;
		height: 14px;
		background: inherit;
		border: 1px solid var(--rule);
		border-left: 0;
	}
	button:hover {
		background: var(--pick);
	}
	button.on {
		background: var(--color-mat);
		border-color: var(--color-mat);
		color: #fff;
	}
	button.on::after {
		border-color: var(--color-mat);
	}
	.name {
		display: flex;
		align-items: center;
		gap: 7px;
		font-weight: 650;
		font-size: 14px;
	}
	kbd {
		font: 500 10.5px var(--font-mono);
		border: 1px solid currentColor;
		border-radius: 2px;
		opacity: 0.65;
		width: 15px;
		text-align: center;
	}
	.told {
		display: block;
		font-size: 11.5px;
		opacity: 0.85;
		white-space: nowrap;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.told svg {
		display: inline;
		margin-right: 5px;
		color: var(--warn);
	}
</style>
