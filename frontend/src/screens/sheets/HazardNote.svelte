<!-- The caution where a stock is chosen: what must not be cut, and what waits for its maker's data. -->
<script lang="ts">
	import type { FamilyOut } from '../../api/types';

	let { substance, name }: { substance: FamilyOut['substances'][number]; name: string } = $props();
</script>

{#if substance.verdict === 'forbidden'}
	<div class="note bad" role="alert">
		<b>Do not cut {name}.</b>
		{substance.label}: {substance.why}. It can lie on the rack, but no plan takes it.
	</div>
{:else if substance.verdict === 'needs_data'}
	<div class="note" role="note">
		<b>Not without its maker’s data.</b>
		{substance.label}: {substance.why}. Your local rules and the machine’s maker come first.
	</div>
{/if}
