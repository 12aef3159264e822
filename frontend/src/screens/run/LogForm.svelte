<!-- After a run: most is filled in; two minutes at most. -->
<script lang="ts" module>
	const WORTH = 20_000; // [mm2] 20 × 10 cm
</script>

<script lang="ts">
	import { api, need } from '../../api/client';
	import type { RunOut } from '../../api/types';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import { clock } from '../../lib/units/units';
	import { FEELS } from '../../lib/ui/feels';
	import Remains from './Remains.svelte';
	import { word } from '../../words/words';

	let { run, onlogged }: { run: RunOut; onlogged: () => Promise<void> } = $props();
	// svelte-ignore state_referenced_locally (a fresh form for each run)
	const measured = Math.max(Math.round(Number((run.progress as { clock?: number }).clock ?? run.expected_s)), 1);
	let minutes = $state(Math.round((measured / 60) * 100) / 100);
	// svelte-ignore state_referenced_locally
	let good = $state(run.state === 'done' ? run.parts.length : 0);
	let bad = $state<string[]>([]);
	let spoiled = $state(0);
	/** A spoiled piece is named: the others then count as good when the design changes. */
	function mark(piece: string, is: boolean) {
		bad = is ? [...bad, piece] : bad.filter((p) => p !== piece);
		spoiled = Math.max(spoiled + (is ? 1 : -1), bad.length);
		good = Math.min(good, run.parts.length - spoiled);
	}
	/** Nothing of this sheet is good: the whole sheet is spoiled, whichever of its runs this was. */
	let lost = $state(false);
	let through = $state(100);
	let feel = $state<'rattles' | 'slides' | 'snug' | 'mallet' | 'wont_go' | ''>('');
	let note = $state('');
	/** What is left of the sheet can go on the shelf; what is large enough is ticked. */
	// svelte-ignore state_referenced_locally
	const stays = run.state === 'done' && run.remains.length > 0;
	// svelte-ignore state_referenced_locally
	let kept = $state(run.remains.flatMap((r, k) => (r.area >= WORTH ? [k] : [])));
	const attempt = new Attempt();
	const id = $props.id();

	async function keep(event: Event) {
		if (!(await settled(event))) return;
		const body = {
			actual_s: minutes * 60,
			good,
			spoiled,
			cut_through: through,
			feel,
			note,
			bad,
			keep: stays && !lost ? kept : [],
			sheet_spoiled: lost
		};
		await attempt.at(async () => {
			await need(api.POST('/api/runs/{run_id}/log', { params: { path: { run_id: run.id } }, body }));
			await onlogged();
		});
	}
</script>

<h2>{run.state === 'done' ? word('run.done-what-happened') : word('run.stopped-what-happened')}</h2>
<p class="quiet">
	{word('run.expected-before-the-logs-factor', { sheetname: run.sheet_name, expecteds: clock(run.expected_s) })}
</p>
<NumberField label={word('run.it-took')} kind="number" suffix={word('run.min')} value={minutes} oncommit={(v) => void (minutes = v)} />
<label class="piece"><input type="checkbox" bind:checked={lost} /> {word('run.the-whole-sheet-is-spoiled')}</label>
{#if run.parts.length && !lost}<NumberField
		label={word('run.good-pieces-of', { parts: run.parts.length })}
		kind="count"
		value={good}
		oncommit={(v) => void (good = v)}
	/>
	<NumberField label={word('run.spoiled')} kind="count" value={spoiled} oncommit={(v) => void (spoiled = v)} />{/if}
{#if run.parts.length && run.parts.length <= 60 && !lost}
	<details>
		<summary class="quiet">{word('run.which-were-spoiled')}</summary>
		{#each run.parts as p (p)}<label class="piece"
				><input type="checkbox" checked={bad.includes(p)} onchange={(e) => mark(p, e.currentTarget.checked)} />
				{p.replace(/\.0$/, '')}</label
			>{/each}
	</details>
{/if}
{#if run.parts.length}<NumberField
		label={word('run.fell-free-without-help')}
		kind="number"
		suffix="%"
		value={through}
		oncommit={(v) => void (through = v)}
	/>{/if}
<h3>{word('run.how-did-a-joint-feel')}</h3>
<Choice
	label={word('run.feel')}
	options={FEELS.map(({ key, name }) => ({ value: key, name }))}
	value={feel}
	onchoose={(v) => (feel = v as typeof feel)}
/>
{#if stays && !lost}<Remains remains={run.remains} bind:kept />{/if}
<label for="{id}n" class="mt-2 block">{word('run.note')}</label>
<textarea id="{id}n" rows="3" maxlength="2000" bind:value={note}></textarea>
<p class="quiet">
	{run.last || lost ? word('run.one-sheet-is-taken-off-the') : word('run.the-sheet-stays-on-the-bed')}{run.state === 'done'
		? `, ${word('run.and-the-machines-times-learn-from')}`
		: ''}.
</p>
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
<button class="btn main mt-1" onclick={keep}>{word('run.write-it-in-the-log')}</button>

<style>
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
		margin: 10px 0 4px;
	}
	.piece {
		display: flex;
		gap: 7px;
		align-items: center;
	}
	textarea {
		width: 100%;
		border: 1px solid var(--rule);
		border-radius: 4px;
		background: var(--bench);
	}
</style>
