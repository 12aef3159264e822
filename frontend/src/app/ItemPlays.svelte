<!-- The play that an item keeps in its room, along each axis, and how likely it is to stick. -->
<script lang="ts">
	import type { ItemOut } from '../api/types';
	import { session } from './session.svelte';
	import { show, unitName } from '../lib/units/units';
	import { word } from '../words/words';

	let { item, short = false }: { item: ItemOut; /** in one line */ short?: boolean } = $props();
	const NAMES = {
		sideways: word('shell.play-sideways'),
		deep: word('shell.play-deep'),
		up: word('shell.play-up')
	} as Record<string, string>;
	const sticks = $derived(1 - item.plays.reduce((free, p) => free * (1 - p.sticks), 1));
	const share = (v: number) => (v > 0 && v < 0.01 ? word('shell.under-one-in-a-hundred') : `${Math.round(v * 100)}%`);
</script>

{#if item.plays.length && short}
	<p class="quiet" aria-label={word('shell.play-of', { label: item.label })}>
		{word('shell.play-short', {
			plays: item.plays.map((p) => show(p.play, session.unit, true)).join(' × '),
			unit: unitName(session.unit),
			share: share(sticks)
		})}
	</p>
{:else if item.plays.length}
	<dl aria-label={word('shell.play-of', { label: item.label })}>
		{#each item.plays as p (p.axis)}
			<dt>{NAMES[p.axis]}</dt>
			<dd class="fig" class:bad={p.play <= 0}>{show(p.play, session.unit, true)} <small>±{show(p.sd, session.unit, true)}</small></dd>
		{/each}
	</dl>
	<p class="quiet">{word('shell.play-in-unit-sticks', { unit: unitName(session.unit), share: share(sticks) })}</p>
{/if}

<style>
	dl {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 1px 10px;
		margin: 4px 0 2px;
	}
	dd {
		text-align: right;
	}
	dd.bad {
		color: var(--bad);
	}
	small {
		color: var(--ink-2);
	}
</style>
