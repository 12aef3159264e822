<!-- Lining up with a panel: ends, middles, or face on face, along one axis. -->
<script lang="ts">
	import { word } from '../../words/words';
	import { ENDS } from './added';
	import { AXES, type Axis, type LineUp } from './moves';

	let { heading, onchoose }: { heading: string; onchoose: (axis: Axis, how: LineUp) => void } = $props();
	const WAYS: { how: LineUp; name: (axis: Axis) => string }[] = [
		{ how: 'low', name: (axis) => ENDS[axis]![0] },
		{ how: 'middle', name: () => word('build.line-up-middles') },
		{ how: 'high', name: (axis) => ENDS[axis]![1] },
		{ how: 'beside', name: () => word('build.line-up-face-to-face') }
	];
	const AXIS_NAMES = [word('build.line-up-x'), word('build.line-up-y'), word('build.line-up-z')];
</script>

<h3>{heading}</h3>
<div class="ways">
	{#each AXES as a (a.id)}
		<span class="quiet">{AXIS_NAMES[a.axis]}</span>
		{#each WAYS as w (w.how)}
			<button
				class="btn"
				aria-label={word('build.line-up-by', { how: w.name(a.axis), axis: AXIS_NAMES[a.axis] })}
				onclick={() => onchoose(a.axis, w.how)}>{w.name(a.axis)}</button
			>
		{/each}
	{/each}
</div>

<style>
	.ways {
		display: grid;
		grid-template-columns: repeat(4, minmax(0, 1fr));
		gap: 3px;
	}
	.ways span {
		grid-column: 1 / -1;
	}
	.ways .btn {
		padding: 3px 2px;
		font-size: 12px;
		line-height: 1.15;
	}
</style>
