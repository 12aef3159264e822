<!-- What is left of a sheet after a run: each piece is put on the shelf or not. -->
<script lang="ts">
	import type { RunOut } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { ringPath } from '../../lib/mat/outlines';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { remains, kept = $bindable() }: { remains: RunOut['remains']; kept: number[] } = $props();
</script>

<h3>{word('run.what-stays-of-the-sheet')}</h3>
{#each remains as r, k (k)}
	<label class="left">
		<input
			type="checkbox"
			checked={kept.includes(k)}
			onchange={(e) => (kept = e.currentTarget.checked ? [...kept, k] : kept.filter((x) => x !== k))}
		/>
		<svg viewBox="0 0 {r.width} {r.height}" aria-hidden="true"
			><path
				d={[r.outline, ...r.bad].map((ring) => ringPath(ring as number[][])).join('')}
				transform="translate(0 {r.height}) scale(1 -1)"
			/></svg
		>
		<span>{word('run.onto-the-shelf', { width: show(r.width, session.unit), height: show(r.height, session.unit) })}</span>
	</label>
{/each}

<style>
	.left {
		display: flex;
		gap: 7px;
		align-items: center;
	}
	.left svg {
		width: 46px;
		height: 32px;
		flex: none;
	}
	.left path {
		fill: #d8b77c;
		fill-rule: evenodd;
		stroke: var(--ink-2);
		vector-effect: non-scaling-stroke;
	}
</style>
