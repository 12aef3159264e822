<!-- Lining picked panels up with the first of them: ends, middles, or face on face, along one axis. -->
<script lang="ts">
	import type { PanelEdit, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { word } from '../../words/words';
	import { ENDS } from './added';
	import { AXES, type Axis, type LineUp, lineUp } from './moves';

	let { parts, onproblem }: { /** the first stays where it is */ parts: PartOut[]; onproblem: (message: string) => void } = $props();
	const work = useProject();
	const first = $derived(parts[0]!);
	const WAYS: { how: LineUp; name: (axis: Axis) => string }[] = [
		{ how: 'low', name: (axis) => ENDS[axis]![0] },
		{ how: 'middle', name: () => word('build.line-up-middles') },
		{ how: 'high', name: (axis) => ENDS[axis]![1] },
		{ how: 'beside', name: () => word('build.line-up-face-to-face') }
	];
	const AXIS_NAMES = [word('build.line-up-x'), word('build.line-up-y'), word('build.line-up-z')];
	function go(axis: Axis, how: LineUp) {
		const rest = parts.slice(1).filter((p, i, all) => p.panel !== first.panel && all.findIndex((q) => q.panel === p.panel) === i);
		const by = new Map(rest.map((p) => [p.panel, lineUp(p, first, axis, how)]));
		const names = rest.map((p) => p.label).join(', ');
		const moved = (before: PanelEdit, panel: string) =>
			(before.move as unknown as number[]).map((v, i) => (i === axis ? v + by.get(panel)! : v));
		work
			.editPanels(
				[...by.keys()],
				(before, panel) => ({ move: moved(before, panel) as never }),
				word('build.lined-up', { names, label: first.label })
			)
			.catch((e: Error) => onproblem(e.message));
	}
</script>

<h3>{word('build.line-up-with', { label: first.label })}</h3>
<div class="ways">
	{#each AXES as a (a.id)}
		<span class="quiet">{AXIS_NAMES[a.axis]}</span>
		{#each WAYS as w (w.how)}
			<button
				class="btn"
				aria-label={word('build.line-up-by', { how: w.name(a.axis), axis: AXIS_NAMES[a.axis] })}
				onclick={() => go(a.axis, w.how)}>{w.name(a.axis)}</button
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
