<!-- What was found before the files go out: what to mind, what is well, and that somebody has read it. -->
<script lang="ts">
	import type { PlanOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import Dot from '../../lib/ui/Dot.svelte';
	import { day } from '../../lib/units/units';
	import { word } from '../../words/words';

	type Findings = NonNullable<NonNullable<PlanOut['plan']>['findings']>;
	let {
		out,
		found,
		fine,
		onaccept
	}: {
		out: PlanOut;
		found: Findings;
		fine: Findings;
		/** null where there is nothing that can be accepted */
		onaccept: (() => Promise<void>) | null;
	} = $props();
</script>

<ul>
	{#each found as f, i (i)}<li>
			<Dot dot={f.severity === 'must' ? 'red' : 'amber'} /><span>{session.told(f.says)}</span>
		</li>{/each}
	<li>
		<Dot dot="green" />
		<details>
			<summary>{word('cut-plan.check-passed', { fine: fine.length })}</summary>{#each fine as f (f.code)}<small
					>{session.told(f.says)}</small
				>{/each}
		</details>
	</li>
</ul>
{#if onaccept}
	{#if out.accepted}<p class="quiet">{word('cut-plan.read-by', { by: out.accepted.by, on: day(out.accepted.on) })}</p>
	{:else}<label class="flex items-start gap-2 py-1"
			><input type="checkbox" class="mt-1" checked={false} onchange={onaccept} /> {word('cut-plan.i-have-read-these-and-go')}</label
		>{/if}
{/if}

<style>
	small {
		display: block;
		color: var(--ink-2);
		font-size: 11.5px;
	}
	li {
		display: flex;
		gap: 10px;
		padding: 5px 0;
		border-bottom: 1px solid var(--rule);
	}
	li :global(svg) {
		margin-top: 4px;
	}
</style>
