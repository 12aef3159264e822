<!-- The numbers of a panel that a person added: they stay to be changed. -->
<script lang="ts">
	import type { Added, Design, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';
	import { type AddedNumber, numbersOf } from './added';
	import { word } from '../../words/words';

	let { part, parts }: { part: PartOut; parts: PartOut[] } = $props();
	const work = useProject();
	const item = $derived(((work.design.added ?? []) as Added[]).find((a) => a.id === part.panel));
	const numbers = $derived(item ? numbersOf(item, parts) : []);
	const said = (n: AddedNumber, v: number) => (n.count ? String(v) : n.degrees ? `${v}°` : show(v, session.unit));
	const within = (n: AddedNumber, v: number) => (n.count ? Math.min(Math.max(v, 0), n.count) : v);
	const keep = (key: string, value: number, label: string) =>
		work.save(
			(d) => ({ ...d, added: (d.added ?? []).map((a) => (a.id === part.panel ? { ...a, [key]: value } : a)) as Design['added'] }),
			label
		);
</script>

{#if numbers.length}
	<h3>{word('build.where-it-stands')}</h3>
	{#each numbers as n (n.key)}
		<NumberField
			label={n.name}
			kind={n.count ? 'count' : n.degrees ? 'number' : 'length'}
			suffix={n.degrees ? '°' : undefined}
			unit={session.unit}
			value={n.value}
			oncommit={(v) => keep(n.key, within(n, v), word('build.number-of-added', { label: part.label, name: n.name, mm: said(n, v) }))}
		/>
	{/each}
{/if}
