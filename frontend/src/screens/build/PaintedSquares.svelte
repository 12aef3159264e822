<!-- The squares of an inlaid board, to be painted with their kinds: drag over them, or walk with the arrow keys and press 1 to 4. -->
<script lang="ts">
	import type { Values } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import { word } from '../../words/words';
	import { asPainted, MOST_KINDS, painting, type Painted, stepped } from './painted';

	let { values, colours }: { values: Values; colours: Record<string, string> } = $props();
	const work = useProject();
	const attempt = new Attempt();
	const rows = $derived(Number(values.rows));
	const columns = $derived(Number(values.columns));
	const kept = $derived(asPainted((values.painted ?? []) as unknown as Painted, rows, columns));
	/** what is being painted, until it is kept */
	let stroke = $state.raw<number[][] | null>(null);
	let kind = $state('1');
	let at = $state.raw<[number, number]>([0, 0]);
	const board = $derived(stroke ?? kept);
	const kinds = Array.from({ length: MOST_KINDS }, (_, k) => ({ value: `${k + 1}`, name: `${k + 1}` }));
	const colourOf = (k: number) => colours[work.design.stocks[`squares_${k + 1}`] ?? ''] ?? '#ddd';

	function paint(event: PointerEvent) {
		const cell = document.elementFromPoint(event.clientX, event.clientY)?.getAttribute('data-square')?.split(' ').map(Number);
		if (!cell) return;
		at = [cell[0]!, cell[1]!];
		stroke = painting(stroke ?? kept, at[0], at[1], Number(kind) - 1);
	}
	async function keep() {
		const painted = stroke;
		if (painted && painted !== kept) await attempt.at(() => work.setNumbers({ painted }, word('build.squares-painted')));
		if (stroke === painted) stroke = null;
	}
	function key(event: KeyboardEvent) {
		const to = stepped(at, event.key, rows, columns);
		const painted = Number(event.key);
		if (to) at = to;
		else if (painted >= 1 && painted <= MOST_KINDS) {
			kind = event.key;
			stroke = painting(board, at[0], at[1], painted - 1);
			void keep();
		} else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<p class="quiet">{word('build.paint-with-kind')}</p>
<Choice label={word('build.paint-with-kind')} options={kinds} value={kind} onchoose={(k) => (kind = k)} />
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions (a board that is painted) -->
<svg
	viewBox="0 0 {columns} {rows}"
	style:aspect-ratio="{columns} / {rows}"
	role="application"
	tabindex="0"
	aria-label={word('build.squares-to-paint', {
		row: at[0] + 1,
		column: at[1] + 1,
		kind: board[at[0]]?.[at[1]] === undefined ? '' : board[at[0]]![at[1]]! + 1
	})}
	onkeydown={key}
	onpointerdown={(e) => {
		e.currentTarget.setPointerCapture(e.pointerId);
		paint(e);
	}}
	onpointermove={(e) => e.buttons && paint(e)}
	onpointerup={() => void keep()}
	onpointercancel={() => (stroke = null)}
>
	{#each board as line, r (r)}{#each line as k, c (c)}
			<rect data-square="{r} {c}" x={c} y={rows - 1 - r} width="1" height="1" fill={colourOf(k)} class:at={at[0] === r && at[1] === c} />
		{/each}{/each}
</svg>
<p class="quiet">{word('build.drag-over-squares-or-press')}</p>
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<style>
	svg {
		display: block;
		width: 100%;
		max-height: 260px;
		margin: 6px 0;
		touch-action: none;
		cursor: crosshair;
	}
	rect {
		stroke: var(--bench);
		stroke-width: 0.06;
	}
	svg:focus-visible .at {
		stroke: #176a58;
		stroke-width: 0.14;
	}
</style>
