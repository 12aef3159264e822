<!-- The rack: sheets edge-on, at true relative thickness, in their own colour; a filter; and the tools of the shop. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import StockEdge from '../../lib/ui/StockEdge.svelte';
	import { show } from '../../lib/units/units';
	import AddStock from './AddStock.svelte';
	import type { Pane, RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, used, onproblem }: { rack: RackState; used: Set<string>; onproblem: (message: string) => void } = $props();
	let adding = $state(false);
	let list: HTMLElement;
	let room = $state(236);
	const narrow = $derived(room < 220);
	const tools: [Pane, string][] = [
		['machine', word('sheets.machine')],
		['contrast', word('sheets.side-by-side')],
		['files', word('sheets.in-and-out')]
	];

	function choose(id: string) {
		if (rack.pane === 'machine' || rack.pane === 'files') rack.pane = 'sheet'; // these are not of a stock
		return rack.choose(id).catch((e: Error) => onproblem(e.message));
	}
	function key(event: KeyboardEvent) {
		if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
		const buttons = [...list.querySelectorAll('button.stock')] as HTMLElement[];
		const at = buttons.indexOf(document.activeElement as HTMLElement);
		buttons[Math.min(Math.max(at + (event.key === 'ArrowDown' ? 1 : -1), 0), buttons.length - 1)]?.focus();
		event.preventDefault();
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<nav class="side" aria-label={word('sheets.rack')} bind:this={list} bind:clientWidth={room} onkeydown={key}>
	<div class="filter">
		<input
			class="w-full"
			type="search"
			aria-label={word('sheets.filter-by-name-material-or-thickness')}
			placeholder={word('sheets.name-material-thickness')}
			bind:value={rack.filter}
			onkeydown={(e) => e.key === 'Enter' && rack.found[0] && choose(rack.found[0].id)}
		/>
	</div>
	<div class="stocks">
		{#each rack.groups as [material, stocks] (material)}
			<div class="head">{material}</div>
			{#each stocks as s (s.id)}
				<button class="stock" class:on={s.id === rack.stock?.value.id} onclick={() => choose(s.id)}>
					<StockEdge colour={s.colour} thickness={s.thickness_mm} width={narrow ? 26 : 54} />
					<span class="name"
						>{s.name}{#if s.verdict === 'forbidden'}<small class="no">{word('sheets.must-not-be-cut')}</small>
						{:else if used.has(s.id)}<small>{word('sheets.in-this-project')}</small>{/if}</span
					>
					<span class="fig" class:guess={s.guess}>{show(s.thickness_mm, session.unit, true)}{s.guess ? ' ?' : ''}</span>
				</button>
			{/each}
		{/each}
		{#if !rack.found.length}<p class="quiet p-3">{word('sheets.nothing-on-the-rack-is-called', { filter: rack.filter })}</p>{/if}
	</div>
	<div class="tools">
		<button class="btn main" onclick={() => (adding = true)}>{word('sheets.add-a-stock')}</button>
		{#each tools as [pane, name] (pane)}
			<button
				class="btn"
				class:on={rack.pane === pane}
				aria-pressed={rack.pane === pane}
				onclick={() => (rack.pane = rack.pane === pane ? 'sheet' : pane)}>{name}</button
			>
		{/each}
	</div>
	<AddStock {rack} bind:open={adding} />
</nav>

<style>
	nav {
		display: grid;
		grid-template-rows: auto minmax(0, 1fr) auto;
		overflow: hidden;
	}
	.filter {
		padding: 8px 10px 4px;
	}
	.filter input {
		border: 1px solid var(--rule);
		border-radius: 4px;
		background: var(--bench);
		color: var(--ink);
		padding: 4px 8px;
		font-size: 13px;
	}
	.stocks {
		overflow: auto;
	}
	.tools {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
		padding: 8px 10px;
		border-top: 1px solid var(--rule);
	}
	.tools .btn {
		padding: 4px 8px;
	}
	.tools .on {
		background: var(--pick);
	}
	.stock {
		display: flex;
		align-items: center;
		gap: 9px;
		width: 100%;
		padding: 5px 12px 5px 11px;
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
	small.no {
		color: #a3241b;
		font-weight: 600;
	}
	:global(.dark) small.no {
		color: #ff9b92;
	}
	.guess {
		color: #a45a00;
	}
	:global(.dark) .guess {
		color: #f0b45a;
	}
</style>
