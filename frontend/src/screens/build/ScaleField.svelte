<!-- Larger or smaller in per cent: what is open, or all of the project. -->
<script lang="ts">
	import { useProject } from '../../app/project.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';

	let { label }: { label: string } = $props();
	const work = useProject();
</script>

<NumberField {label} kind="number" suffix="%" value={null} keep={false} placeholder="100" oncommit={(v) => work.scale(v / 100)} />
