<!-- The stock of a panel, and which way its faces and its grain look. -->
<script lang="ts">
	import type { PanelEdit, PartOut, RackRow } from '../../api/types';
	import Tick from '../../lib/ui/Tick.svelte';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import StockChoice from './StockChoice.svelte';

	let {
		build,
		part,
		stocks,
		edit,
		change
	}: {
		build: BuildState;
		part: PartOut;
		stocks: readonly RackRow[];
		/** what is other about the panel */
		edit: PanelEdit | undefined;
		change: (changes: Partial<PanelEdit>, words: string) => unknown;
	} = $props();
	const inset = $derived(part.features.some((f) => f.kind === 'piece'));
	const clear = $derived(build.out!.stocks[part.stock]!.clear);
	const reverse = $derived(edit?.reverse ?? false);
</script>

<h3>{word('build.stock-and-faces')}</h3>
<StockChoice
	label={word('build.stock')}
	{stocks}
	value={edit?.stock ?? ''}
	none={word('build.as-its-group')}
	onchoose={(v) =>
		change({ stock: v || null }, v ? word('build.in-2', { name: stocks.find((s) => s.id === v)?.name }) : word('build.as-its-group'))}
/>
<Tick
	label={word('build.other-face-shows')}
	checked={edit?.turned ?? false}
	onchange={(turned) => change({ turned }, word('build.turned-over'))}
/>
<Tick
	label={word('build.grain-runs-the-other-way')}
	checked={edit?.across ?? false}
	onchange={(across) => change({ across }, word('build.grain-turned'))}
/>
{#if inset && !part.marks.length}
	<Tick
		label={word('build.cut-face-down-the-slope-that')}
		checked={reverse}
		onchange={(now) => change({ reverse: now }, now ? word('build.cut-face-down') : word('build.cut-face-up'))}
	/>
{:else if reverse || (clear && part.marks.length)}
	<Tick
		label={word('build.burned-from-its-back-mirrored-seen')}
		checked={reverse}
		onchange={(now) => change({ reverse: now }, now ? word('build.burned-from-its-back') : word('build.burned-on-its-front'))}
	/>
{/if}
