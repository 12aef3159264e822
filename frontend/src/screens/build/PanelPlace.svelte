<!-- Where a panel stands: how far it is moved along the world's axes, and how it is tilted about its middle. -->
<script lang="ts">
	import type { PanelEdit, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import { AXES, nextSnap, type Axis } from './moves';
	import { word } from '../../words/words';

	let { build, part, onproblem }: { build: BuildState; part: PartOut; onproblem: (told: string) => void } = $props();
	const work = useProject();
	const edit = $derived(work.design.edits?.[part.panel]);
	const move = $derived((edit?.move ?? [0, 0, 0]) as unknown as number[]);
	const UPRIGHT = { tip: 0, swing: 0, spin: 0 };
	const TILTS = [
		{ key: 'tip', name: word('build.tipped'), said: (v: number) => word('build.tipped-by', { v }) },
		{ key: 'swing', name: word('build.swung'), said: (v: number) => word('build.swung-by', { v }) },
		{ key: 'spin', name: word('build.turned-in-its-plane'), said: (v: number) => word('build.turned-by', { v }) }
	] as const;

	const save = (change: (before: PanelEdit) => Partial<PanelEdit>, label: string) =>
		work.editPanels([part.panel], change, `${part.label} ${label}`);
	/** Move along one axis; what was moved meanwhile along the others stays. */
	const place = (axis: Axis, to: (from: number) => number, label: string) => {
		const moved = (from: unknown) => (from as number[]).map((v, i) => (i === axis ? to(v) : v)) as unknown as PanelEdit['move'];
		return save((before) => ({ move: moved(before.move) }), label);
	};
	const tilt = (key: (typeof TILTS)[number]['key'], degrees: number, label: string) =>
		save((before) => ({ tilt: { ...UPRIGHT, ...before.tilt, [key]: degrees } }), label);
	async function snap(axis: Axis, forward: boolean) {
		const by = nextSnap(part, build.out!.parts, axis, forward);
		onproblem(by === null ? word('build.there-is-no-face-to-snap') : '');
		if (by === null) return;
		try {
			await place(axis, (from) => from + by, word('build.moved-to-the-next-face'));
		} catch (e) {
			onproblem((e as Error).message);
		}
	}
</script>

<h3>{word('build.moved-2')}</h3>
{#each AXES as a (a.id)}
	<div class="axis">
		<NumberField
			label={a.name}
			unit={session.unit}
			value={move[a.axis]!}
			oncommit={(mm) => place(a.axis, () => mm, word('build.moved-3', { mm: show(mm, session.unit), name: a.name }))}
		/>
		<button
			class="step"
			aria-label={word('build.snap-back', { name: a.name })}
			title={word('build.to-the-face-before')}
			onclick={() => snap(a.axis, false)}>◂</button
		>
		<button
			class="step"
			aria-label={word('build.snap-on', { name: a.name })}
			title={word('build.to-the-next-face')}
			onclick={() => snap(a.axis, true)}>▸</button
		>
	</div>
{/each}

<h3>{word('build.tilted-about-its-middle')}</h3>
{#each TILTS as t (t.key)}
	<NumberField label={t.name} kind="number" suffix="°" value={edit?.tilt?.[t.key] ?? 0} oncommit={(v) => tilt(t.key, v, t.said(v))} />
{/each}
<p class="quiet">{word('build.upper-and-right-are-those-of')}</p>

<style>
	.axis {
		display: grid;
		grid-template-columns: 1fr auto auto;
		gap: 3px;
		align-items: center;
	}
	.step {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 3px 7px;
	}
	.step:hover {
		background: var(--pick);
	}
</style>
