<!-- A stock that is new on the rack: what it is, and what is known of it before anything is measured. -->
<script lang="ts">
	import { Button } from 'flowbite-svelte';
	import Popup from '../../lib/ui/Popup.svelte';
	import { onDestroy } from 'svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import { freshColour } from './colours';
	import HazardNote from './HazardNote.svelte';
	import type { RackState } from './rack.svelte';
	import { typedAhead } from './typedahead';
	import { word } from '../../words/words';

	let { rack, open = $bindable(false) }: { rack: RackState; open?: boolean } = $props();
	let name = $state('');
	let material = $state('plywood');
	let substance = $state('');
	let look = $state('');
	let batch = $state('');
	let label = $state(3);
	let shelf = $state('');
	let colour = $state('');
	let problem = $state('');
	const id = $props.id();
	const kind = $derived(rack.rack!.materials.find((f) => f.id === material)!);
	/** A shade of the material that no stock of the rack has yet. */
	const proposed = $derived(
		freshColour(
			kind.colour,
			rack.rack!.stocks.map((s) => s.colour)
		)
	);
	const made = $derived(kind.substances.find((s) => s.id === substance) ?? kind.substances[0]!);

	async function add(event: SubmitEvent) {
		event.preventDefault();
		if (!(await settled(event))) return;
		problem = '';
		const asked = { name, material, label_mm: label, substance, look, batch, shelf, colour: colour || proposed };
		release = typedAhead(rack);
		open = false; // its readings can be typed while it is on its way
		try {
			await rack.addStock(asked);
			[name, batch, colour] = ['', '', ''];
		} catch (e) {
			problem = (e as Error).message;
			open = true;
		}
	}
	let release = () => {};
	function arrived() {
		setTimeout(() => {
			rack.focusReading();
			release();
		});
	}
	onDestroy(() => release());
</script>

<Popup bind:open title={word('sheets.add-a-stock')} size="xs" onoutroend={arrived}>
	<form onsubmit={add} class="grid gap-2">
		<label for="{id}n"
			>{word('sheets.name')}<input
				id="{id}n"
				class="w-full"
				bind:value={name}
				maxlength="80"
				placeholder={word('sheets.birch-ply-3-batch-13')}
			/></label
		>
		<div class="two">
			<label for="{id}f"
				>{word('sheets.material')}
				<select id="{id}f" class="w-full" bind:value={material} onchange={() => ([substance, look] = ['', ''])}>
					{#each rack.rack!.materials as f (f.id)}<option value={f.id}>{f.label}</option>{/each}
				</select>
			</label>
			<label for="{id}m"
				>{word('sheets.made-of')}
				<select id="{id}m" class="w-full" value={made.id} onchange={(e) => (substance = e.currentTarget.value)}>
					{#each kind.substances as s (s.id)}<option value={s.id}>{s.label}</option>{/each}
				</select>
			</label>
		</div>
		<HazardNote substance={made} name={name || word('sheets.this-stock')} />
		{#if Object.keys(kind.looks).length}
			<label for="{id}l"
				>{word('sheets.look')}
				<select id="{id}l" class="w-full" bind:value={look}>
					<option value="">{word('sheets.not-said')}</option>
					{#each Object.entries(kind.looks) as [look, name] (look)}<option value={look}>{name}</option>{/each}
				</select>
			</label>
		{/if}
		<NumberField
			label={word('sheets.thickness-on-the-label')}
			value={label}
			unit={session.unit}
			fine
			oncommit={(mm) => void (label = mm)}
		/>
		<label class="colour" for="{id}c"
			>{word('sheets.colour-so-that-it-can-be')}
			<input id="{id}c" type="color" value={colour || proposed} oninput={(e) => (colour = e.currentTarget.value)} /></label
		>
		<div class="two">
			<label for="{id}b">{word('sheets.batch')}<input id="{id}b" class="w-full" bind:value={batch} maxlength="40" /></label>
			<label for="{id}s">{word('sheets.place-on-the-shelf')}<input id="{id}s" class="w-full" bind:value={shelf} maxlength="40" /></label>
		</div>
		{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
		<Button type="submit">{word('sheets.put-it-on-the-rack')}</Button>
	</form>
</Popup>

<style>
	input {
		border: 1px solid var(--rule);
		border-radius: 4px;
		background: var(--bench);
		color: var(--ink);
		padding: 5px 8px;
	}
	.colour {
		display: flex;
		justify-content: space-between;
		align-items: center;
	}
	.colour input {
		width: 60px;
		height: 28px;
		padding: 2px;
	}
	.two {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 8px;
	}
</style>
