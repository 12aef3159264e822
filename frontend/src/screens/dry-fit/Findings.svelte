<!-- What was found, in three groups, each with a repair of one click or the way there; and the cautions, which never stop anything. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import type { CheckOut, Finding, Repair } from '../../api/types';
	import { navigate } from '../../app/router';
	import { FIRST } from '../../app/items';
	import { useProject } from '../../app/project.svelte';
	import Told from '../../app/Told.svelte';
	import { word } from '../../words/words';

	let {
		result,
		steps,
		waiting = false,
		onshow
	}: {
		result: NonNullable<CheckOut['result']>;
		steps: number;
		/** a newer dry fit is on its way: nothing is mended until it is there */
		waiting?: boolean;
		onshow: (f: Finding) => void;
	} = $props();
	const work = useProject();
	const FEW = 6;
	let all = $state(false);
	let fineOpen = $state(false);
	let picked = $state.raw<Finding | null>(null);
	let problem = $state('');
	let busy = $state(false);
	const of = (severity: string) => result.findings.filter((f) => f.severity === severity);
	const groups = $derived({ must: of('must'), look: of('look'), fine: of('fine') });
	const cautions = $derived(result.cautions ?? []);

	function show(f: Finding) {
		picked = f;
		onshow(f);
	}
	const to = (station: string, search: Record<string, string>) =>
		navigate('/projects/:id/:station', { params: { id: String(work.id), station }, search });
	const go = (f: Finding) =>
		to('build', f.meeting ? { meeting: f.meeting } : f.parts?.[0] ? { panel: f.parts[0] } : f.field ? { item: f.item || FIRST } : {});
	function follow(ref: { kind: string; id: string }, f: Finding) {
		if (ref.kind === 'stock') return to('sheets', { stock: ref.id });
		return to('build', ref.kind === 'meeting' ? { meeting: ref.id } : { panel: ref.kind === 'part' ? ref.id : (f.parts?.[0] ?? '') });
	}
	async function mend(f: Finding, r: Repair) {
		[problem, busy] = ['', true];
		try {
			await work.repair(f, r);
		} catch (e) {
			problem = (e as Error).message;
		} finally {
			busy = false;
		}
	}
</script>

<h2>
	{groups.must.length
		? word('dry-fit.to-fix', { must: groups.must.length })
		: groups.look.length
			? word('dry-fit.it-goes-together')
			: word('dry-fit.it-fits')}
</h2>
<p class="quiet">
	{groups.must.length
		? word('dry-fit.before-anything-is-cut')
		: word('dry-fit.step', {
				steps,
				chances: result.chances.length
					? word('dry-fit.about-of-joints-will-need-a', {
							expectedrework: result.expected_rework.toFixed(1),
							chances: result.chances.length
						})
					: word('dry-fit.no-joints')
			})}
</p>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
{#each [['must', 'Must fix', groups.must], ['look', 'Look at', groups.look], ['caution', 'Have it looked at', cautions]] as const as [key, title, list] (key)}
	{#if list.length}
		<h3>{title}</h3>
		{#each all ? list : list.slice(0, FEW) as f, i (i)}
			<div class="note" class:bad={key === 'must'} class:picked={picked === f} data-code={f.code}>
				<p class="text"><Told of={f.says} ongo={(ref) => follow(ref, f)} /></p>
				<div class="acts">
					<button class="btn" onclick={() => show(f)}>{word('dry-fit.show-it')}</button>
					{#each f.repairs ?? [] as r (session.told(r.says) + r.targets)}<button
							class="btn main"
							disabled={busy || waiting}
							onclick={() => mend(f, r)}>{session.told(r.says)}</button
						>{/each}
					<button class="btn" onclick={() => go(f)}>{f.field ? word('dry-fit.change-the-number') : word('dry-fit.go-there')}</button>
				</div>
			</div>
		{/each}
		{#if !all && list.length > FEW}<button class="btn" onclick={() => (all = true)}
				>{word('dry-fit.more-like-these', { list: list.length - FEW })}</button
			>{/if}
	{/if}
{/each}
<button class="fine" aria-expanded={fineOpen} onclick={() => (fineOpen = !fineOpen)}
	>{word('dry-fit.checks-fine', { fine: groups.fine.length, fineOpen: fineOpen ? '▴' : '▾' })}</button
>
{#if fineOpen || !(groups.must.length + groups.look.length)}<ul>
		{#each groups.fine as f, i (i)}<li><Told of={f.says} /></li>{/each}
	</ul>{/if}
<div class="note mt-3">
	{word('dry-fit.anything-that-people-stand-sit-or')}
</div>

<style>
	.text {
		margin-bottom: 6px;
	}
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
	}
	.picked {
		background: var(--pick);
	}
	.fine {
		margin-top: 10px;
		color: var(--ink-2);
	}
	ul {
		list-style: '✓  ';
		padding-left: 18px;
		color: var(--ink-2);
	}
</style>
