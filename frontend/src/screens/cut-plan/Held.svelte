<!-- What Build and Dry fit found and holds the files back, until it is mended or a person answers for it. -->
<script lang="ts">
	import Told from '../../app/Told.svelte';
	import type { PlanOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Dot from '../../lib/ui/Dot.svelte';
	import { day } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { stops, onoverrule }: { stops: NonNullable<PlanOut['stops']>; onoverrule: () => void } = $props();
	const work = useProject();
</script>

<ul>
	{#each stops.findings as f, i (i)}<li><Dot dot={stops.overruled ? 'amber' : 'red'} /><span><Told of={f.says} /></span></li>{/each}
</ul>
{#if stops.overruled}<p class="quiet">
		{word('cut-plan.cut-all-the-same-the-run', { by: stops.overruled.by, on: day(stops.overruled.on) })}
	</p>
{:else}<p><a class="underline" href="/projects/{work.id}/dry-fit">{word('cut-plan.go-to-dry-fit')}</a></p>
	<label class="flex items-start gap-2 py-1"
		><input type="checkbox" class="mt-1" checked={false} onchange={onoverrule} />
		{word('cut-plan.i-answer-for-cutting-it-all', { username: session.me?.username })}</label
	>{/if}

<style>
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
