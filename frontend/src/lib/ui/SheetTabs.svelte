<!-- Chooses one sheet of a job: side by side while they are few, from a list when they are many. -->
<script lang="ts">
	import { word } from '../../words/words';
	let {
		names,
		chosen,
		done = new Set(),
		spoiled = new Set(),
		disabled = false,
		onchoose
	}: {
		/** of the runs, in order */
		names: string[];
		/** from 0 */
		chosen: number;
		/** sheets that are cut, from 0 */
		done?: Set<number>;
		/** ... and of which nothing was good */
		spoiled?: Set<number>;
		disabled?: boolean;
		onchoose: (at: number) => void;
	} = $props();
	const FEW = 5;
	const count = $derived(names.length);
	const all = $derived(names.map((_, i) => i));
	const name = (i: number) => `${names[i]}${spoiled.has(i) ? ` ${word('common.spoiled')}` : done.has(i) ? ` ${word('common.cut')}` : ''}`;
</script>

{#if count <= FEW}
	<div class="tabs" role="tablist" aria-label={word('common.sheets')}>
		{#each all as i (i)}<button
				role="tab"
				aria-selected={i === chosen}
				class="on-mat"
				class:active={i === chosen}
				{disabled}
				onclick={() => onchoose(i)}>{name(i)}</button
			>{/each}
	</div>
{:else}
	<div class="tabs">
		<button class="on-mat" aria-label={word('common.sheet-before')} disabled={disabled || chosen === 0} onclick={() => onchoose(chosen - 1)}
			>←</button
		>
		<select
			class="on-mat"
			aria-label={word('common.sheet-2')}
			{disabled}
			value={chosen}
			onchange={(e) => onchoose(Number(e.currentTarget.value))}
		>
			{#each all as i (i)}<option value={i}>{name(i)}</option>{/each}
		</select>
		<button
			class="on-mat"
			aria-label={word('common.sheet-after')}
			disabled={disabled || chosen === count - 1}
			onclick={() => onchoose(chosen + 1)}>→</button
		>
	</div>
{/if}

<style>
	.tabs {
		display: flex;
		gap: 8px;
	}
	button {
		white-space: nowrap;
	}
	button:disabled {
		opacity: 0.5;
	}
	select {
		padding-right: 30px;
		font-size: 13.5px;
	}
	option {
		color: #16211e;
	}
</style>
