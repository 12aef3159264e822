<!-- Every joint as a dot on the band of feels, with how sure it is; many at one place as a heap with their number. -->
<script lang="ts">
	import type { Boundaries, CheckOut, Meeting } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { FEELS, onBand } from '../../lib/ui/feels';
	import { signed } from '../../lib/units/units';
	import { dotsOf, heapsOf, RISE, spotsTogether } from './heaps';
	import { word } from '../../words/words';

	type MeetingChances = NonNullable<CheckOut['result']>['chances'][number];
	let {
		chances,
		boundaries,
		meetings,
		names,
		expected,
		tried = false,
		onpick
	}: {
		chances: readonly MeetingChances[];
		boundaries: Record<string, Boundaries>;
		meetings: Meeting[];
		names: Map<string, string>;
		expected: number;
		/** what is shown is tried on screen, not believed */
		tried?: boolean;
		onpick: (meeting: Meeting) => void;
	} = $props();
	const W = 1000;
	const by = $derived(new Map(meetings.map((m) => [m.id, m])));
	const spots = $derived(
		chances.flatMap((o) => {
			const [m, b] = [by.get(o.meeting), boundaries[o.meeting]];
			if (!m || !b) return [];
			const at = (clearance: number) => onBand(clearance, b) * W;
			const { clearance, sd } = o.chances;
			return [{ o, m, x: at(clearance), from: at(clearance + sd), to: at(clearance - sd) }];
		})
	);
	const places = $derived(spotsTogether(spots));
	const dots = $derived(dotsOf(places));
	const heaps = $derived(heapsOf(places).map((h) => ({ ...h, worst: h.spots.reduce((w, s) => (s.o.rework > w.o.rework ? s : w)) })));
	let told = $state('');
	/** The joints that most likely need rework, the worst first. */
	const riskiest = $derived(
		spots
			.filter((s) => s.o.rework > 0.02)
			.sort((a, b) => b.o.rework - a.o.rework)
			.slice(0, 2)
	);
	let end = 0;
	const marks = FEELS.map((f) => ({ ...f, x: (end += f.width * W) - f.width * W, w: f.width * W }));
</script>

<div class="strip">
	<div class="head">
		<span>{tried ? word('dry-fit.how-they-would-feel') : word('dry-fit.how-the-joints-will-feel')}</span>
		<span class="worst"
			>{#each riskiest as r (r.o.meeting)}<button onclick={() => onpick(r.m)}
					>{word('dry-fit.with', { a: names.get(r.m.a), b: names.get(r.m.b) })} <b>{(r.o.rework * 100).toFixed(0)} %</b></button
				>{/each}</span
		><span>{told || word('dry-fit.joints-about-to-rework', { chances: chances.length, expected: expected.toFixed(1) })}</span>
	</div>
	<svg viewBox="-4 -56 {W + 8} 84" role="group" aria-label={word('dry-fit.fit-strip')}>
		{#each marks as f (f.key)}
			<rect x={f.x} y="0" width={f.w} height="10" fill={f.colour} />
			<text x={f.x + f.w / 2} y="24">{f.name}</text>
		{/each}
		{#each dots as d (d.o.meeting)}
			<path d="M{d.from} {-9 - d.level * RISE}H{d.to}" stroke="var(--ink-2)" stroke-width="1.2" opacity="0.35" />
			<circle
				cx={d.x}
				cy={-9 - d.level * RISE}
				r="5"
				tabindex="0"
				role="button"
				aria-label={word('dry-fit.with', { a: names.get(d.m.a), b: names.get(d.m.b) })}
				fill={d.o.rework > 0.15 ? 'var(--warn)' : 'var(--ink)'}
				onmouseenter={() =>
					(told = word('dry-fit.with-to-rework', {
						a: names.get(d.m.a),
						b: names.get(d.m.b),
						clearance: signed(d.o.chances.clearance, session.unit),
						rework: (d.o.rework * 100).toFixed(0)
					}))}
				onmouseleave={() => (told = '')}
				onfocus={() => onpick(d.m)}
				onclick={() => onpick(d.m)}
				onkeydown={(e) => e.key === 'Enter' && onpick(d.m)}
			/>
		{/each}
		{#each heaps as h (h.x)}
			<path d="M{h.from} -27H{h.to}" stroke="var(--ink-2)" stroke-width="1.2" opacity="0.35" />
			<g
				class="heap"
				tabindex="0"
				role="button"
				aria-label={word('dry-fit.joints-2', { n: h.n })}
				onmouseenter={() =>
					(told = word('dry-fit.joints-the-riskiest-with-to-rework', {
						n: h.n,
						a: names.get(h.worst.m.a),
						b: names.get(h.worst.m.b),
						rework: (h.worst.o.rework * 100).toFixed(0)
					}))}
				onmouseleave={() => (told = '')}
				onfocus={() => onpick(h.worst.m)}
				onclick={() => onpick(h.worst.m)}
				onkeydown={(e) => e.key === 'Enter' && onpick(h.worst.m)}
			>
				<rect x={h.x - 5} y="-50" width="10" height="46" rx="5" fill={h.worst.o.rework > 0.15 ? 'var(--warn)' : 'var(--ink)'} />
				<text x={h.x + 10} y="-37" class="many">× {h.n}</text>
			</g>
		{/each}
	</svg>
</div>

<style>
	svg {
		display: block;
		width: 100%;
		max-height: 116px;
		padding: 0 14px 6px;
	}
	.head {
		gap: 18px;
	}
	.worst {
		display: flex;
		gap: 14px;
		margin-left: auto;
	}
	.worst button:hover {
		text-decoration: underline;
	}
	text {
		font-size: 12px;
		text-anchor: middle;
		fill: var(--ink-2);
	}
	.many {
		text-anchor: start;
		fill: var(--ink);
	}
	circle,
	.heap {
		cursor: pointer;
	}
</style>
