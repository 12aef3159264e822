<!-- Finding a sheet again: its registration marks, by the camera or typed, and what they tell. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { RegistrationOut, SheetPlan } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';

	let {
		sheet,
		number,
		projectId,
		onread
	}: {
		sheet: SheetPlan;
		/** of the run, from 1 */
		number: number;
		projectId: number;
		/** the marks, or nothing while they do not tell that the sheet lies right */
		onread: (found: number[][] | null) => void;
	} = $props();
	const planned = $derived((sheet.lay?.marks ?? []) as unknown as number[][]);
	// svelte-ignore state_referenced_locally (a fresh form for each run)
	let typed = $state<number[][]>(sheet.lay!.marks!.map((m) => [...(m as unknown as number[])]));
	let told = $state.raw<RegistrationOut | null>(null);
	let practise = $state<'' | 'not_turned' | 'other_edge'>('');
	let problem = $state('');
	let busy = $state(false);
	const read = $derived(told?.read);

	async function ask(found: number[][]) {
		[problem, busy] = ['', true];
		try {
			told = await need(
				api.POST('/api/projects/{project_id}/runs/registration', {
					params: { path: { project_id: projectId } },
					body: { sheet: number, found: found as [number, number][], practise }
				})
			);
			onread(told.read.problem ? null : (told.found as unknown as number[][]));
		} catch (e) {
			[told, problem] = [null, (e as Error).message];
			onread(null);
		} finally {
			busy = false;
		}
	}
	function type(i: number, k: number, value: number) {
		typed = typed.map((m, at) => (at === i ? m.map((v, axis) => (axis === k ? value : v)) : m));
		told = null;
		onread(null);
	}
	const move = $derived(read?.move);
	const size = (mm: number) => `${show(mm, session.unit, true)} ${unitName(session.unit)}`;
	/** How far the sheet's first mark lies from its plan. */
	const off = $derived.by(() => {
		if (!move || !planned[0]) return 0;
		const [x, y] = planned[0] as [number, number];
		const [c, s] = [move.cos ?? 1, move.sin ?? 0];
		return Math.hypot(x * c - y * s + (move.x ?? 0) - x, x * s + y * c + (move.y ?? 0) - y);
	});
	const degrees = $derived(move ? (Math.atan2(move.sin ?? 0, move.cos ?? 1) * 180) / Math.PI : 0);
</script>

<h3>{word('run.where-the-sheet-lies')}</h3>
<div class="flex gap-2">
	<button class="btn main" disabled={busy} onclick={() => ask([])}
		>{busy ? word('run.looking') : word('run.find-the-marks-with-the-camera')}</button
	>
</div>
<details>
	<summary class="quiet">{word('run.type-what-the-pointer-shows')}</summary>
	{#each typed as m, i (i)}
		<NumberField label={word('run.mark-x', { i: i + 1 })} value={m[0]!} unit={session.unit} fine oncommit={(v) => void type(i, 0, v)} />
		<NumberField label={word('run.mark-y', { i: i + 1 })} value={m[1]!} unit={session.unit} fine oncommit={(v) => void type(i, 1, v)} />
	{/each}
	<button class="btn" disabled={busy} onclick={() => ask(typed)}>{word('run.these-are-the-marks')}</button>
</details>
<details>
	<summary class="quiet">{word('run.practise-a-sheet-laid-wrongly')}</summary>
	<label><input type="radio" bind:group={practise} value="" /> {word('run.laid-right')}</label>
	<label><input type="radio" bind:group={practise} value="not_turned" /> {word('run.not-turned-over')}</label>
	<label><input type="radio" bind:group={practise} value="other_edge" /> {word('run.over-the-other-edge')}</label>
</details>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
{#if read?.problem}<div class="note bad" role="alert">{session.told(read.problem)}</div>
{:else if read}<div class="note good" data-testid="marks">
		{word('run.the-sheet-lies-off-and-askew', {
			off: size(off),
			degrees: Math.abs(degrees).toFixed(2),
			off2: size(read.off),
			scale:
				Math.abs((read.scale ?? 1) - 1) > 0.001
					? `, ${word('run.and-the-print-is-too-large', { scale: (((read.scale ?? 1) - 1) * 100).toFixed(2) })}`
					: ''
		})}
	</div>{/if}

<style>
	details {
		margin: 6px 0;
	}
	details label {
		margin-right: 12px;
	}
</style>
