<!-- Rows of a long list: only those near what is seen are on the page; the rest keep their room. -->
<script lang="ts" generics="T">
	import { createVirtualizer, defaultRangeExtractor } from '@tanstack/svelte-virtual';
	import { untrack, type Snippet } from 'svelte';

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

	const SOME = 40; // a list no longer than that is whole
	const NEAR = 16; // rows above and below what is seen

	const whole = $derived(items.length <= SOME);
	let list = $state<HTMLElement>();
	let above = $state(0); // what stands over the list in its scroller [px]
	let held = -1; // the row that has the focus stays on the page
	const rows = createVirtualizer<HTMLElement, HTMLElement>({ count: 0, getScrollElement: () => null, estimateSize: () => height });

	$effect(() => {
		const scroller = list?.closest<HTMLElement>('.side');
		if (whole || !scroller) return;
		const place = () => {
			const off = list!.getBoundingClientRect().top - scroller.getBoundingClientRect().top + scroller.scrollTop;
			if (Math.abs(off - above) > 1) above = off;
		};
		untrack(place);
		scroller.addEventListener('scroll', place, { passive: true });
		return () => scroller.removeEventListener('scroll', place);
	});
	$effect(() => {
		const scroller = list?.closest<HTMLElement>('.side') ?? null;
		const options = {
			count: whole ? 0 : items.length,
			getScrollElement: () => scroller,
			estimateSize: () => height,
			getItemKey: (i: number) => key(items[i]!),
			overscan: NEAR,
			scrollMargin: above,
			rangeExtractor: (range: Parameters<typeof defaultRangeExtractor>[0]) => {
				const near = defaultRangeExtractor(range);
				return held < 0 || held >= items.length || near.includes(held) ? near : [...near, held].sort((a, b) => a - b);
			}
		};
		untrack(() => $rows.setOptions(options));
	});
	$effect(() => {
		if (at < 0) return;
		if (whole) untrack(() => list?.children[at]?.scrollIntoView?.({ block: 'nearest' }));
		else untrack(() => $rows.scrollToIndex(at, { align: 'auto' }));
	});
	const focused = (event: FocusEvent) => {
		const its = (event.target as HTMLElement).closest<HTMLElement>('[data-index]');
		held = event.type === 'focusin' && its ? Number(its.dataset.index) : -1;
	};
</script>

{#if whole}
	<div bind:this={list}>
		{#each items as item (key(item))}<div>{@render row(item)}</div>{/each}
	</div>
{:else}
	<div bind:this={list} onfocusin={focused} onfocusout={focused} style:height="{$rows.getTotalSize()}px" class="long">
		{#each $rows.getVirtualItems() as v (v.key)}
			<div data-index={v.index} style:top="{v.start - above}px" {@attach (node) => $rows.measureElement(node as HTMLElement)}>
				{@render row(items[v.index]!)}
			</div>
		{/each}
	</div>
{/if}

<style>
	.long {
		position: relative;
	}
	.long > div {
		position: absolute;
		left: 0;
		right: 0;
	}
</style>
