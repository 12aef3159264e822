<!-- Where the kerf is corrected: in our paths, in joints only, by the machine, or nowhere. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { PlanOut, SheetPlan } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { KERF_PLACES, type KerfPlace } from '../../lib/ui/kerfplaces';
	import { showKerf, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';

	let {
		out,
		sheet,
		online,
		onmachine,
		onproblem
	}: {
		out: PlanOut;
		sheet: SheetPlan | null;
		/** a test piece is cut on its lines, whatever the kerf */
		online: boolean;
		/** the machine has changed */
		onmachine: () => Promise<void>;
		onproblem: (message: string) => void;
	} = $props();

	async function kerfPlace(place: KerfPlace) {
		onproblem('');
		try {
			await need(
				api.PATCH('/api/machines/{machine_id}', {
					params: { path: { machine_id: Number(out.machine!.id) } },
					body: { kerf_place: place }
				})
			);
			await onmachine();
		} catch (e) {
			onproblem((e as Error).message);
		}
	}
</script>

{#if online}
	<h3>{word('cut-plan.cut-on-the-line')}</h3>
	<p>{word('cut-plan.a-test-piece-is-cut-where')}</p>
{:else}
	<h3>{word('cut-plan.kerf-is-corrected')}</h3>
	{#each KERF_PLACES as [place, name] (place)}<label class="flex gap-2"
			><input type="radio" name="kerf" checked={out.machine?.kerf_place === place} onchange={() => kerfPlace(place)} />
			{name}{place === 'paths' && sheet?.kerf ? `: ${showKerf(sheet.kerf, session.unit)} ${unitName(session.unit)}` : ''}</label
		>{/each}
{/if}
