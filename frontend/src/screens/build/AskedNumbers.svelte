<!-- The numbers of what is about to be added: lengths, and angles. -->
<script lang="ts" generics="K extends string">
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';

	let {
		fields,
		values,
		onset
	}: {
		fields: readonly { key: K; name: string; degrees?: boolean }[];
		values: Readonly<Record<K, number>>;
		onset: (key: K, value: number) => void;
	} = $props();
</script>

{#each fields as { key, name, degrees } (key)}
	<NumberField
		label={name}
		kind={degrees ? 'number' : 'length'}
		suffix={degrees ? '°' : undefined}
		unit={session.unit}
		value={values[key]}
		oncommit={(v) => onset(key, v)}
	/>
{/each}
