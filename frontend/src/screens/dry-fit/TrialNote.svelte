<!-- What was written of a trial: about which part or joint, its feel, words and photo. -->
<script lang="ts">
	import type { TrialOut } from '../../api/types';
	import { FEELS } from '../../lib/ui/feels';
	import { day } from '../../lib/units/units';
	import { word } from '../../words/words';

	let {
		note: n,
		projectId,
		called,
		ongo,
		ondrop
	}: { note: TrialOut; projectId: number; called: string | undefined; ongo: () => void; ondrop: () => void } = $props();
</script>

<div class="one">
	<b>{called ?? (n.about || word('dry-fit.the-whole-2'))}</b>{n.feel ? `: ${FEELS.find((f) => f.key === n.feel)?.name}` : ''}
	{#if n.text}<p>{n.text}</p>{/if}
	{#if n.photo}<img src="/api/projects/{projectId}/trial/{n.id}/photo.png" alt={word('dry-fit.of-the-trial')} />{/if}
	{#if n.about && called}<button class="quiet" onclick={ongo}>{word('dry-fit.change-it-on-build')}</button>{/if}
	<small class="quiet">{word('dry-fit.revision', { author: n.author, created: day(n.created), revision: n.revision })}</small>
	<button class="quiet" aria-label={word('dry-fit.remove-the-note-on', { about: called ?? word('dry-fit.the-whole') })} onclick={ondrop}
		>{word('dry-fit.remove')}</button
	>
</div>

<style>
	.one {
		border-top: 1px solid var(--rule);
		padding: 6px 0;
		margin-top: 8px;
	}
	img {
		max-width: 100%;
		border-radius: 4px;
	}
</style>
