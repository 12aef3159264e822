<!-- A project on the shop board: its picture, what it is, and what comes next. -->
<script lang="ts">
	import type { ProjectCard } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import Picture from '../../lib/mat/Picture.svelte';
	import { day } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { card: c, onopen, onaway }: { card: ProjectCard; onopen: (station?: string) => void; onaway: () => void } = $props();
	const kindOf = ({ face }: ProjectCard) => (face ? word('start.of-parts', { family: face.family, n: face.parts }) : '…');
	const left = (deadline: string) => Math.ceil((new Date(deadline).getTime() - Date.now()) / 86_400_000);
</script>

<div class="card">
	<button class="whole" onclick={() => onopen()}>
		{#if c.face}
			<Picture picture={c.face.picture} colours={c.face.colours} />
		{:else}
			<span class="blank quiet">{word('start.drawing')}</span>
		{/if}
		<span class="name">{c.name}</span>
		<span class="quiet">{kindOf(c)}{c.pieces_cut ? ` · ${word('start.cut', { piecescut: c.pieces_cut })}` : ''}</span>
		<span class="quiet"
			>{word('start.revision', { revision: c.revision, changed: day(c.changed) })}{#if c.deadline}&nbsp;· {word('start.due-days', {
					deadline: day(c.deadline),
					deadline2: left(c.deadline)
				})}{/if}</span
		>
	</button>
	{#if c.face}
		<button class="next" onclick={() => onopen(c.face?.next.station)}>{session.told(c.face.next.says)} →</button>
	{/if}
	<button class="away quiet" title={word('start.off-the-board-it-can-be')} onclick={onaway}>{word('start.put-away')}</button>
</div>

<style>
	.card {
		background: var(--bench);
		color: var(--ink);
		border-radius: 4px;
		overflow: hidden;
		position: relative;
	}
	.whole,
	.next {
		text-align: left;
		width: 100%;
		padding: 12px 14px 10px;
	}
	.whole span {
		display: block;
	}
	.next {
		border-top: 1px solid var(--rule);
		padding-block: 8px;
		font-weight: 600;
		color: #176a58;
	}
	:global(.dark) .next {
		color: #8fd3c1;
	}
	.whole:hover,
	.next:hover {
		background: var(--pick);
	}
	.whole .blank {
		height: 124px;
		display: grid;
		place-items: center;
	}
	.name {
		font-weight: 650;
		font-size: 15px;
	}
	.away {
		position: absolute;
		top: 6px;
		right: 8px;
		padding: 2px 8px;
		border-radius: 4px;
		background: var(--bench);
		opacity: 0.55; /* it can be found without a mouse over it */
	}
	.card:hover .away,
	.away:focus-visible {
		opacity: 1;
	}
</style>
