<!-- An item that is open: what it is called, how many there are, and how it stands to the others. -->
<script lang="ts">
	import type { Design, Item, ItemOut } from '../../api/types';
	import { freeId, withItem } from '../../app/items';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import ThereWith from './ThereWith.svelte';
	import ItemPlays from '../../app/ItemPlays.svelte';

	let { build, item }: { build: BuildState; item: ItemOut } = $props();
	const work = useProject();
	const id = $props.id();
	const kept = $derived((work.project!.design.items ?? []).find((i) => i.id === item.id));
	const loose = $derived(kept?.loose ?? null);
	let problem = $state('');
	const BESIDE = 'beside';
	const AWAY = [word('build.moved-to-the-right'), word('build.moved-to-the-back'), word('build.moved-up')];
	const at = $derived((kept?.at ?? [0, 0, 0]) as unknown as number[]);

	/** Rooms of other items, those that are taken last. */
	const rooms = $derived(
		(build.out?.rooms ?? []).filter((r) => r.host !== item.id).toSorted((a, b) => Number(free(b.taken_by)) - Number(free(a.taken_by)))
	);
	const free = (by: string) => !by || by === item.id;
	const labelOf = (of: string) => build.out?.items.find((i) => i.id === of)?.label ?? '';
	const roomName = (r: (typeof rooms)[number]) =>
		`${labelOf(r.host)}, ${r.label} · ${(r.size as unknown as number[]).map((v) => show(v, session.unit)).join(' × ')}${free(r.taken_by) ? '' : ` · ${labelOf(r.taken_by)}`}`;

	async function quietly(saved: Promise<void>) {
		problem = '';
		try {
			await saved;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const save = (changes: Partial<Item>, what: string) =>
		work.saveWhole((d) => withItem(d, item.id, changes), word('build.item-change', { label: item.label, what }));
	function stands(where: string) {
		if (where === BESIDE) return quietly(save({ loose: null }, word('build.stands-beside-the-rest')));
		const [host, room] = where.split('/') as [string, string];
		const next = { ...(loose ?? { play: 0.5, sized: true }), host, room } as Item['loose'];
		return quietly(
			save({ loose: next }, word('build.stands-in', { room: rooms.find((r) => r.host === host && r.id === room)?.label ?? room }))
		);
	}
	function duplicate() {
		const label = word('build.item-again', { label: item.label });
		return quietly(
			work.saveWhole(
				(d) => ({
					...d,
					items: (d.items ?? []).flatMap((i) => (i.id === item.id ? [i, { ...i, id: freeId(d, label), label, loose: null }] : [i]))
				}),
				word('build.item-added', { label })
			)
		);
	}
	async function leave(change: 'gone' | 'removed') {
		const { id: of, label } = item;
		const what = change === 'gone' ? word('build.item-left-out') : word('build.item-removed');
		const without = (d: Design) => ({ ...d, items: (d.items ?? []).filter((i) => i.id !== of) });
		work.item = ''; // it is not there to be shown any more
		await quietly(
			work.saveWhole((d) => (change === 'gone' ? withItem(d, of, { gone: true }) : without(d)), word('build.item-change', { label, what }))
		);
	}
	function earlier() {
		return quietly(
			work.saveWhole(
				(d) => {
					const items = [...(d.items ?? [])];
					const k = items.findIndex((i) => i.id === item.id);
					if (k > 0) items.splice(k - 1, 2, items[k]!, items[k - 1]!);
					return { ...d, items };
				},
				word('build.item-change', { label: item.label, what: word('build.item-earlier-2') })
			)
		);
	}
</script>

<input
	class="title"
	aria-label={word('build.name-of-this-item')}
	value={item.label}
	maxlength="60"
	onchange={(e) => {
		const label = e.currentTarget.value.trim();
		if (label) void quietly(save({ label }, word('build.is-called', { wanted: label })));
	}}
/>
<NumberField label={word('build.how-many')} kind="count" value={item.count} oncommit={(n) => save({ count: n }, `×${n}`)} />
<NumberField
	label={word('build.spares-of-it')}
	kind="count"
	value={item.spares}
	oncommit={(n) => save({ spares: n }, word('build.item-spares', { n }))}
/>
{#if kept}
	<ThereWith kind="items" id={item.id} label={item.label} whole />
	<div class="stands">
		<label for="{id}where">{word('build.item-stands')}</label>
		<select
			id="{id}where"
			class="select"
			value={loose ? `${loose.host}/${loose.room}` : BESIDE}
			onchange={(e) => void stands(e.currentTarget.value)}
		>
			<option value={BESIDE}>{word('build.beside-the-rest')}</option>
			{#if loose && !item.host}<option value="{loose.host}/{loose.room}" disabled>{word('build.a-room-that-is-gone')}</option>{/if}
			{#each rooms as r (`${r.host}/${r.id}`)}<option value="{r.host}/{r.id}" disabled={!free(r.taken_by)}>{roomName(r)}</option>{/each}
		</select>
	</div>
	{#if loose}
		<NumberField
			label={word('build.play-on-either-side')}
			unit={session.unit}
			fine
			value={loose.play ?? 0.5}
			oncommit={(mm) => save({ loose: { ...loose, play: mm } }, word('build.play-of-2', { mm: show(mm, session.unit, true) }))}
		/>
		<label class="check"
			><input
				type="checkbox"
				checked={loose.sized ?? true}
				onchange={(e) => void quietly(save({ loose: { ...loose, sized: e.currentTarget.checked } }, word('build.size-follows')))}
			/>
			{word('build.its-size-follows-the-room')}</label
		>
		<ItemPlays {item} />
	{/if}
	<details>
		<summary>{word('build.move-and-turn-it')}</summary>
		{#each AWAY as name, k (k)}
			<NumberField
				label={name}
				unit={session.unit}
				value={at[k] ?? 0}
				oncommit={(mm) => save({ at: at.map((v, i) => (i === k ? mm : v)) as never }, word('build.moved-it'))}
			/>
		{/each}
		<NumberField
			label={word('build.turned-about-the-upright')}
			kind="number"
			suffix="°"
			value={kept.turn ?? 0}
			oncommit={(v) => save({ turn: v }, word('build.item-turned-by', { v }))}
		/>
	</details>
	<div class="acts">
		<button class="btn" onclick={duplicate}>{word('build.duplicate-item')}</button>
		<button class="btn" onclick={earlier}>{word('build.item-earlier')}</button>
		<button class="btn" onclick={() => leave('gone')}>{word('build.leave-item-out')}</button>
		<button class="btn" onclick={() => leave('removed')}>{word('build.remove-item')}</button>
	</div>
{/if}
{#each item.findings as f, i (i)}<div class="note" class:bad={f.severity === 'must'}>{session.told(f.says)}</div>{/each}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

<style>
	.title {
		font-size: 17px;
		font-weight: 650;
		width: 100%;
		background: transparent;
		border-bottom: 1px solid var(--rule);
	}
	.stands {
		display: grid;
		grid-template-columns: 92px minmax(0, 1fr);
		align-items: center;
		padding: 2px 0;
	}
	.check {
		display: flex;
		gap: 6px;
		padding: 3px 0;
	}
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
		margin: 8px 0;
	}
</style>
