<!-- Rows of a long list: only those near what is seen are on the page; the rest keep their room. -->
<script lang="ts" generics="T">
	import type { Snippet } from 'svelte';

	let {
		items,
		key,
		height,
		at = -1,
		row
	}: {
		items: readonly T[];
		key: (item: T) => string;
		/** of a row that was not shown yet [px] */
		height: number;
		/** the row to bring into view when it is another than before; -1: none */
		at?: number;
		row: Snippet<[T]>;
	} = $props();

	const SOME = 40; // rows that come and go together; a list no longer than that is whole
	const NEAR = '500px'; // above and below what is seen

	const blocks = $derived(Array.from({ length: Math.ceil(items.length / SOME) }, (_, i) => items.slice(i * SOME, (i + 1) * SOME)));
	const count = $derived(blocks.length);
	const whole = $derived(count < 2);
	let near = $state.raw<ReadonlySet<number>>(new Set());
	let nodes = $state<HTMLElement[]>([]);
	const heights: number[] = [];
	const scroller = () => nodes[0]?.closest<HTMLElement>('.side') ?? null;

	$effect(() => {
		if (whole) return;
		const seen = new IntersectionObserver(
			(changes) => {
				const next = new Set(near);
				for (const { target, isIntersecting } of changes) {
					const i = nodes.indexOf(target as HTMLElement);
					if (isIntersecting) next.add(i);
					else if (next.has(i) && !target.contains(document.activeElement)) {
						heights[i] = (target as HTMLElement).offsetHeight;
						next.delete(i);
					}
				}
				near = next;
			},
			{ root: scroller(), rootMargin: NEAR }
		);
		for (let i = 0; i < count; i++) seen.observe(nodes[i]!);
		return () => seen.disconnect();
	});

	$effect(() => {
		const block = nodes[Math.floor(at / SOME)];
		const list = scroller();
		if (!block || !list) return;
		const one = block.children[at % SOME];
		if (one) return one.scrollIntoView?.({ block: 'nearest' });
		list.scrollTop += block.getBoundingClientRect().top - list.getBoundingClientRect().top + (at % SOME) * height - list.clientHeight / 2;
	});
</script>

{#each blocks as block, i (i)}
	<div bind:this={nodes[i]} style:height={whole || near.has(i) ? null : `${heights[i] ?? block.length * height}px`}>
		{#if whole || near.has(i)}{#each block as item (key(item))}{@render row(item)}{/each}{/if}
	</div>
{/each}
