<!-- The sheets that are used: how full each is, and on which other one its parts could lie instead. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import { otherSheets } from './tray';
	import { word } from '../../words/words';

	type Which = { sheet: string; copy: number };
	let { out, busy, onswap }: { out: LayoutOut; busy: boolean; onswap: (from: Which, to: Which) => Promise<void> } = $props();
	const sheets = $derived(out.nesting?.sheets ?? []);

	async function swap(from: Which, event: Event & { currentTarget: HTMLSelectElement }) {
		const to = otherSheets(out, from)[Number(event.currentTarget.value)];
		event.currentTarget.value = '';
		if (to) await onswap(from, to);
	}
</script>

{#if sheets.length}
	<h3>{word('lay-out.sheets-used')}</h3>
	{#each sheets as s (`${s.sheet}#${s.copy}`)}
		{@const others = otherSheets(out, s)}
		<div class="sheet">
			<span>{word('lay-out.copy-2', { name: s.name, copy: s.copy + 1 })}</span><span class="fig">{(s.utilisation * 100).toFixed(0)} %</span>
			{#if others.length && out.fresh}
				<select
					class="select"
					aria-label={word('lay-out.lay-the-parts-of-copy-on', { name: s.name, copy: s.copy + 1 })}
					disabled={busy}
					onchange={(e) => swap(s, e)}
				>
					<option value="">{word('lay-out.lay-its-parts-on')}</option>
					{#each others as o, k (k)}<option value={k}>{o.name}</option>{/each}
				</select>
			{/if}
		</div>
	{/each}
{/if}

<style>
	.sheet {
		display: grid;
		grid-template-columns: 1fr auto;
		padding: 4px 0;
		border-bottom: 1px solid var(--rule);
	}
	select {
		grid-column: 1 / -1;
	}
</style>
