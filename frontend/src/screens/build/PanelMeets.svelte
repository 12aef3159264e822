<!-- The joints that a panel takes part in. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import Glyph from './Glyph.svelte';

	let { build, part }: { build: BuildState; part: PartOut } = $props();
	const mine = $derived(build.out!.meetings.filter((m) => m.a === part.id || m.b === part.id));
</script>

<h3>{word('build.meets')}</h3>
{#each mine as m (m.id)}
	<button class="meet" onclick={() => build.pickMeeting(m.id)}
		><Glyph kind={m.kind} />{build.names.get(m.a === part.id ? m.b : m.a)}<span class="quiet">{m.name}</span></button
	>
{/each}
<p class="quiet mt-3">
	{word('build.click-any-slot-finger-or-hole')}
</p>

<style>
	.meet {
		display: flex;
		align-items: center;
		gap: 9px;
		width: 100%;
		padding: 4px 2px;
		border-radius: 4px;
	}
	.meet:hover {
		background: var(--pick);
	}
	.meet span {
		margin-left: auto;
	}
</style>
