<!-- One panel: stock, size, and the meetings it takes part in. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
	import { show, unitName } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import Glyph from './Glyph.svelte';

	let { build, part }: { build: BuildState; part: PartOut } = $props();
	const b = $derived(boundsOf(part.profile.outer as number[][]));
	const stock = $derived(build.out!.stocks[part.stock]!);
	const mine = $derived(build.out!.meetings.filter((m) => m.a === part.id || m.b === part.id));
</script>

<h2>{part.label}</h2>
<p class="quiet">{stock.name}</p>
<dl>
	<dt>Size</dt>
	<dd class="fig">
		{show(b.x1 - b.x0, session.unit, true)} × {show(b.y1 - b.y0, session.unit, true)}
		<small>{unitName(session.unit)}</small>
	</dd>
	<dt>Thickness</dt>
	<dd class="fig">{show(part.high - part.low, session.unit, true)}</dd>
	<dt>Slots and gaps</dt>
	<dd class="fig">
		{part.features.filter((f) => ['slot', 'notch', 'lap'].includes(f.kind)).length}
	</dd>
</dl>
<h3>Meets</h3>
{#each mine as m (m.id)}
	<button onclick={() => build.pickMeeting(m.id)}
		><Glyph kind={m.kind} />{build.names.get(m.a === part.id ? m.b : m.a)}<span class="quiet"
			>{m.count > 1 ? `${m.count} ` : ''}{m.style}</span
		></button
	>
{/each}
<p class="quiet mt-3">Click any slot or finger, here or in 3D, to see why it is as wide as it is.</p>

<style>
	dl {
		display: grid;
		grid-template-columns: auto 1fr;
		margin: 10px 0;
	}
	dt,
	dd {
		padding: 5px 0;
		border-bottom: 1px solid var(--rule);
	}
	dd {
		text-align: right;
	}
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
		margin: 10px 0 2px;
	}
	button {
		display: flex;
		align-items: center;
		gap: 9px;
		width: 100%;
		padding: 4px 2px;
		border-radius: 4px;
	}
	button span {
		margin-left: auto;
	}
	button:hover {
		background: var(--pick);
	}
</style>
