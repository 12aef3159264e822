<!-- The lines in which added panels stand on the flat panel, dragged by their ends and middles, or moved with the arrow keys. -->
<script lang="ts">
	import type { Added, Design, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import { dragged, feetOn, type Foot, type Grip } from './feet';

	let {
		build,
		part,
		back,
		scale,
		onproblem
	}: { build: BuildState; part: PartOut; back: boolean; scale: number; onproblem: (message: string) => void } = $props();
	const work = useProject();
	const attempt = new Attempt();
	const feet = $derived(feetOn(part, build.out?.parts ?? [], (work.design.added ?? []) as Added[]));
	const STEP = $derived(session.unit === 'mm' ? 1 : 25.4 / 16);
	/** what is dragged, and how far */
	let drag = $state.raw<{ foot: Foot; grip: Grip; from: [number, number]; by: number } | null>(null);

	const NAMES = {
		low: word('build.foot-end'),
		high: word('build.foot-other-end'),
		whole: word('build.foot-middle')
	};
	const flip = $derived(back ? -1 : 1);
	/** As far as it is dragged, to whole steps. */
	function pulled(event: PointerEvent) {
		if (!drag) return;
		const [dx, dy] = [(event.clientX - drag.from[0]) / scale, -(event.clientY - drag.from[1]) / scale];
		const by = flip * dx * drag.foot.way[0] + dy * drag.foot.way[1];
		drag = { ...drag, by: Math.round(by / STEP) * STEP };
	}
	async function keep(foot: Foot, grip: Grip, by: number) {
		if (!by) return;
		const changed = (d: Design) => ({ ...d, added: (d.added ?? []).map((a) => (a.id === foot.id ? dragged(a as Added, grip, by) : a)) });
		await attempt.at(() => work.save(changed, word('build.foot-moved', { label: foot.label, by: show(by, session.unit) })));
		if (attempt.problem) onproblem(attempt.problem);
	}
	async function dropped() {
		const now = drag;
		if (now) await keep(now.foot, now.grip, now.by);
		if (drag === now) drag = null;
	}
	function key(event: KeyboardEvent, foot: Foot, grip: Grip) {
		const to = ({ ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] } as Record<string, [number, number]>)[
			event.key
		];
		const along = to ? flip * to[0] * foot.way[0] + to[1] * foot.way[1] : 0;
		if (Math.abs(along) < 0.5) return;
		event.preventDefault();
		event.stopPropagation();
		void keep(foot, grip, Math.sign(along) * STEP);
	}
	/** An end of a foot, or its middle, as it is while it is dragged. */
	function place(foot: Foot, at: [number, number], moves: boolean): [number, number] {
		const by = drag?.foot.id === foot.id && moves ? drag.by : 0;
		return [flip * (at[0] + by * foot.way[0]), at[1] + by * foot.way[1]];
	}
	const moves = (end: 'low' | 'high' | 'whole') => drag?.grip.which === 'whole' || drag?.grip.which === end;
</script>

{#each feet as foot (foot.id)}
	{@const [p, q] = [place(foot, foot.line[0], moves('low')), place(foot, foot.line[1], moves('high'))]}
	<path class="foot" class:pulled={drag?.foot.id === foot.id} d="M{p[0]} {p[1]}L{q[0]} {q[1]}" stroke-width={2 / scale} />
	{#each foot.grips as grip (grip.which)}
		{@const at = grip.which === 'low' ? p : grip.which === 'high' ? q : [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
		<circle
			class="grip"
			role="application"
			tabindex="0"
			aria-label={word('build.foot-grip', { label: foot.label, which: NAMES[grip.which] })}
			cx={at[0]}
			cy={at[1]}
			r={7 / scale}
			stroke-width={1.5 / scale}
			onpointerdown={(e) => {
				e.stopPropagation();
				e.currentTarget.setPointerCapture(e.pointerId);
				drag = { foot, grip, from: [e.clientX, e.clientY], by: 0 };
			}}
			onpointermove={pulled}
			onpointerup={() => void dropped()}
			onpointercancel={() => (drag = null)}
			onkeydown={(e) => key(e, foot, grip)}
			><title>{word('build.foot-grip', { label: foot.label, which: NAMES[grip.which] })}</title></circle
		>
	{/each}
	{#if drag?.foot.id === foot.id}
		<g transform="translate({q[0]} {q[1]}) scale({1 / scale} {-1 / scale})"
			><text dx="12" dy="4">{show(drag.by, session.unit, true)}</text></g
		>
	{/if}
{/each}

<style>
	.foot {
		stroke: #fff;
		fill: none;
		opacity: 0.75;
		pointer-events: none;
	}
	.foot.pulled {
		stroke: #b83200;
		opacity: 1;
	}
	.grip {
		fill: #fff;
		stroke: #12362f;
		cursor: grab;
		touch-action: none;
	}
	.grip:focus-visible {
		outline: none;
		stroke: #d9480f;
	}
	text {
		font: 13px var(--font-mono);
		fill: #fff;
		paint-order: stroke;
		stroke: #12362f;
		stroke-width: 3px;
		text-anchor: middle;
	}
</style>
