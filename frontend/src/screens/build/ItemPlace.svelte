<!-- An item that is open: what it is called, how many there are, and how it stands to the others. -->
<script lang="ts">
	import type { Design, Item, ItemOut } from '../../api/types';
	import { freeId, withItem } from '../../app/items';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import ItemSource from './ItemSource.svelte';
	import ItemStands from './ItemStands.svelte';
	import ThereWith from './ThereWith.svelte';

	let { build, item }: { build: BuildState; item: ItemOut } = $props();
	const work = useProject();
	const kept = $derived((work.project!.design.items ?? []).find((i) => i.id === item.id));
	const attempt = new Attempt();
	const AWAY = [word('build.moved-to-the-right'), word('build.moved-to-the-back'), word('build.moved-up')];
	const at = $derived((kept?.at ?? [0, 0, 0]) as unknown as number[]);

	const quietly = (saved: Promise<void>) => attempt.at(() => saved);
	const save = (changes: Partial<Item>, what: string) =>
		work.saveWhole((d) => withItem(d, item.id, changes), word('build.item-change', { label: item.label, what }));
	function duplicate() {
		const label = word('build.item-again', { label: item.label });
		return quietly(
			work.saveWhole(
				(d) => ({
					...d,
					items: (d.items ?? []).flatMap((i) =>
						i.id === item.id ? [i, { ...i, id: freeId(d, label), label, loose: null, joined: null }] : [i]
					)
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
{#if item.relation !== 'joined'}
	<NumberField label={word('build.how-many')} kind="count" value={item.count} oncommit={(n) => save({ count: n }, `×${n}`)} />
	<NumberField
		label={word('build.spares-of-it')}
		kind="count"
		value={item.spares}
		oncommit={(n) => save({ spares: n }, word('build.item-spares', { n }))}
	/>
{/if}
{#if kept}
	<ThereWith kind="items" id={item.id} label={item.label} whole />
	<ItemStands {build} {item} {kept} {save} onproblem={(message) => (attempt.problem = message)} />
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
		<NumberField
			label={word('build.tipped-to-the-front')}
			kind="number"
			suffix="°"
			value={kept.tip ?? 0}
			oncommit={(v) => save({ tip: v }, word('build.item-tipped-by', { v }))}
		/>
	</details>
	{#if item.source}<ItemSource {item} {save} onproblem={(message) => (attempt.problem = message)} />{/if}
	<div class="acts">
		<button class="btn" onclick={duplicate}>{word('build.duplicate-item')}</button>
		<button class="btn" onclick={earlier}>{word('build.item-earlier')}</button>
		<button class="btn" onclick={() => leave('gone')}>{word('build.leave-item-out')}</button>
		<button class="btn" onclick={() => leave('removed')}>{word('build.remove-item')}</button>
	</div>
{/if}
{#each item.findings as f, i (i)}<div class="note" class:bad={f.severity === 'must'} class:good={f.severity === 'fine'}>
		{session.told(f.says)}
	</div>{/each}
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<style>
	.title {
		font-size: 17px;
		font-weight: 650;
		width: 100%;
		background: transparent;
		border-bottom: 1px solid var(--rule);
	}
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
		margin: 8px 0;
	}
</style>
