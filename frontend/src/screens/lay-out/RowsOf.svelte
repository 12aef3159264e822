<!-- How a part lies in rows: columns and rows on each sheet, and the gaps between. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';

	type Grid = NonNullable<LayoutOut['request']['grids']>[string];
	let { grid, onchange }: { grid: Partial<Grid>; onchange: (grid: Grid) => void } = $props();
	const whole = $derived({ columns: 0, rows: 0, gap_x: null, gap_y: null, ...grid } as Grid);
	const set = (changes: Partial<Grid>) => onchange({ ...whole, ...changes });
	/** Nothing typed: as near as parts may lie. */
	const gap = (mm: number | null) => (mm === null || mm <= 0 ? null : mm);
</script>

<div class="rows" role="group" aria-label={word('lay-out.in-rows')}>
	<NumberField
		label={word('lay-out.columns-0-as-many-as-fit')}
		kind="count"
		value={whole.columns ?? 0}
		oncommit={(n) => set({ columns: n })}
	/>
	<NumberField label={word('lay-out.rows-0-as-many-as-fit')} kind="count" value={whole.rows ?? 0} oncommit={(n) => set({ rows: n })} />
	<NumberField
		label={word('lay-out.gap-sideways-0-the-least')}
		unit={session.unit}
		value={whole.gap_x ?? 0}
		oncommit={(mm) => set({ gap_x: gap(mm) })}
	/>
	<NumberField
		label={word('lay-out.gap-upwards-0-the-least')}
		unit={session.unit}
		value={whole.gap_y ?? 0}
		oncommit={(mm) => set({ gap_y: gap(mm) })}
	/>
</div>

<style>
	.rows {
		border-left: 3px solid var(--color-mat);
		padding-left: 10px;
		display: grid;
		gap: 2px;
	}
</style>
