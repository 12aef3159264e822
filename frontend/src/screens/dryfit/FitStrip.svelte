<!-- Every joint as a dot on the band of feels, with how sure it is. -->
<script lang="ts">
	import type { Boundaries, CheckOut, Meeting } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import { FEELS, onBand } from '../../lib/ui/feels';
	import { signed } from '../../lib/units/units';

	type MeetingOdds = NonNullable<CheckOut['result']>['odds'][number];
	let {
		odds,
		boundaries,
		meetings,
		names,
		expected,
		tried = false,
		onpick
	}: {
		odds: readonly MeetingOdds[];
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
	/** Dots at the same place stand above each other. */
	const dots = $derived.by(() => {
		const stacked = new Map<number, number>();
		return odds.flatMap((o) => {
			const [m, b] = [by.get(o.meeting), boundaries[o.meeting]];
			if (!m || !b) return [];
			const x = onBand(o.odds.clearance, b) * W;
			const [from, to] = [onBand(o.odds.clearance + o.odds.sd, b) * W, onBand(o.odds.clearance - o.odds.sd, b) * W];
			const key = Math.round(x / 14);
			const level = stacked.get(key) ?? 0;
			stacked.set(key, level + 1);
			return [{ o, m, x: x + Math.floor(level / 4) * 14, level: level % 4, from, to }];
		});
	});
	let told = $state('');
	/** The joints that most likely need rework, the worst first. */
	const riskiest = $derived(
		dots
			.filter((d) => d.o.rework > 0.02)
			.sort((a, b) => b.o.rework - a.o.rework)
			.slice(0, 2)
	);
	const marks = $derived.by(() => {
		let x = 0;
		return FEELS.map((f) => ({ ...f, x: (x += f.width * W) - f.width * W, w: f.width * W }));
	});
</script>

<div class="strip">
	<div class="head">
		<span>{tried ? 'How they would feel' : 'How the joints will feel'}</span>
		<span class="worst"
			>{#each riskiest as r (r.o.meeting)}<button onclick={() => onpick(r.m)}
					>{names.get(r.m.a)} with {names.get(r.m.b)} <b>{(r.o.rework * 100).toFixed(0)} %</b></button
				>{/each}</span
		><span>{told || `${odds.length} joints · about ${expected.toFixed(1)} to rework`}</span>
	</div>
	<svg viewBox="-4 -56 {W + 8} 84" role="group" aria-label="Fit strip">
		{#each marks as f (f.key)}
			<rect x={f.x} y="0" width={f.w} height="10" fill={f.colour} />
			<text x={f.x + f.w / 2} y="24">{f.name}</text>
		{/each}
		{#each dots as d (d.o.meeting)}
			<path d="M{d.from} {-9 - d.level * 12}H{d.to}" stroke="var(--ink-2)" stroke-width="1.2" opacity="0.35" />
			<circle
				cx={d.x}
				cy={-9 - d.level * 12}
				r="5"
				tabindex="0"
				role="button"
				aria-label="{names.get(d.m.a)} with {names.get(d.m.b)}"
				fill={d.o.rework > 0.15 ? 'var(--warn)' : 'var(--ink)'}
				onmouseenter={() =>
					(told = `${names.get(d.m.a)} with ${names.get(d.m.b)}: ${signed(d.o.odds.clearance, session.unit)}, to rework ${(d.o.rework * 100).toFixed(0)} %`)}
				onmouseleave={() => (told = '')}
				onfocus={() => onpick(d.m)}
				onclick={() => onpick(d.m)}
				onkeydown={(e) => e.key === 'Enter' && onpick(d.m)}
			/>
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
	circle {
		cursor: pointer;
	}
</style>
