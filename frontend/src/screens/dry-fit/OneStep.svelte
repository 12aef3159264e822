<!-- A step of the order: what goes in, what to mind, a person's own words; moved earlier or later. -->
<script lang="ts">
	import type { GuideStep } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import StepNote from './StepNote.svelte';
	import { word } from '../../words/words';

	let {
		step: s,
		open,
		first,
		last,
		chosen = null,
		onpick,
		onchosen,
		onmove,
		onapart,
		onwrite
	}: {
		step: GuideStep;
		open: boolean;
		first: boolean;
		last: boolean;
		/** whether it belongs to the sub-assembly that is being made; null where it cannot, or none is made */
		chosen?: boolean | null;
		onpick: () => void;
		onchosen: (on: boolean) => void;
		onmove: (by: number) => void;
		onapart: () => void;
		onwrite: (text: string) => void;
	} = $props();
</script>

<li class:on={open} class:bad={!!s.problem} class:apart={!!s.within}>
	<div class="row">
		{#if chosen !== null}<label class="name"
				><input class="mr-1" type="checkbox" checked={chosen} onchange={(e) => onchosen(e.currentTarget.checked)} />
				{s.label}</label
			>{:else}<button class="name" onclick={() => onpick()}>{s.label}{s.parts.length > 1 ? `, ${word('dry-fit.as-one')}` : ''}</button>{/if}
		<button class="step" aria-label={word('dry-fit.earlier', { s: s.label })} disabled={first} onclick={() => onmove(-1)}>▴</button>
		<button class="step" aria-label={word('dry-fit.later', { s: s.label })} disabled={last} onclick={() => onmove(1)}>▾</button>
	</div>
	{#if s.within && s.first}<p class="hint">{word('dry-fit.put-together-apart-and-laid-down')}</p>{/if}
	{#if s.by_hand && open}<button class="btn" onclick={() => onapart()}>{word('dry-fit.one-by-one-again')}</button>{/if}
	{#if s.problem}<p class="problem">{session.told(s.problem)}</p>{/if}
	{#each s.hints ?? [] as h, k (k)}<p class="hint">{session.told(h.says)}</p>{/each}
	{#if open && s.before}<p class="hint">{word('dry-fit.in-before', { before: s.before })}</p>{/if}
	<StepNote note={s.note ?? ''} about={s.label} offered={open} onwrite={(text) => onwrite(text)} />
</li>

<style>
	li {
		padding: 3px 4px;
		border-radius: 4px;
	}
	li.on {
		background: var(--pick);
	}
	li.apart {
		margin-left: 14px;
		border-left: 2px dotted var(--rule);
		padding-left: 8px;
	}
	li.bad {
		border-left: 3px solid var(--bad);
		padding-left: 8px;
	}
	.row {
		display: grid;
		grid-template-columns: 1fr auto auto;
		gap: 3px;
	}
	.name {
		text-align: left;
	}
	.name:hover {
		text-decoration: underline;
	}
	.step {
		border: 1px solid var(--rule);
		border-radius: 4px;
		padding: 0 7px;
	}
	.step:disabled {
		opacity: 0.3;
	}
	.hint,
	.problem {
		font-size: 12.5px;
		color: var(--ink-2);
	}
	.problem {
		color: var(--bad);
	}
</style>
