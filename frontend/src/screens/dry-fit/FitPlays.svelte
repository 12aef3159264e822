<!-- What items play in their rooms, the tightest first: beside the joints on the strip, since they stick and rattle by the same errors. -->
<script lang="ts">
	import type { CheckOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';

	type ItemPlay = NonNullable<CheckOut['result']>['plays'][number];
	let { plays, names }: { plays: readonly ItemPlay[]; /** of items */ names: Map<string, string> } = $props();
	const AT_ONCE = 4;
	const LOOK_AT = 0.15; // a chance of sticking that is worth a look, as in the findings
	const told = $derived(
		plays
			.map((i) => ({
				item: i.item,
				name: names.get(i.item) ?? '',
				least: Math.min(...i.plays.map((p) => p.play.value)),
				sticks: 1 - i.plays.reduce((free, p) => free * (1 - p.sticks), 1)
			}))
			.sort((a, b) => b.sticks - a.sticks || a.least - b.least)
	);
</script>

{#if told.length}
	<p aria-label={word('dry-fit.plays-of-items')}>
		{#each told.slice(0, AT_ONCE) as t (t.item)}
			<span class:risky={t.sticks > LOOK_AT}
				>{word('dry-fit.item-plays', {
					name: t.name,
					least: show(t.least, session.unit, true),
					unit: unitName(session.unit),
					sticks: (t.sticks * 100).toFixed(0)
				})}</span
			>
		{/each}
		{#if told.length > AT_ONCE}<span class="quiet">{word('dry-fit.and-more-items', { n: told.length - AT_ONCE })}</span>{/if}
	</p>
{/if}

<style>
	p {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 18px;
		padding: 0 14px 2px;
		font-size: 13px;
	}
	.risky {
		box-shadow: inset 0 -2px var(--warn);
		font-weight: 650;
	}
</style>
