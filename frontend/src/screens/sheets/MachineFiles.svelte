<!-- How the files of a machine tell operations apart: colour, line and layer. -->
<script lang="ts">
	import type { Machine } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { MM_PER_INCH, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { machine, quietly }: { machine: Machine; quietly: (c: Record<string, unknown>) => Promise<unknown> } = $props();
	const id = $props.id();
	type Operation = 'engrave' | 'score' | 'inner' | 'outer';
	/** The width of a line is read in millimetres, inches or thousandths. */
	const per = $derived(session.unit === 'mm' ? 1 : session.unit === 'thou' ? MM_PER_INCH / 1000 : MM_PER_INCH);
	const OPERATIONS: [Operation, string][] = [
		['engrave', word('sheets.engrave')],
		['score', word('sheets.score')],
		['inner', word('sheets.inner-cuts')],
		['outer', word('sheets.outer-cuts')]
	];

	const convention = (o: Operation, changes: Record<string, unknown>) => quietly({ [o]: { ...machine[o], ...changes } });
</script>

<section>
	<h3>{word('sheets.how-files-tell-operations-apart')}</h3>
	<label class="line" for="{id}c"
		>{word('sheets.convention')}<input
			class="input"
			id="{id}c"
			maxlength="60"
			value={machine.convention_name}
			onchange={(e) => quietly({ convention_name: e.currentTarget.value })}
		/></label
	>
	<table>
		<thead
			><tr
				><th></th><th>{word('sheets.colour')}</th><th>{word('sheets.line', { size: unitName(session.unit) })}</th><th
					>{word('sheets.layer')}</th
				></tr
			></thead
		>
		<tbody>
			{#each OPERATIONS as [o, label] (o)}
				{@const c = machine[o]!}
				<tr>
					<th>{label}</th>
					<td
						><input
							type="color"
							aria-label={word('sheets.colour-2', { label })}
							value={c.colour}
							onchange={(e) => convention(o, { colour: e.currentTarget.value })}
						/></td
					>
					<td
						><input
							class="input fig thin"
							aria-label={word('sheets.line-width-in', { label, size: unitName(session.unit) })}
							value={Number((c.line_width / per).toFixed(4))}
							onchange={(e) => convention(o, { line_width: Number(e.currentTarget.value) * per })}
						/></td
					>
					<td
						><input
							class="input"
							aria-label={word('sheets.layer-2', { label })}
							value={c.layer}
							onchange={(e) => convention(o, { layer: e.currentTarget.value })}
						/></td
					>
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="quiet">{word('sheets.squares-of-a-power-card-get')}</p>
</section>

<style>
	h3 {
		font-weight: 650;
		margin: 14px 0 4px;
	}
	.line {
		display: block;
	}
	input.thin {
		width: 62px;
	}
	input[type='color'] {
		width: 36px;
		height: 24px;
	}
	th {
		text-align: left;
		font-weight: 500;
		color: var(--ink-2);
		padding-right: 8px;
		white-space: nowrap;
	}
	td {
		padding: 2px 8px 2px 0;
	}
</style>
