<!-- Projects that were put away or deleted, and their way back. -->
<script lang="ts">
	import type { KeptAside, ProjectPlace } from '../../api/types';
	import { day } from '../../lib/units/units';
	import { word } from '../../words/words';

	let { aside, onplace }: { aside: KeptAside[]; onplace: (id: number, place: ProjectPlace) => void } = $props();
	const gone = (p: KeptAside) =>
		p.gone_on ? `, ${word('start.gone-for-good-on', { goneon: day(p.gone_on) })}` : `, ${word('start.its-log-stays')}`;
</script>

{#if aside.length}
	<details>
		<summary>{word('start.put-away-and-deleted', { aside: aside.length })}</summary>
		<ul>
			{#each aside as p (p.id)}
				<li>
					<b>{p.name}</b>
					<span
						>{p.place === 'away' ? word('start.put-away') : word('start.deleted')}
						{day(p.since)}{p.place === 'deleted' ? gone(p) : ''}</span
					>
					<button class="btn" onclick={() => onplace(p.id, 'board')}>{word('start.back-on-the-board')}</button>
					{#if p.place === 'away'}<button class="btn" onclick={() => onplace(p.id, 'deleted')}>{word('start.delete')}</button>{/if}
				</li>
			{/each}
		</ul>
	</details>
{/if}

<style>
	details {
		margin-top: 20px;
		background: var(--bench);
		color: var(--ink);
		border-radius: 4px;
		padding: 10px 14px;
	}
	summary {
		cursor: pointer;
		font-weight: 650;
	}
	li {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 12px;
		align-items: center;
		padding: 6px 0;
	}
	li span {
		flex: 1;
		color: var(--ink-2);
	}
</style>
