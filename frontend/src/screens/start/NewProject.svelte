<!-- A new project: a box and its three sizes. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending';

	let { onmade }: { onmade: (id: number) => void } = $props();
	let name = $state('');
	let size = $state({ w: 180, d: 120, h: 60 });
	let problem = $state('');
	let busy = $state(false);
	const id = $props.id();

	async function start(event: SubmitEvent) {
		event.preventDefault();
		if (!(await settled(event))) return;
		[problem, busy] = ['', true];
		try {
			const body = { name, width_mm: size.w, depth_mm: size.d, height_mm: size.h, feel: 'snug' as const };
			onmade((await need(api.POST('/api/projects', { body }))).id);
		} catch (e) {
			problem = (e as Error).message;
		} finally {
			busy = false;
		}
	}
</script>

<form onsubmit={start} aria-label="New project">
	<b>A new box</b>
	<span class="name"
		><label for="{id}n">Name</label><input id="{id}n" maxlength="80" placeholder="Seed packet drawer" bind:value={name} /></span
	>
	<NumberField label="Width" value={size.w} unit={session.unit} oncommit={(mm) => void (size.w = mm)} />
	<NumberField label="Depth" value={size.d} unit={session.unit} oncommit={(mm) => void (size.d = mm)} />
	<NumberField label="Height" value={size.h} unit={session.unit} oncommit={(mm) => void (size.h = mm)} />
	<button class="btn main" disabled={busy}>Start building</button>
	{#if problem}<p role="alert" class="note bad">{problem}</p>{/if}
</form>

<style>
	form {
		background: var(--bench);
		color: var(--ink);
		border-radius: 4px;
		padding: 12px 16px;
		display: flex;
		flex-wrap: wrap;
		gap: 6px 14px;
		align-items: center;
	}
	form :global(.field) {
		grid-template-columns: auto 88px;
	}
	.name {
		display: flex;
		align-items: center;
		gap: 8px;
	}
	.name input {
		border: 1px solid var(--rule);
		border-radius: 4px;
		background: var(--bench);
		padding: 4px 8px;
		width: 160px;
	}
	p {
		flex-basis: 100%;
	}
</style>
