<!-- How different each two of the chosen stocks look; those that are hard to tell apart first, in words. -->
<script lang="ts">
	import type { ContrastOut } from '../../api/types';
	import { word } from '../../words/words';

	let { pairs, nameOf }: { pairs: ContrastOut['pairs']; nameOf: (stock: string) => string } = $props();
	const alike = $derived(pairs.filter((p) => p.hard_to_tell));
</script>

{#each alike as p (p.a + p.b)}
	<p class="warn" role="note">
		<b>{word('sheets.and-are-hard-to-tell-apart', { name: nameOf(p.a), name2: nameOf(p.b) })}</b>
		{word('sheets.side-by-side-a-line-between', { difference: p.difference.toFixed(1) })}
	</p>
{/each}
<table>
	<tbody>
		{#each pairs as p (p.a + p.b)}
			<tr
				><td>{nameOf(p.a)}</td><td>{nameOf(p.b)}</td><td class="fig">{p.difference.toFixed(1)}</td><td class="bar"
					><i style:width="{Math.min(p.difference, 60) * 2.2}px" class:low={p.hard_to_tell}></i></td
				></tr
			>
		{/each}
	</tbody>
</table>
<p class="hint">
	{word('sheets.colour-difference-ciede2000-below-10-is')}
</p>

<style>
	.hint {
		color: var(--mat-ink-2);
		font-size: 12.5px;
	}
	.warn {
		border-left: 3px solid #f0b45a;
		padding: 3px 12px;
		margin: 6px 0;
	}
	table {
		border-collapse: collapse;
		margin: 8px 0;
	}
	td {
		padding: 3px 18px 3px 0;
		border-bottom: 1px solid rgba(190, 230, 218, 0.16);
	}
	.bar i {
		display: inline-block;
		height: 8px;
		background: #cfeee4;
	}
	.bar i.low {
		background: #f0b45a;
	}
</style>
