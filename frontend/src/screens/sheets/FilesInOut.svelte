<!-- Stocks, evidence and settings as files: out to a table or a copy, and in again. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { session } from '../../app/session.svelte';
	import { UNITS } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';

	let { rack }: { rack: RackState } = $props();
	const KINDS = [
		['stocks', 'Stocks'],
		['sheets', 'Sheets and offcuts'],
		['readings', 'Readings'],
		['kerf-tests', 'Kerf tests'],
		['feels', 'Feels'],
		['settings', 'Settings']
	] as const;
	type Kind = (typeof KINDS)[number][0] | 'all';
	let what = $state<Kind>('readings');
	let text = $state('');
	let problem = $state('');
	let said = $state('');
	const id = $props.id();

	async function pick(event: Event) {
		const file = (event.currentTarget as HTMLInputElement).files?.[0];
		if (!file) return;
		text = await file.text();
		const kind = KINDS.find(([key]) => file.name.startsWith(key))?.[0];
		what = file.name.endsWith('.json') ? 'all' : (kind ?? what);
	}
	async function take() {
		problem = said = '';
		try {
			const { kept } = await need(api.POST('/api/exchange', { body: { what, text } }));
			said = `Kept ${Object.entries(kept)
				.filter(([, n]) => n)
				.map(([k, n]) => `${n} ${k}`)
				.join(', ')}.`;
			text = '';
			await rack.load();
			if (rack.stock) await rack.choose(rack.stock.value.id);
			else if (rack.rack?.stocks[0]) await rack.choose(rack.rack.stocks[0].id);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<div class="bench" role="group" aria-label="Files in and out">
	<section>
		<h2>Out</h2>
		<p class="quiet">
			Tables for a spreadsheet, lengths in {UNITS.find((u) => u.value === session.unit)!.figures}; the first line names each column’s unit.
		</p>
		<ul>
			{#each KINDS as [key, name] (key)}<li><a class="underline" href="/api/exchange/{key}.csv" download>{name}, CSV</a></li>{/each}
			<li><a class="underline" href="/api/exchange/all.json" download>Everything, JSON</a></li>
		</ul>
	</section>
	<section>
		<h2>In</h2>
		<p class="quiet">
			A file as it came out, or a table with the same first line, in any unit that it names: thickness_mm, thickness_in, thickness_thou.
			Stocks on the rack are changed by name; evidence is added. A file with a mistake changes nothing.
		</p>
		<label for="{id}w"
			>What it holds
			<select id="{id}w" bind:value={what}>
				{#each KINDS as [key, name] (key)}<option value={key}>{name}, CSV</option>{/each}
				<option value="all">Everything, JSON</option>
			</select></label
		>
		<label for="{id}f">File<input id="{id}f" type="file" accept=".csv,.json,.txt" onchange={pick} /></label>
		<label for="{id}t">or its text<textarea id="{id}t" rows="9" bind:value={text}></textarea></label>
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		{#if said}<div class="note good" role="status">{said}</div>{/if}
		<button class="btn main mt-2" disabled={!text.trim()} onclick={take}>Take it in</button>
	</section>
</div>

<style>
	.bench {
		grid-column: 2 / 4;
		overflow: auto;
		padding: 18px 26px;
		border-left: 1px solid var(--rule);
		display: grid;
		grid-template-columns: minmax(220px, 320px) minmax(320px, 620px);
		gap: 40px;
		align-items: start;
	}
	li {
		padding: 4px 0;
	}
	label {
		display: block;
		margin-top: 8px;
	}
	select,
	textarea,
	input {
		display: block;
		width: 100%;
		border: 1px solid var(--rule);
		border-radius: 4px;
		background-color: var(--bench);
		color: var(--ink);
		padding: 5px 8px;
		font-size: 13px;
	}
	textarea {
		font-family: var(--font-mono);
	}
</style>
