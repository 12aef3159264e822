<!-- What goes to the machine: all files in one, and each by itself. -->
<script lang="ts">
	import type { SheetPlan } from '../../api/types';
	import { runName } from '../../lib/mat/runs';
	import { word } from '../../words/words';

	let { projectId, sheets, ready }: { projectId: number; sheets: SheetPlan[]; ready: boolean } = $props();
	const href = (name: string) => `/api/projects/${projectId}/files/${name}`;
</script>

<div class="mt-2 flex flex-wrap gap-2">
	{#if ready}
		<a class="btn burn" href={href('all.zip')} download>{word('cut-plan.make-the-files')}</a>
		<a class="btn" href={href('run-sheet.pdf')} download>{word('cut-plan.run-sheet-pdf')}</a>
		<a class="btn" href={href('cut-list.csv')} download>{word('cut-plan.cut-list')}</a>
		<details class="each" open={sheets.length <= 3}>
			<summary class="quiet">{word('cut-plan.sheet-by-sheet')}</summary>
			{#each sheets as s, i (i)}<span
					>{runName(s)}: <a href={href(`sheet-${i + 1}.svg`)} download>{word('cut-plan.svg')}</a>
					<a href={href(`sheet-${i + 1}.dxf`)} download>{word('cut-plan.dxf')}</a>
					<a href={href(`sheet-${i + 1}.pdf`)} download>{word('cut-plan.pdf')}</a>
					<a href={href(`sheet-${i + 1}.gcode`)} download>{word('cut-plan.g-code')}</a>
					{#if s.printed?.length}<a href={href(`sheet-${i + 1}-print.pdf`)} download>{word('cut-plan.to-print-pdf')}</a>{/if}</span
				>{/each}
		</details>
	{:else}<button class="btn burn" disabled>{word('cut-plan.make-the-files')}</button>{/if}
</div>

<style>
	.each {
		flex-basis: 100%;
		font-size: 12.5px;
	}
	.each span {
		display: inline-block;
		margin-right: 14px;
	}
	.each a {
		text-decoration: underline;
	}
</style>
