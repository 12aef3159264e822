<!-- Stocks, evidence and settings as files: out to a table or a copy, and in again. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { session } from '../../app/session.svelte';
	import { UNITS } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack }: { rack: RackState } = $props();
	const KINDS = [
		['stocks', word('sheets.stocks')],
		['sheets', word('sheets.sheets-and-offcuts')],
		['readings', word('sheets.readings')],
		['kerf-tests', word('sheets.kerf-tests')],
		['feels', word('sheets.feels')],
		['settings', word('sheets.settings')]
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

<div class="bench" role="group" aria-label={word('sheets.files-in-and-out')}>
	<section>
		<h2>{word('sheets.out')}</h2>
		<p class="quiet">
			{word('sheets.tables-for-a-spreadsheet-lengths-in', { figures: UNITS.find((u) => u.value === session.unit)!.figures })}
		</p>
		<ul>
			{#each KINDS as [key, name] (key)}<li>
					<a class="underline" href="/api/exchange/{key}.csv" download>{word('sheets.csv', { name })}</a>
				</li>{/each}
			<li><a class="underline" href="/api/exchange/all.json" download>{word('sheets.everything-json')}</a></li>
		</ul>
	</section>
	<section>
		<h2>{word('sheets.in')}</h2>
		<p class="quiet">
			{word('sheets.a-file-as-it-came-out')}
		</p>
		<label for="{id}w"
			>{word('sheets.what-it-holds')}
			<select id="{id}w" bind:value={what}>
				{#each KINDS as [key, name] (key)}<option value={key}>{word('sheets.csv', { name })}</option>{/each}
				<option value="all">{word('sheets.everything-json')}</option>
			</select></label
		>
		<label for="{id}f">{word('sheets.file')}<input id="{id}f" type="file" accept=".csv,.json,.txt" onchange={pick} /></label>
		<label for="{id}t">{word('sheets.or-its-text')}<textarea id="{id}t" rows="9" bind:value={text}></textarea></label>
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		{#if said}<div class="note good" role="status">{said}</div>{/if}
		<button class="btn main mt-2" disabled={!text.trim()} onclick={take}>{word('sheets.take-it-in')}</button>
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
