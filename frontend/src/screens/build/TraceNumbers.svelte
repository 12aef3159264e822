<!-- How lines are found in a picture: what counts as dark, how smooth, how far off a line may be. -->
<script lang="ts" module>
	export const TRACED = { threshold: 0.5, smoothing: 1.5, simplify: 0.6 };
	export type Tracing = typeof TRACED;
</script>

<script lang="ts">
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';

	let { tracing, onchange }: { tracing: Tracing; onchange: (changed: Partial<Tracing>) => Promise<unknown> } = $props();
	const FIELDS = [
		{ name: 'threshold', label: word('build.darker-than-counts'), suffix: '%', times: 100 },
		{ name: 'smoothing', label: word('build.smoothing-pixels'), suffix: undefined, times: 1 },
		{ name: 'simplify', label: word('build.may-deviate-pixels'), suffix: undefined, times: 1 }
	] as const;
</script>

{#each FIELDS as f (f.name)}
	<NumberField
		label={f.label}
		kind="number"
		suffix={f.suffix}
		value={f.times === 1 ? tracing[f.name] : Math.round(tracing[f.name] * f.times)}
		oncommit={async (v) => void (await onchange({ [f.name]: v / f.times }))}
	/>
{/each}
