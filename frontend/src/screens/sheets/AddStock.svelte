<script lang="ts">
	import { Button, Modal } from 'flowbite-svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending';
	import type { RackState } from './rack.svelte';

	let { rack, open = $bindable(false) }: { rack: RackState; open?: boolean } = $props();
	let name = $state('');
	let family = $state('plywood');
	let label = $state(3);
	let shelf = $state('');
	let problem = $state('');
	const id = $props.id();

	async function add(event: SubmitEvent) {
		event.preventDefault();
		if (!(await settled(event))) return;
		problem = '';
		try {
			await rack.addStock({ name, family, label_mm: label, colour: '', shelf });
			open = false;
			name = '';
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<Modal bind:open title="Add a stock" size="xs" onoutroend={() => setTimeout(() => rack.focusReading())}>
	<form onsubmit={add} class="grid gap-2">
		<label for="{id}n"
			>Name, with its batch<input id="{id}n" class="w-full" bind:value={name} maxlength="80" placeholder="Birch ply 3, batch 13" /></label
		>
		<label for="{id}f"
			>Family
			<select id="{id}f" class="w-full" bind:value={family}>
				{#each rack.rack!.families as f (f.id)}<option value={f.id}>{f.label}</option>{/each}
			</select>
		</label>
		<NumberField label="Thickness on the label" value={label} unit={session.unit} fine oncommit={(mm) => void (label = mm)} />
		<label for="{id}s">Place on the shelf<input id="{id}s" class="w-full" bind:value={shelf} maxlength="40" /></label>
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		<Button type="submit">Put it on the rack</Button>
	</form>
</Modal>
