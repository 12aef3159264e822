<!-- The sorts of loose pieces of a set of tiles, and how many of each there are to be. -->
<script lang="ts">
	import type { Values } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';
	import { type Sort } from './tilemap';

	let { values, problem = '' }: { values: Values; problem?: string } = $props();
	const work = useProject();
	const attempt = new Attempt();
	const sorts = $derived(((values as Record<string, unknown>).pieces ?? []) as Sort[]);
	const kinds = [1, 2, 3, 4];
	let more = $state({ columns: 1, rows: 1, kind: 1, many: 8 });

	const named = ([columns, rows, kind]: readonly number[]) =>
		word('build.piece-of-kind', { columns: columns!, rows: rows!, kind: kind! + 1 });
	const save = (change: (all: Sort[]) => Sort[], words: string) =>
		work.save(
			(d) => ({ ...d, numbers: { ...d.numbers, pieces: change((d.numbers as unknown as { pieces: Sort[] }).pieces) } as never }),
			words
		);
	const is = (s: Sort, of: readonly number[]) => s[0] === of[0] && s[1] === of[1] && s[2] === of[2];
	const many = (of: Sort, count: number) =>
		save((all) => all.map((s) => (is(s, of) ? [s[0], s[1], s[2], count] : s)), `${named(of)}: ${count}`);
	function add(event: SubmitEvent) {
		event.preventDefault();
		const sort: Sort = [more.columns, more.rows, more.kind - 1, more.many];
		void attempt.at(() => save((all) => [...all.filter((s) => !is(s, sort)), sort], `${named(sort)}: ${more.many}`));
	}
</script>

<h3>{word('build.sorts-of-pieces')}</h3>
{#if problem}<p class="wrong" role="alert">{problem}</p>{/if}
{#each sorts as s (`${s[0]} ${s[1]} ${s[2]}`)}
	<div class="sort">
		<NumberField
			label={word('build.map-sort', { columns: s[0], rows: s[1], kind: s[2] + 1 })}
			kind="count"
			value={s[3]}
			oncommit={(v) => many(s, v)}
		/>
		<button
			class="btn"
			aria-label={word('build.remove-sort', { sort: named(s) })}
			onclick={() => void attempt.at(() => save((all) => all.filter((x) => !is(x, s)), word('build.remove-sort', { sort: named(s) })))}
			>×</button
		>
	</div>
{/each}
<form onsubmit={add} aria-label={word('build.another-sort')}>
	<label
		>{word('build.sort-columns')}<input class="input" type="number" min="1" max={Number(values.units)} bind:value={more.columns} /></label
	>
	<label>{word('build.sort-rows')}<input class="input" type="number" min="1" max={Number(values.units)} bind:value={more.rows} /></label>
	<label
		>{word('build.sort-kind')}<select class="select" bind:value={more.kind}
			>{#each kinds as k (k)}<option value={k}>{k}</option>{/each}</select
		></label
	>
	<label>{word('build.sort-many')}<input class="input" type="number" min="1" max="400" bind:value={more.many} /></label>
	<button class="btn">{word('build.add-sort')}</button>
</form>

{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<style>
	.sort {
		display: grid;
		grid-template-columns: 1fr auto;
		align-items: center;
		gap: 6px;
	}
	form {
		display: grid;
		grid-template-columns: repeat(4, 1fr);
		gap: 4px 6px;
		margin: 6px 0 4px;
	}
	form label {
		font-size: 12px;
		color: var(--ink-2);
	}
	form .input,
	form .select {
		width: 100%;
		padding: 3px 4px;
	}
	form .btn {
		grid-column: 1 / -1;
	}
	.wrong {
		color: #a3241b;
		font-size: 12px;
	}
</style>
