<!-- The bed of a machine, and how it moves. -->
<script lang="ts">
	import type { Machine } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';

	let {
		machine,
		set,
		quietly
	}: { machine: Machine; set: (c: Record<string, unknown>) => Promise<void>; quietly: (c: Record<string, unknown>) => Promise<unknown> } =
		$props();
	type Numeric = 'bed_width' | 'bed_height' | 'slat_pitch' | 'overscan' | 'position_sd' | 'corner';
	const LENGTHS: [Numeric, string, 'plain' | 'fine' | 'finest'][] = [
		['bed_width', word('sheets.bed-width'), 'plain'],
		['bed_height', word('sheets.bed-depth'), 'plain'],
		['slat_pitch', word('sheets.between-slats'), 'plain'],
		['overscan', word('sheets.runs-on-past-an-engraved-row'), 'fine'],
		['position_sd', word('sheets.a-cut-lies-off-by-sd'), 'finest'],
		['corner', word('sheets.may-round-a-corner-by'), 'finest']
	];
	const SPEEDS = [
		['rapid', word('sheets.moves-with-the-beam-off'), 'speed'],
		['raster_speed', word('sheets.fastest-along-a-row'), 'speed'],
		['acceleration', word('sheets.speeds-up-by'), 'acceleration'],
		['pierce', word('sheets.waits-before-each-cut'), 'number'],
		['handling', word('sheets.a-sheet-in-and-out-takes'), 'number']
	] as const;
</script>

<section>
	<h3>{word('sheets.bed-and-motion')}</h3>
	{#each LENGTHS as [key, label, digits] (key)}
		<NumberField
			{label}
			value={machine[key] ?? 0}
			unit={session.unit}
			fine={digits === 'fine'}
			finest={digits === 'finest'}
			oncommit={(v) => set({ [key]: v })}
		/>
	{/each}
	{#each SPEEDS as [key, label, kind] (key)}
		<NumberField
			{label}
			{kind}
			unit={session.unit}
			suffix={kind === 'number' ? 's' : undefined}
			value={machine[key] ?? 0}
			oncommit={(v) => set({ [key]: v })}
		/>
	{/each}
	<label class="tick"
		><input type="checkbox" checked={machine.pass_through} onchange={(e) => quietly({ pass_through: e.currentTarget.checked })} />
		{word('sheets.a-longer-sheet-can-reach-through')}</label
	>
</section>

<style>
	section :global(.field) {
		grid-template-columns: 1fr 132px;
	}
	h3 {
		font-weight: 650;
		margin: 14px 0 4px;
	}
	.tick {
		display: flex;
		gap: 8px;
		align-items: center;
		padding: 3px 0;
	}
</style>
