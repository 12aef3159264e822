<!-- The sizes that a person keeps in view, on the mat: a click asks why, the cross lets go. -->
<script lang="ts">
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { show, unitName } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import { word } from '../../words/words';

	let { build }: { build: BuildState } = $props();
	const work = useProject();
	const pins = $derived(build.out?.pins ?? []);
	const drop = (p: (typeof pins)[number]) =>
		void work.togglePin(p.pin, `${p.part_label}, ${p.label}`).catch((e: Error) => (build.problem = e.message));
</script>

{#if pins.length}
	<section class="pins" aria-label={word('build.sizes-in-view')}>
		{#each pins as p (p.pin.part + p.pin.what)}
			<button
				class="size"
				aria-label="{p.part_label}, {p.label} {show(p.finished, session.unit, true)}"
				onclick={() => void build.pickPin(p.pin)}
				><span>{p.part_label}, {p.label} </span><span class="fig">{show(p.finished, session.unit, true)}</span></button
			>
			<button class="drop" aria-label={word('build.let-go-of', { partlabel: p.part_label, label: p.label })} onclick={() => drop(p)}
				>×</button
			>
		{/each}
		<small>{word('build.finished', { size: unitName(session.unit) })}</small>
	</section>
{/if}

<style>
	.pins {
		position: absolute;
		right: 14px;
		top: 12px;
		display: grid;
		grid-template-columns: auto auto;
		gap: 1px 6px;
		max-height: 60%;
		overflow: auto;
		color: var(--mat-ink);
		background: rgba(18, 54, 47, 0.85);
		padding: 5px 9px;
		border-radius: 4px;
		font-size: 12.5px;
	}
	.size {
		display: flex;
		gap: 14px;
		justify-content: space-between;
	}
	.size:hover,
	.drop:hover {
		color: #fff;
		text-decoration: underline;
	}
	.fig {
		color: #fff;
	}
	small {
		grid-column: 1 / -1;
		text-align: right;
		opacity: 0.8;
	}
</style>
