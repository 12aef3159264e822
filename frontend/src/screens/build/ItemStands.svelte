<!-- How an item stands to the others: beside them, in a room of one, or over one like a lid; and the play that it keeps there. -->
<script lang="ts">
	import type { Item, ItemOut } from '../../api/types';
	import ItemPlays from '../../app/ItemPlays.svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import Tick from '../../lib/ui/Tick.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import ItemJoins from './ItemJoins.svelte';

	let {
		build,
		item,
		kept,
		save,
		onproblem
	}: {
		build: BuildState;
		item: ItemOut;
		/** as the design holds it */
		kept: Item;
		save: (changes: Partial<Item>, what: string) => Promise<void>;
		onproblem: (message: string) => void;
	} = $props();
	const quietly = (saved: Promise<void>) => saved.catch((e: Error) => onproblem(e.message));
	const id = $props.id();
	const loose = $derived(kept.loose ?? null);
	const joined = $derived(kept.joined ?? null);
	const [BESIDE, OVER, JOINED] = ['beside', 'over', 'joined'];

	/** Rooms of other items, those that are taken last. */
	const rooms = $derived(
		(build.out?.rooms ?? []).filter((r) => r.host !== item.id).toSorted((a, b) => Number(free(b.taken_by)) - Number(free(a.taken_by)))
	);
	/** Its own room, with which it can go over another item like a lid. */
	const own = $derived((build.out?.rooms ?? []).find((r) => r.host === item.id)?.id ?? loose?.room);
	const hosts = $derived((build.out?.items ?? []).filter((i) => i.id !== item.id && !i.gone));
	/** What it can be joined to: nothing that is joined to it. */
	const meetable = $derived(hosts.filter((h) => !chain(h.id).includes(item.id)));
	function chain(of: string): string[] {
		const host = build.out?.items.find((i) => i.id === of && i.relation === 'joined')?.host;
		return host && host !== item.id ? [host, ...chain(host)] : host ? [host] : [];
	}
	const free = (by: string) => !by || by === item.id;
	const labelOf = (of: string) => build.out?.items.find((i) => i.id === of)?.label ?? '';
	const roomName = (r: (typeof rooms)[number]) =>
		`${labelOf(r.host)}, ${r.label} · ${(r.size as unknown as number[]).map((v) => show(v, session.unit)).join(' × ')}${free(r.taken_by) ? '' : ` · ${labelOf(r.taken_by)}`}`;

	function stands(where: string) {
		if (where === BESIDE) return save({ loose: null, joined: null }, word('build.stands-beside-the-rest'));
		const [first, second] = where.split('/') as [string, string];
		if (first === JOINED) {
			const next = { side: 'above', into: null, ...joined, host: second } as Item['joined'];
			return save({ loose: null, joined: next, count: 1, spares: 0 }, word('build.joined-to', { label: labelOf(second) }));
		}
		const over = first === OVER;
		const [host, room] = over ? [second, own] : [first, second];
		const next = { ...(loose ?? { play: 0.5, sized: true }), host, room, over } as Item['loose'];
		const words = over
			? word('build.goes-over', { label: labelOf(host) })
			: word('build.stands-in', { room: rooms.find((r) => r.host === host && r.id === room)?.label ?? room! });
		return save({ loose: next, joined: null }, words);
	}
</script>

<div class="pair">
	<label for="{id}where">{word('build.item-stands')}</label>
	<select
		id="{id}where"
		class="select"
		value={joined ? `${JOINED}/${joined.host}` : loose ? (loose.over ? `${OVER}/${loose.host}` : `${loose.host}/${loose.room}`) : BESIDE}
		onchange={(e) => void quietly(stands(e.currentTarget.value))}
	>
		<option value={BESIDE}>{word('build.beside-the-rest')}</option>
		{#each meetable as h (h.id)}<option value="{JOINED}/{h.id}">{word('build.joined-to', { label: h.label })}</option>{/each}
		{#if own}{#each hosts as h (h.id)}<option value="{OVER}/{h.id}">{word('build.goes-over', { label: h.label })}</option>{/each}{/if}
		{#if loose && !loose.over && !item.host}<option value="{loose.host}/{loose.room}" disabled>{word('build.a-room-that-is-gone')}</option
			>{/if}
		{#each rooms as r (`${r.host}/${r.id}`)}<option value="{r.host}/{r.id}" disabled={!free(r.taken_by)}>{roomName(r)}</option>{/each}
	</select>
</div>
{#if joined}<ItemJoins {joined} host={labelOf(joined.host)} {save} {onproblem} />{/if}
{#if loose}
	<NumberField
		label={word('build.play-on-either-side')}
		unit={session.unit}
		fine
		value={loose.play ?? 0.5}
		oncommit={(mm) => save({ loose: { ...loose, play: mm } }, word('build.play-of-2', { mm: show(mm, session.unit, true) }))}
	/>
	<Tick
		label={loose.over ? word('build.its-size-follows-what-it-goes-over') : word('build.its-size-follows-the-room')}
		checked={loose.sized ?? true}
		onchange={(sized) => void quietly(save({ loose: { ...loose, sized } }, word('build.size-follows')))}
	/>
	<ItemPlays {item} />
{/if}
