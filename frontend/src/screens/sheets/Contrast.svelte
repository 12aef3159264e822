<!-- Stocks that shall lie side by side: how different they look, and which two cannot be told apart. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { ContrastOut } from '../../api/types';
	import { inkOn } from '../../lib/mat/outlines';
	import ContrastPairs from './ContrastPairs.svelte';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack }: { rack: RackState } = $props();
	// svelte-ignore state_referenced_locally (begins with the stock on the mat and its neighbours on the rack)
	let picked = $state<string[]>(
		[...rack.mates(), rack.stock?.value.id, ...rack.rack!.stocks.map((s) => s.id)]
			.filter((v, i, all): v is string => !!v && all.indexOf(v) === i)
			.slice(0, 3)
	);
	let finished = $state(false);
	let out = $state.raw<ContrastOut | null>(null);
	let problem = $state('');
	const rows = $derived(new Map(rack.rack!.stocks.map((s) => [s.id, s])));

	$effect(() => {
		const body = { stocks: picked.map(Number), finished };
		need(api.POST('/api/contrast', { body })).then(
			(o) => ([out, problem] = [o, '']),
			(e: Error) => (problem = e.message)
		);
	});
	const toggle = (id: string) => (picked = picked.includes(id) ? picked.filter((p) => p !== id) : [...picked, id].slice(-12));
	/** A Lab colour as the screen can show it, near enough to compare. */
	const css = (id: string) => {
		const lab = out?.lab[id];
		return lab && out?.measured[id] ? `lab(${lab[0]}% ${lab[1]} ${lab[2]})` : (rows.get(id)?.colour ?? '#888');
	};
</script>

<div class="mat bench">
	<div class="title">
		<h2>{word('sheets.side-by-side')}</h2>
		<span>{word('sheets.press-stocks-to-lay-them-next')}</span>
		<label><input type="checkbox" bind:checked={finished} /> {word('sheets.finished-faces')}</label>
	</div>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<div class="strip" role="img" aria-label={word('sheets.the-chosen-stocks-side-by-side')}>
		{#each picked as id (id)}
			<div style:background={css(id)} style:color={inkOn(rows.get(id)?.colour ?? '#888888')}>
				{rows.get(id)?.name}<small>{out?.measured[id] ? word('sheets.measured') : word('sheets.colour-on-screen-not-measured')}</small>
			</div>
		{/each}
	</div>
	{#if picked.length < 2}<p>{word('sheets.choose-at-least-two')}</p>{/if}
	<ContrastPairs pairs={out?.pairs ?? []} nameOf={(id) => rows.get(id)?.name ?? ''} />
	<div class="all">
		{#each rack.rack!.stocks as s (s.id)}
			<button aria-pressed={picked.includes(s.id)} class:on={picked.includes(s.id)} onclick={() => toggle(s.id)}
				><i style:background={s.colour}></i>{s.name}</button
			>
		{/each}
	</div>
</div>

<style>
	.bench {
		grid-column: 2 / 4;
		overflow: auto;
		padding: 14px 24px;
	}
	.title {
		display: flex;
		gap: 18px;
		align-items: baseline;
		margin-bottom: 12px;
	}
	.title span {
		color: var(--mat-ink-2);
		font-size: 12.5px;
	}
	.strip {
		display: flex;
		height: 190px;
		margin-bottom: 14px;
	}
	.strip div {
		flex: 1;
		padding: 10px 12px;
		font-weight: 600;
	}
	small {
		display: block;
		font-weight: 400;
		opacity: 0.85;
	}
	.all {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
		margin-top: 12px;
	}
	.all button {
		display: flex;
		align-items: center;
		gap: 7px;
		border: 1px solid #3f7468;
		border-radius: 4px;
		padding: 3px 9px;
	}
	.all button.on {
		background: #fff;
		color: #16211e;
	}
	.all i {
		width: 16px;
		height: 12px;
		border: 1px solid #0006;
	}
</style>
