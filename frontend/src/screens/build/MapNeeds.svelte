<!-- What the map of a set of tiles takes of everything, beside what there is to be and what is cut already. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { WishCount } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { word } from '../../words/words';
	import { asMapped, type PieceAt, type Sort } from './tilemap';

	let { needs }: { needs: readonly WishCount[] } = $props();
	const work = useProject();
	const attempt = new Attempt();

	/** pieces that are cut and serve, by part */
	let good = $state.raw<Record<string, number>>({});
	$effect(() => {
		void work.version;
		if (!needs.length) return;
		need(api.GET('/api/projects/{project_id}/recut', { params: { path: { project_id: work.id } } }))
			.then((out) => (good = Object.fromEntries(out.rows.map((r) => [r.part, r.good]))))
			.catch(() => {}); // what was known of it stays
	});
	const cutOf = (n: WishCount) => {
		const each = n.parts.map((p) => good[p] ?? 0);
		return n.each ? Math.min(...each) : each.reduce((a, b) => a + b, 0);
	};
	const differs = $derived(needs.some((n) => n.wished > 0 && n.wished !== n.there));
	const LEAST_WALLS = 2; // one of each stands on every tile that is shown
	const take = () =>
		attempt.at(() =>
			work.save((d) => {
				const v = d.numbers as unknown as { pieces: Sort[]; pieces_at: PieceAt[] };
				const [tiles, full, short] = needs.map((n) => n.wished);
				const counts = { tiles, full: Math.max(full!, LEAST_WALLS), short: Math.max(short!, LEAST_WALLS) };
				return { ...d, numbers: { ...d.numbers, ...counts, pieces: asMapped(v.pieces, v.pieces_at) } as never };
			}, word('build.counts-of-the-map'))
		);
</script>

<h3>{word('build.map-heading')}</h3>
{#if needs.length}
	<table>
		<thead
			><tr><th></th><th>{word('build.map-takes')}</th><th>{word('build.map-in-the-set')}</th><th>{word('build.map-cut')}</th></tr></thead
		>
		<tbody>
			{#each needs as n (n.label)}
				<tr class:lacks={n.wished > n.there}
					><td>{n.label}</td><td class="fig">{n.wished}</td><td class="fig">{n.there}</td><td class="fig">{cutOf(n)}</td></tr
				>
			{/each}
		</tbody>
	</table>
	<button class="btn" disabled={!differs || attempt.busy} onclick={() => void take()}>{word('build.make-as-many')}</button>
{:else}<p class="quiet">{word('build.map-not-begun')}</p>{/if}
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<style>
	table {
		width: 100%;
		font-size: 13px;
		margin-bottom: 6px;
	}
	th {
		font-weight: 500;
		color: var(--ink-2);
		text-align: right;
		font-size: 12px;
	}
	td.fig {
		text-align: right;
	}
	.lacks td:nth-child(3) {
		color: #b83200;
		font-weight: 600;
	}
	:global(.dark) .lacks td:nth-child(3) {
		color: #ffb199;
	}
</style>
