<!-- Which lens is in a machine, where kerf is corrected, and another machine like it. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { Machine } from '../../api/types';
	import { KERF_PLACES } from '../../lib/ui/kerfplaces';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let {
		rack,
		machine,
		quietly,
		onproblem
	}: { rack: RackState; machine: Machine; quietly: (c: Record<string, unknown>) => Promise<unknown>; onproblem: (told: string) => void } =
		$props();
	let name = $state('');
	let borrow = $state(true);
	let lens = $state('');
	const id = $props.id();

	function addLens() {
		const key = lens
			.trim()
			.toLowerCase()
			.replaceAll(/[^a-z0-9]+/g, '_')
			.slice(0, 40);
		if (!key) return;
		void quietly({ lenses: [...(machine.lenses ?? []), { id: key, name: lens.trim(), spot: 0.1 }] }).then(() => (lens = ''));
	}
	async function add() {
		onproblem('');
		try {
			const made = await need(api.POST('/api/machines', { body: { name, like: Number(machine.id), borrow } }));
			name = '';
			await rack.load();
			await rack.useMachine(made.id);
		} catch (e) {
			onproblem((e as Error).message);
		}
	}
</script>

<section>
	<h3>{word('sheets.lens-that-is-in')}</h3>
	{#each machine.lenses ?? [] as l (l.id)}
		<label class="tick"
			><input type="radio" name="{id}l" checked={machine.lens === l.id} onchange={() => quietly({ lens: l.id })} /> {l.name}</label
		>
	{/each}
	<p class="quiet">{word('sheets.kerf-fit-and-settings-belong-to')}</p>
	<div class="add">
		<input
			class="input"
			aria-label={word('sheets.another-lens')}
			placeholder={word('sheets.another-lens-2')}
			maxlength="60"
			bind:value={lens}
		/>
		<button class="btn" disabled={!lens.trim()} onclick={addLens}>{word('sheets.add')}</button>
	</div>
	<h3>{word('sheets.kerf-is-corrected')}</h3>
	{#each KERF_PLACES as [place, name] (place)}<label class="tick"
			><input type="radio" name="{id}k" checked={machine.kerf_place === place} onchange={() => quietly({ kerf_place: place })} />
			{name}</label
		>{/each}
	<h3>{word('sheets.another-machine')}</h3>
	<div class="add">
		<input
			class="input"
			aria-label={word('sheets.name-of-the-new-machine')}
			placeholder={word('sheets.mossgate-floor-laser')}
			maxlength="80"
			bind:value={name}
		/>
		<button class="btn" disabled={!name.trim()} onclick={add}>{word('sheets.add-like-this-one')}</button>
	</div>
	<label class="tick"><input type="checkbox" bind:checked={borrow} /> {word('sheets.with-its-kerfs-and-settings-marked')}</label>
</section>

<style>
	h3 {
		font-weight: 650;
		margin: 14px 0 4px;
	}
	.tick {
		display: flex;
		gap: 8px;
		align-items: center;
		padding: 3px 0;
	}
	.add {
		display: flex;
		gap: 6px;
		margin: 4px 0;
	}
</style>
