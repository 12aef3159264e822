<!-- What a variation may set that no other one sets. -->
<script lang="ts">
	import type { DesignFamily } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { isSet, type Sets } from '../../app/variations';
	import { word } from '../../words/words';
	import { setName } from './variationnames';

	let {
		label,
		family,
		none,
		value,
		onchoose
	}: { label: string; family: DesignFamily; none: string; value: Sets | null; onchoose: (what: Sets | null) => void } = $props();
	const id = $props.id();
	const work = useProject();
	const all = $derived<Sets[]>([
		{ of: 'sizes' },
		...family.numbers.map((n) => ({ of: 'numbers' as const, name: n.name ?? '' })),
		...family.roles.map((r) => ({ of: 'stocks' as const, name: r.id }))
	]);
	const free = $derived(all.filter((s) => !isSet(work.design, s)));
	const key = (s: Sets) => ('name' in s ? `${s.of}:${s.name}` : s.of);
</script>

<label for={id}>{label}</label>
<select
	{id}
	class="select"
	value={value ? key(value) : ''}
	onchange={(e) => onchoose(free.find((s) => key(s) === e.currentTarget.value) ?? null)}
>
	<option value="">{none}</option>
	{#each free as s (key(s))}<option value={key(s)}>{s.of === 'sizes' ? word('build.all-its-sizes') : setName(s, family)}</option>{/each}
</select>
