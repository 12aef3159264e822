<!-- The rack: sheets edge-on, at true relative thickness, in their own colour. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import StockEdge from '../../lib/ui/StockEdge.svelte';
	import { show } from '../../lib/units/units';
	import AddStock from './AddStock.svelte';
	import type { RackState } from './rack.svelte';

	let { rack, used }: { rack: RackState; used: Set<string> } = $props();
	let adding = $state(false);
	let list: HTMLElement;
	let room = $state(236);
	const narrow = $derived(room < 220);

	function key(event: KeyboardEvent) {
		if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
		const buttons = [...list.querySelectorAll('button.stock')] as HTMLElement[];
		const at = buttons.indexOf(document.activeElement as HTMLElement);
		buttons[Math.min(Math.max(at + (event.key === 'ArrowDown' ? 1 : -1), 0), buttons.length - 1)]?.focus();
		event.preventDefault();
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<nav class="side" aria-label="Rack" bind:this={list} bind:clientWidth={room} onkeydown={key}>
	{#each rack.groups as [family, stocks] (family)}
		<div class="head">{family}</div>
		{#each stocks as s (s.value.id)}
			{@const guess = s.value.thickness.terms[0]!.trust === 'default' || (s.value.findings ?? []).some((f) => f.code === 'thickness_guess')}
			<button class="stock" class:on={s.value.id === rack.stock?.value.id} onclick={() => (rack.chosen = s.value.id)}>
				<StockEdge colour={s.value.colour} thickness={s.value.thickness.value} width={narrow ? 26 : 54} />
				<span class="name"
					>{s.value.name}{#if used.has(s.value.id)}<small>in this project</small>{/if}</span
				>
				<span class="fig" class:guess>{show(s.value.thickness.value, session.unit, true)}{guess ? ' ?' : ''}</span>
			</button>
		{/each}
	{/each}
	<div class="p-3"><button class="btn" onclick={() => (adding = true)}>Add a stock</button></div>
	<AddStock {rack} bind:open={adding} />
</nav>

<style>
	.stock {
		display: flex;
		align-items: center;
		gap: 9px;
		width: 100%;
		padding: 6px 12px 6px 11px;
		border-left: 3px solid transparent;
		text-align: left;
	}
	.stock:hover {
		background: var(--bench-2);
	}
	.stock.on {
		background: var(--pick);
		border-color: var(--color-mat);
	}
	.name {
		flex: 1;
		min-width: 0;
		line-height: 1.25;
	}
	small {
		display: block;
		font-size: 11px;
		color: var(--ink-2);
	}
	.guess {
		color: #a45a00;
	}
	:global(.dark) .guess {
		color: #f0b45a;
	}
</style>
