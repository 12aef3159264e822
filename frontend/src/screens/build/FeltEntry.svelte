<!-- How a joint felt when somebody tried it, in scrap or in the good sheet: the fits of this pair of stocks learn from it. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { MeetingOut } from '../../api/types';
	import { FEELS, feelName } from '../../lib/ui/feels';
	import { word } from '../../words/words';

	let { detail, stocks, machine, onlearned }: { detail: MeetingOut; stocks: [string, string]; machine: string; onlearned: () => void } =
		$props();
	let said = $state('');
	let problem = $state('');

	async function felt(feel: string) {
		said = problem = '';
		const m = detail.meeting;
		const entering = stocks[0] === m.kerf_stock ? stocks[1] : stocks[0];
		try {
			await need(
				api.POST('/api/stocks/{stock_id}/feels', {
					params: { path: { stock_id: Number(m.kerf_stock) }, query: { machine: Number(machine) } },
					body: {
						entering: Number(entering),
						feel: feel as 'snug',
						clearance_mm: detail.chances!.chances.clearance,
						sd_mm: detail.chances!.chances.sd
					}
				})
			);
			said = `Noted: ${feelName(feel)}. The fits of this pair have learned from it; Sheets keeps the record.`;
			onlearned();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<details>
	<summary>{word('build.you-tried-it-say-how-it')}</summary>
	<div class="feels">
		{#each FEELS as f (f.key)}<button style:--shade={f.colour} onclick={() => felt(f.key)}>{f.name}</button>{/each}
	</div>
	{#if said}<p class="quiet" role="status">{said}</p>{/if}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
</details>

<style>
	details {
		margin-top: 10px;
	}
	summary {
		cursor: pointer;
		color: var(--ink-2);
		font-size: 12.5px;
		font-weight: 650;
	}
	.feels {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
		margin-top: 6px;
	}
	button {
		border: 1px solid var(--rule);
		border-bottom: 4px solid var(--shade);
		border-radius: 4px;
		padding: 3px 7px;
	}
	button:hover {
		background: var(--pick);
	}
</style>
