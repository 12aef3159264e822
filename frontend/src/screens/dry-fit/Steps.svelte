<!-- The order of assembly: what to mind at each step, own words, and an own order that is checked as it is made. -->
<script lang="ts">
	import type { GuideStep } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { useProject } from '../../app/project.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { inOrder, putApart, takenApart, withNote } from './apart';
	import { runsOf } from '../../app/alike';
	import OneStep from './OneStep.svelte';
	import { word } from '../../words/words';

	let {
		steps,
		names,
		at,
		onpick
	}: { steps: readonly GuideStep[]; names: Map<string, string>; at: number; onpick: (step: number) => void } = $props();
	const work = useProject();
	const attempt = new Attempt();
	const own = $derived((work.project!.design.order ?? []).length > 0 || steps.some((s) => s.by_hand));
	const wait = $derived(steps.reduce((sum, s) => sum + (s.hints ?? []).reduce((m, h) => m + (h.minutes ?? 0), 0), 0));

	/** many alike that follow each other are one row, unless they are asked for one by one, or one of them is looked at or says something of its own */
	let listed = $state.raw<readonly string[]>([]);
	const speaks = (s: GuideStep) => !!(s.note || s.problem || s.before || s.within);
	const runs = $derived(
		runsOf(
			steps.map((s, i) => ({ s, i })),
			({ s, i }) => (chosen || i === at || speaks(s) ? '' : (s.like ?? ''))
		).flatMap((run) => (run.length > 1 && listed.includes(run[0]!.s.key) ? run.map((one) => [one]) : [run]))
	);

	const save = (saved: Promise<void>) => attempt.at(() => saved);
	function move(i: number, by: number) {
		const keys = steps.map((s) => s.key);
		const [key] = keys.splice(i, 1);
		keys.splice(i + by, 0, key!);
		return save(work.saveWhole((d) => ({ ...d, order: keys }), word(by < 0 ? 'dry-fit.earlier' : 'dry-fit.later', { s: steps[i]!.label })));
	}
	const asFound = () => save(work.saveWhole((d) => ({ ...d, order: [], apart: [] }), word('dry-fit.order-of-assembly-as-found')));

	/** Parts that are being chosen for a sub-assembly; null while none is. */
	let chosen = $state.raw<readonly string[] | null>(null);
	const few = $derived((chosen?.length ?? 0) < 2 || chosen!.length >= new Set(steps.flatMap((s) => s.parts)).size);
	const mayJoin = (s: GuideStep) => s.parts.length === 1 && !s.within;
	function choose(part: string, on: boolean) {
		chosen = on ? [...(chosen ?? []), part] : (chosen ?? []).filter((p) => p !== part);
	}
	function makeApart() {
		const group = inOrder(steps, chosen!);
		chosen = null;
		const words = word('dry-fit.put-together-apart-2', { group: group.map((p) => names.get(p) ?? p).join(', ') });
		return save(work.saveWhole((d) => putApart(d, steps, group), words));
	}
	function oneByOne(s: GuideStep) {
		return save(work.saveWhole((d) => takenApart(d, s.key), word('dry-fit.one-by-one', { s: s.label })));
	}
	function write(s: GuideStep, text: string) {
		if (text.trim() === (s.note ?? '')) return;
		void save(work.saveWhole((d) => withNote(d, s.key, text.trim()), word('dry-fit.note-on', { s: s.label })));
	}
</script>

<h2>{word('dry-fit.steps-2', { steps: steps.length })}</h2>
<p class="quiet">
	{own ? word('dry-fit.in-your-order') : word('dry-fit.as-found')}{wait
		? ` · ${word('dry-fit.about-min-under-clamps', { wait: wait.toFixed(0) })}`
		: ''}
</p>
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
<div class="acts">
	{#if steps.length}<a class="btn" href="/api/projects/{work.id}/guide.pdf" download>{word('dry-fit.assembly-guide-pdf')}</a>{/if}
	{#if own}<button class="btn" onclick={asFound}>{word('dry-fit.order-as-found')}</button>{/if}
	{#if steps.length > 2 && !chosen}<button class="btn" onclick={() => (chosen = [])}>{word('dry-fit.sub-assembly')}</button>{/if}
</div>
{#if chosen}
	<div class="note" role="group" aria-label={word('dry-fit.sub-assembly-2')}>
		{word('dry-fit.tick-the-parts-that-are-put')}
		<div class="acts">
			<button class="btn main" disabled={few} onclick={makeApart}>{word('dry-fit.put-together-apart')}</button>
			<button class="btn" onclick={() => (chosen = null)}>{word('dry-fit.leave-it')}</button>
		</div>
	</div>
{/if}
<ol>
	{#each runs as run (`${run[0]!.s.key} ${run.length}`)}
		{@const { s, i } = run[0]!}
		{#if run.length > 1}
			<li class="many" value={i + 1}>
				<button aria-expanded="false" onclick={() => (listed = [...listed, s.key])}
					>{word('common.and-alike', { first: s.label, more: run.length - 1 })} ▸</button
				>
				{#each s.hints ?? [] as h, k (k)}<p class="quiet">{session.told(h.says)}</p>{/each}
			</li>
		{:else}
			<OneStep
				step={s}
				open={i === at}
				first={i === 0}
				last={i === steps.length - 1}
				chosen={chosen && mayJoin(s) ? chosen.includes(s.key) : null}
				onpick={() => onpick(i)}
				onchosen={(on) => choose(s.key, on)}
				onmove={(by) => move(i, by)}
				onapart={() => oneByOne(s)}
				onwrite={(text) => write(s, text)}
			/>
		{/if}
	{/each}
</ol>

<style>
	.acts {
		display: flex;
		gap: 6px;
		flex-wrap: wrap;
		margin: 8px 0;
	}
	.many {
		padding: 3px 4px;
	}
	.many button:hover {
		text-decoration: underline;
	}
	ol {
		list-style: decimal;
		padding-left: 24px;
	}
</style>
