<!-- The caution where a stock is chosen: what must not be cut, and what waits for its maker's data. -->
<script lang="ts">
	import type { MaterialOut } from '../../api/types';
	import { word } from '../../words/words';

	let { substance, name }: { substance: MaterialOut['substances'][number]; name: string } = $props();
</script>

{#if substance.verdict === 'forbidden'}
	<div class="note bad" role="alert">
		<b>{word('sheets.do-not-cut', { name })}</b>
		{word('sheets.it-can-lie-on-the-rack', { label: substance.label, why: substance.why })}
	</div>
{:else if substance.verdict === 'needs_data'}
	<div class="note" role="note">
		<b>{word('sheets.not-without-its-makers-data')}</b>
		{word('sheets.your-local-rules-and-the-machines', { label: substance.label, why: substance.why })}
	</div>
{/if}
