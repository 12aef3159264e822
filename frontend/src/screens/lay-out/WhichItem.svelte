<!-- What is packed: everything, one item of the project alone, or what was missing of it. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import { word } from '../../words/words';
	import { itemsOf, onlyOf } from './tray';

	let {
		out,
		request,
		onchange
	}: { out: LayoutOut; request: LayoutOut['request']; onchange: (only: LayoutOut['request']['only']) => void } = $props();
	const id = $props.id();
	const items = $derived(itemsOf(out.parts));
	const asked = $derived(Object.keys(request.only ?? {}));
	const chosen = $derived(items.find((i) => asked.length === i.parts.length && i.parts.every((p) => asked.includes(p))));
	function choose(of: string) {
		const item = items.find((i) => `item ${i.id}` === of);
		onchange(item ? onlyOf(out, request, item.parts) : {});
	}
</script>

{#if items.length}
	<div class="pair">
		<label for="{id}what">{word('lay-out.what-is-packed')}</label>
		<select id="{id}what" class="select" value={chosen ? `item ${chosen.id}` : ''} onchange={(e) => choose(e.currentTarget.value)}>
			<option value="">{asked.length && !chosen ? word('lay-out.some-parts') : word('lay-out.everything')}</option>
			{#each items as i (i.id)}<option value="item {i.id}">{word('lay-out.only-item', { label: i.label })}</option>{/each}
		</select>
	</div>
{/if}
{#if asked.length && !chosen}
	<div class="note">
		{word('lay-out.only-some-parts', { only: asked.length })}
		<button class="btn" onclick={() => onchange({})}>{word('lay-out.pack-all-parts-again')}</button>
	</div>
{/if}
