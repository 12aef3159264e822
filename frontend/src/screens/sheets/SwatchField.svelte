<!-- A colour as it was measured: lightness, and two axes of colour. -->
<script lang="ts">
	import NumberField from '../../lib/ui/NumberField.svelte';

	let {
		label,
		lab,
		onchange
	}: { label: string; lab: readonly number[] | null | undefined; onchange: (lab: number[]) => Promise<unknown> } = $props();
	const GREYISH = [60, 0, 0]; // what the others are until they are told
</script>

<div class="lab" role="group" aria-label={label}>
	<span>{label}</span>
	{#each ['L', 'a', 'b'] as axis, i (axis)}
		<NumberField
			label={axis}
			kind="number"
			suffix=""
			value={lab?.[i] ?? null}
			placeholder="–"
			oncommit={async (v) => void (await onchange((lab ?? GREYISH).map((now, k) => (k === i ? v : now))))}
		/>
	{/each}
</div>

<style>
	.lab {
		display: grid;
		grid-template-columns: 1fr 1fr 1fr;
		gap: 4px;
	}
	.lab span {
		grid-column: 1 / -1;
	}
	.lab :global(.field) {
		grid-template-columns: auto 1fr;
	}
	.lab :global(.field em) {
		min-width: 0; /* no unit: the figure has the room */
	}
	.lab :global(.field .box) {
		padding-right: 0;
	}
</style>
