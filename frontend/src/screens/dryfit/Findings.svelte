<!-- What was found, in three groups, each with a repair of one click or the way there; and the cautions, which never stop anything. -->
<script lang="ts">
	import { session } from '../../app/session.svelte';
	import type { CheckOut, Finding, Repair } from '../../api/types';
	import { navigate } from '../../app/router';
	import { useProject } from '../../app/project.svelte';
	import Told from '../../app/Told.svelte';

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
	const go = (f: Finding) => to('build', f.meeting ? { meeting: f.meeting } : f.parts?.[0] ? { panel: f.parts[0] } : {});
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

<h2>{groups.must.length ? `${groups.must.length} to fix` : groups.look.length ? 'It goes together' : 'It fits'}</h2>
<p class="quiet">
	{groups.must.length
		? 'before anything is cut'
		: `${steps} step${steps === 1 ? '' : 's'} · ${result.odds.length ? `about ${result.expected_rework.toFixed(1)} of ${result.odds.length} joints will need a hand` : 'no joints'}`}
</p>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
{#each [['must', 'Must fix', groups.must], ['look', 'Look at', groups.look], ['caution', 'Have it looked at', cautions]] as const as [key, title, list] (key)}
	{#if list.length}
		<h3>{title}</h3>
		{#each all ? list : list.slice(0, FEW) as f, i (i)}
			<div class="note" class:bad={key === 'must'} class:picked={picked === f} data-code={f.code}>
				<p class="text"><Told of={f.says} ongo={(ref) => follow(ref, f)} /></p>
				<div class="acts">
					<button class="btn" onclick={() => show(f)}>Show it</button>
					{#each f.repairs ?? [] as r (session.told(r.says) + r.targets)}<button
							class="btn main"
							disabled={busy || waiting}
							onclick={() => mend(f, r)}>{session.told(r.says)}</button
						>{/each}
					<button class="btn" onclick={() => go(f)}>{f.field ? 'Change the number' : 'Go there'}</button>
				</div>
			</div>
		{/each}
		{#if !all && list.length > FEW}<button class="btn" onclick={() => (all = true)}>{list.length - FEW} more like these</button>{/if}
	{/if}
{/each}
<button class="fine" aria-expanded={fineOpen} onclick={() => (fineOpen = !fineOpen)}
	>{groups.fine.length} checks fine {fineOpen ? '▴' : '▾'}</button
>
{#if fineOpen || !(groups.must.length + groups.look.length)}<ul>
		{#each groups.fine as f (f.code)}<li><Told of={f.says} /></li>{/each}
	</ul>{/if}
<div class="note mt-3">
	Anything that people stand, sit or hang on, or that could fall on them, needs a qualified person's check and your local rules: this
	program does not certify strength.
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
