<!-- The order of assembly: what to mind at each step, own words, and an own order that is checked as it is made. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import type { GuideStep } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { inOrder, putApart, takenApart, withNote } from './apart';
	import StepNote from './StepNote.svelte';
	import { word } from '../../words/words';

	let {
		steps,
		names,
		at,
		onpick
	}: { steps: readonly GuideStep[]; names: Map<string, string>; at: number; onpick: (step: number) => void } = $props();
	const work = useProject();
	let problem = $state('');
	const own = $derived((work.project!.design.order ?? []).length > 0 || steps.some((s) => s.by_hand));
	const wait = $derived(steps.reduce((sum, s) => sum + (s.hints ?? []).reduce((m, h) => m + (h.minutes ?? 0), 0), 0));
	const label = (s: GuideStep) => s.label;

	async function save(saved: Promise<void>) {
		problem = '';
		try {
			await saved;
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	function move(i: number, by: number) {
		const keys = steps.map((s) => s.key);
		const [key] = keys.splice(i, 1);
		keys.splice(i + by, 0, key!);
		return save(work.saveWhole((d) => ({ ...d, order: keys }), `${label(steps[i]!)} ${by < 0 ? 'earlier' : 'later'}`));
	}
	const asFound = () => save(work.saveWhole((d) => ({ ...d, order: [], apart: [] }), word('dryfit.order-of-assembly-as-found')));

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
		const words = word('dryfit.put-together-apart-2', { group: group.map((p) => names.get(p) ?? p).join(', ') });
		return save(work.saveWhole((d) => putApart(d, steps, group), words));
	}
	function oneByOne(s: GuideStep) {
		return save(work.saveWhole((d) => takenApart(d, s.key), word('dryfit.one-by-one', { s: label(s) })));
	}
	function write(s: GuideStep, text: string) {
		if (text.trim() === (s.note ?? '')) return;
		void save(work.saveWhole((d) => withNote(d, s.key, text.trim()), word('dryfit.note-on', { s: label(s) })));
	}
</script>

<h2>{word('dryfit.steps-2', { steps: steps.length })}</h2>
<p class="quiet">
	{own ? word('dryfit.in-your-order') : word('dryfit.as-found')}{wait
		? ` · ${word('dryfit.about-min-under-clamps', { wait: wait.toFixed(0) })}`
		: ''}
</p>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
<div class="acts">
	{#if steps.length}<a class="btn" href="/api/projects/{work.id}/guide.pdf" download>{word('dryfit.assembly-guide-pdf')}</a>{/if}
	{#if own}<button class="btn" onclick={asFound}>{word('dryfit.order-as-found')}</button>{/if}
	{#if steps.length > 2 && !chosen}<button class="btn" onclick={() => (chosen = [])}>{word('dryfit.sub-assembly')}</button>{/if}
</div>
{#if chosen}
	<div class="note" role="group" aria-label={word('dryfit.sub-assembly-2')}>
		{word('dryfit.tick-the-parts-that-are-put')}
		<div class="acts">
			<button class="btn main" disabled={few} onclick={makeApart}>{word('dryfit.put-together-apart')}</button>
			<button class="btn" onclick={() => (chosen = null)}>{word('dryfit.leave-it')}</button>
		</div>
	</div>
{/if}
<ol>
	{#each steps as s, i (s.key)}
		<li class:on={i === at} class:bad={!!s.problem} class:apart={!!s.within}>
			<div class="row">
				{#if chosen && mayJoin(s)}<label class="name"
						><input
							class="mr-1"
							type="checkbox"
							checked={chosen.includes(s.key)}
							onchange={(e) => choose(s.key, e.currentTarget.checked)}
						/>
						{label(s)}</label
					>{:else}<button class="name" onclick={() => onpick(i)}>{label(s)}{s.parts.length > 1 ? `, ${word('dryfit.as-one')}` : ''}</button
					>{/if}
				<button class="step" aria-label={word('dryfit.earlier', { s: label(s) })} disabled={i === 0} onclick={() => move(i, -1)}>▴</button>
				<button class="step" aria-label={word('dryfit.later', { s: label(s) })} disabled={i === steps.length - 1} onclick={() => move(i, 1)}
					>▾</button
				>
			</div>
			{#if s.within && s.first}<p class="hint">{word('dryfit.put-together-apart-and-laid-down')}</p>{/if}
			{#if s.by_hand && i === at}<button class="btn" onclick={() => oneByOne(s)}>{word('dryfit.one-by-one-again')}</button>{/if}
			{#if s.problem}<p class="problem">{session.told(s.problem)}</p>{/if}
			{#each s.hints ?? [] as h, k (k)}<p class="hint">{session.told(h.says)}</p>{/each}
			{#if i === at && s.before}<p class="hint">{word('dryfit.in-before', { before: s.before })}</p>{/if}
			<StepNote note={s.note ?? ''} about={label(s)} offered={i === at} onwrite={(text) => write(s, text)} />
		</li>
	{/each}
</ol>

<style>
	.acts {
		display: flex;
		gap: 6px;
		flex-wrap: wrap;
		margin: 8px 0;
	}
	ol {
		list-style: decimal;
		padding-left: 24px;
	}
	li {
		padding: 3px 4px;
		border-radius: 4px;
	}
	li.on {
		background: var(--pick);
	}
	li.apart {
		margin-left: 14px;
		border-left: 2px dotted var(--rule);
		padding-left: 8px;
	}
	li.bad {
		border-left: 3px solid var(--bad);
		padding-left: 8px;
	}
	.row {
		display: grid;
		grid-template-columns: 1fr auto auto;
		gap: 3px;
	}
	.name {
		text-align: left;
	}
	.name:hover {
		text-decoration: underline;
	}
	.step {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 0 7px;
	}
	.step:disabled {
		opacity: 0.3;
	}
	.hint,
	.problem {
		font-size: 12.5px;
		color: var(--ink-2);
	}
	.problem {
		color: var(--bad);
	}
</style>
