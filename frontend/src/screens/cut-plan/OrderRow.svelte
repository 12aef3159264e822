<!-- One cut in the order: what it is, and a grip to drag it by. -->
<script lang="ts">
	import { word } from '../../words/words';

	let {
		name,
		number,
		operation,
		now,
		held,
		edge,
		wrong,
		onpick,
		onkey,
		ongrip,
		onfollow,
		ondrop,
		oncancel
	}: {
		name: string;
		number: number;
		operation: string;
		/** it is under the reel's mark */
		now: boolean;
		held: boolean;
		/** where what is dragged would come to lie */
		edge: '' | 'above' | 'below';
		/** what is dragged cannot go there */
		wrong: boolean;
		onpick: () => void;
		onkey: (event: KeyboardEvent) => void;
		ongrip: (event: PointerEvent) => void;
		onfollow: (event: PointerEvent) => void;
		ondrop: () => void;
		oncancel: () => void;
	} = $props();
</script>

<li class:now class:above={edge === 'above'} class:below={edge === 'below'} class:held class:wrong>
	<button class="name" aria-current={now} onclick={onpick} onkeydown={onkey} title={word('cut-plan.alt-with-up-or-down-moves')}
		><i class={operation}></i><span>{name}</span><span class="fig">{number}</span></button
	>
	<span class="grip" role="presentation" onpointerdown={ongrip} onpointermove={onfollow} onpointerup={ondrop} onpointercancel={oncancel}
		>⋮⋮</span
	>
</li>

<style>
	li {
		display: flex;
		height: 26px;
		align-items: center;
		border-top: 2px solid transparent;
		border-bottom: 2px solid transparent;
	}
	li.now {
		background: var(--pick);
	}
	li.above {
		border-top-color: #1d7f6c;
	}
	li.below {
		border-bottom-color: #1d7f6c;
	}
	li.wrong.above {
		border-top-color: var(--bad);
	}
	li.wrong.below {
		border-bottom-color: var(--bad);
	}
	li.held .name {
		opacity: 0.55;
	}
	.name {
		display: flex;
		gap: 8px;
		align-items: center;
		flex: 1;
		min-width: 0;
		text-align: left;
		padding: 0 8px;
	}
	.name span:first-of-type {
		flex: 1;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.fig {
		font-size: 11.5px;
		color: var(--ink-2);
	}
	.grip {
		cursor: grab;
		padding: 0 8px;
		color: var(--ink-2);
		touch-action: none;
		user-select: none;
	}
	i {
		width: 10px;
		height: 10px;
		flex: none;
		background: #c85a33;
	}
	i.inner {
		background: #b48a74;
	}
	i.score {
		background: #d0a63c;
	}
	i.engrave {
		background: #8d7fb5;
	}
</style>
