<!-- Every joint, the riskiest first: what was asked for, what is expected, and how often it would have to be done again. -->
<script lang="ts">
	import type { BuildOut, CheckOut, Meeting } from '../../api/types';
	import ItemPlays from '../../app/ItemPlays.svelte';
	import { session } from '../../app/session.svelte';
	import { feelName } from '../../lib/ui/feels';
	import { signed } from '../../lib/units/units';
	import { word } from '../../words/words';

	type MeetingChances = NonNullable<CheckOut['result']>['chances'][number];
	let {
		chances,
		build,
		names,
		onpick
	}: { chances: readonly MeetingChances[]; build: BuildOut; names: Map<string, string>; onpick: (meeting: Meeting) => void } = $props();
	const inRooms = $derived(build.items.filter((i) => i.plays.length));
	const rooms = $derived(new Map(build.rooms.map((r) => [`${r.host}/${r.id}`, r.label])));
	const AT_ONCE = 60;
	let most = $state(AT_ONCE);
	const by = $derived(new Map(build.meetings.map((m) => [m.id, m])));
	const sorted = $derived([...chances].sort((a, b) => b.rework - a.rework || a.chances.clearance - b.chances.clearance));
</script>

{#each inRooms as item (item.id)}
	<h3>
		{item.room
			? word('dry-fit.item-in-room', { label: item.label, room: rooms.get(`${item.host}/${item.room}`) })
			: word('dry-fit.item-over', { label: item.label, host: build.items.find((i) => i.id === item.host)?.label })}
	</h3>
	<ItemPlays {item} />
{/each}
<p class="quiet">{word('dry-fit.the-riskiest-first-clearance-with-its')}</p>
<table>
	<thead
		><tr
			><th>{word('dry-fit.joint')}</th><th>{word('dry-fit.asked')}</th><th>{word('dry-fit.clearance')}</th><th>{word('dry-fit.again')}</th
			></tr
		></thead
	>
	<tbody>
		{#each sorted.slice(0, most) as o (o.meeting)}
			{@const m = by.get(o.meeting)}
			{#if m}
				<tr class:risky={o.rework > 0.15}>
					<td><button onclick={() => onpick(m)}>{word('dry-fit.with', { a: names.get(m.a), b: names.get(m.b) })}</button></td>
					<td>{feelName(m.feel ?? '')}</td>
					<td class="fig"
						>{signed(o.chances.clearance, session.unit)} <span class="quiet">± {signed(o.chances.sd, session.unit).slice(1)}</span></td
					>
					<td class="fig">{o.rework < 0.005 ? '–' : `${(o.rework * 100).toFixed(0)} %`}</td>
				</tr>
			{/if}
		{/each}
	</tbody>
</table>
{#if sorted.length > most}<button class="btn" onclick={() => (most += AT_ONCE)}
		>{word('dry-fit.show-more-of', { ATONCE: Math.min(AT_ONCE, sorted.length - most), sorted: sorted.length })}</button
	>{/if}

<style>
	table {
		width: 100%;
		font-size: 12.5px;
		border-collapse: collapse;
		margin: 6px 0;
	}
	th {
		text-align: left;
		font-weight: 500;
		color: var(--ink-2);
	}
	td,
	th {
		padding: 3px 0 3px 6px;
		border-bottom: 1px solid var(--rule);
		vertical-align: top;
	}
	.fig,
	th:nth-child(n + 3) {
		text-align: right;
		white-space: nowrap;
	}
	td:first-child,
	th:first-child {
		padding-left: 0;
	}
	td button {
		text-align: left;
	}
	td button:hover {
		text-decoration: underline;
	}
	.risky td {
		color: var(--warn);
	}
</style>
