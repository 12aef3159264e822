<!-- What each group of a family's panels is cut from, all at once or one by one. -->
<script lang="ts">
	import type { DesignFamily, RackRow } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import StockChoice from './StockChoice.svelte';
	import { word } from '../../words/words';

	let { roles, stocks }: { roles: DesignFamily['roles']; stocks: RackRow[] } = $props();
	const work = useProject();
	const design = $derived(work.design);
	const attempt = new Attempt();
	const all = $derived(new Set(roles.map((r) => design.stocks[r.id])).size === 1 ? (design.stocks[roles[0]!.id] ?? '') : '');
	const nameOf = (stock: string) => stocks.find((s) => s.id === stock)?.name ?? word('build.another-stock');

	function choose(groups: string[], name: string, stock: string) {
		const changes = Object.fromEntries(groups.map((g) => [g, stock]));
		return attempt.at(() =>
			work.save((d) => ({ ...d, stocks: { ...d.stocks, ...changes } }), word('build.in', { name, stock: nameOf(stock) }))
		);
	}
</script>

<h3>{word('build.stock')}</h3>
<StockChoice
	label={word('build.all-panels')}
	{stocks}
	value={all}
	onchoose={(v) =>
		choose(
			roles.map((r) => r.id),
			word('build.everything'),
			v
		)}
/>
{#each roles as role (role.id)}
	<StockChoice label={role.label} {stocks} value={design.stocks[role.id] ?? ''} onchoose={(v) => choose([role.id], role.label, v)} />
{/each}{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
