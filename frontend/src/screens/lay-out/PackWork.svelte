<!-- A packing under way: the best so far, as it grew, and stopping with it. -->
<script lang="ts">
	import type { LayoutOut } from '../../api/types';
	import JobNote from '../../lib/ui/JobNote.svelte';
	import { word } from '../../words/words';

	let {
		job,
		seconds,
		onstop
	}: {
		job: LayoutOut['job'];
		/** that it may take, until it says so itself */
		seconds: number;
		onstop: () => Promise<void>;
	} = $props();
	const trace = $derived((job?.progress.trace as [number, number][] | undefined) ?? []);
	const total = $derived(Number(job?.progress.seconds ?? seconds));
	const path = $derived(
		trace.map(([t, u], i) => `${i ? 'L' : 'M'}${(t / Math.max(total, 0.1)) * 250} ${40 - u * 38}`).join('') + (trace.length ? 'H250' : '')
	);
</script>

<JobNote
	{job}
	doing={trace.length
		? word('lay-out.best-so-far', { trace: ((trace[trace.length - 1]?.[1] ?? 0) * 100).toFixed(1) })
		: word('lay-out.packing')}
	stop={word('lay-out.stop-keep-the-best')}
	{onstop}
>
	<svg class="trace" viewBox="0 0 250 44" aria-hidden="true"
		><path d="M0 43H250" stroke="var(--rule)" /><path d={path} fill="none" stroke="var(--good)" stroke-width="2" /></svg
	>
</JobNote>

<style>
	.trace {
		display: block;
		margin: 6px 0;
	}
</style>
