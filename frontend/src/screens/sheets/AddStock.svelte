<script lang="ts">
	import { Button, Modal } from 'flowbite-svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import HazardNote from './HazardNote.svelte';
	import type { RackState } from './rack.svelte';

	let { rack, open = $bindable(false) }: { rack: RackState; open?: boolean } = $props();
	let name = $state('');
	let family = $state('plywood');
	let substance = $state('');
	let look = $state('');
	let batch = $state('');
	let label = $state(3);
	let shelf = $state('');
	let problem = $state('');
	const id = $props.id();
	const kind = $derived(rack.rack!.families.find((f) => f.id === family)!);
	const made = $derived(kind.substances.find((s) => s.id === substance) ?? kind.substances[0]!);

	async function add(event: SubmitEvent) {
		event.preventDefault();
		if (!(await settled(event))) return;
		problem = '';
		try {
			await rack.addStock({ name, family, label_mm: label, substance, look, batch, shelf });
			open = false;
			[name, batch] = ['', ''];
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<Modal bind:open title="Add a stock" size="xs" onoutroend={() => setTimeout(() => rack.focusReading())}>
	<form onsubmit={add} class="grid gap-2">
		<label for="{id}n">Name<input id="{id}n" class="w-full" bind:value={name} maxlength="80" placeholder="Birch ply 3, batch 13" /></label>
		<div class="two">
			<label for="{id}f"
				>Family
				<select id="{id}f" class="w-full" bind:value={family} onchange={() => ([substance, look] = ['', ''])}>
					{#each rack.rack!.families as f (f.id)}<option value={f.id}>{f.label}</option>{/each}
				</select>
			</label>
			<label for="{id}m"
				>Made of
				<select id="{id}m" class="w-full" value={made.id} onchange={(e) => (substance = e.currentTarget.value)}>
					{#each kind.substances as s (s.id)}<option value={s.id}>{s.label}</option>{/each}
				</select>
			</label>
		</div>
		<HazardNote substance={made} name={name || 'this stock'} />
		{#if kind.looks.length}
			<label for="{id}l"
				>Look
				<select id="{id}l" class="w-full" bind:value={look}>
					<option value="">not said</option>
					{#each kind.looks as l (l)}<option value={l}>{l}</option>{/each}
				</select>
			</label>
		{/if}
		<NumberField label="Thickness on the label" value={label} unit={session.unit} fine oncommit={(mm) => void (label = mm)} />
		<div class="two">
			<label for="{id}b">Batch<input id="{id}b" class="w-full" bind:value={batch} maxlength="40" /></label>
			<label for="{id}s">Place on the shelf<input id="{id}s" class="w-full" bind:value={shelf} maxlength="40" /></label>
		</div>
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		<Button type="submit">Put it on the rack</Button>
	</form>
</Modal>

<style>
	input {
		border: 1px solid var(--rule);
		border-radius: 4px;
		background: var(--bench);
		color: var(--ink);
		padding: 5px 8px;
	}
	.two {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 8px;
	}
</style>
