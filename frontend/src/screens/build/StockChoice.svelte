<!-- A stock of the rack to choose, with its measured thickness. -->
<script lang="ts">
	import type { RackRow } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';

	let {
		label,
		stocks,
		value,
		none,
		onchoose
	}: {
		label: string;
		stocks: readonly RackRow[];
		value: string;
		/** how to say that none is chosen; without it one must be */
		none?: string;
		onchoose: (stock: string) => void;
	} = $props();
	const id = $props.id();
</script>

<div class="pair">
	<label for={id}>{label}</label>
	<select {id} class="select" {value} onchange={(e) => onchoose(e.currentTarget.value)}>
		{#if none}<option value="">{none}</option>{:else if !value}<option value="" disabled>{word('build.several-stocks')}</option>{/if}
		{#each stocks as s (s.id)}<option value={s.id}
				>{s.name} · {show(s.thickness_mm, session.unit, true)}{s.verdict === 'forbidden'
					? ` · ${word('build.must-not-be-cut')}`
					: ''}</option
			>{/each}
	</select>
</div>
