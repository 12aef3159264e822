<!-- The machine's profile: bed, motion, lenses, and how its files tell operations apart. -->
<script lang="ts">
	import { KERF_PLACES } from '../../lib/ui/kerfplaces';
	import { api, need } from '../../api/client';
	import type { Machine } from '../../api/types';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { MM_PER_INCH, unitName } from '../../lib/units/units';
	import type { RackState } from './rack.svelte';
	import { word } from '../../words/words';

	let { rack, machine }: { rack: RackState; machine: Machine } = $props();
	let problem = $state('');
	let name = $state('');
	let borrow = $state(true);
	let lens = $state('');
	const id = $props.id();
	type Operation = 'engrave' | 'score' | 'inner' | 'outer';
	type Numeric = 'bed_width' | 'bed_height' | 'slat_pitch' | 'overscan' | 'position_sd' | 'corner';
	const LENGTHS: [Numeric, string, 'plain' | 'fine' | 'finest'][] = [
		['bed_width', word('sheets.bed-width'), 'plain'],
		['bed_height', word('sheets.bed-depth'), 'plain'],
		['slat_pitch', word('sheets.between-slats'), 'plain'],
		['overscan', word('sheets.runs-on-past-an-engraved-row'), 'fine'],
		['position_sd', word('sheets.a-cut-lies-off-by-sd'), 'finest'],
		['corner', word('sheets.may-round-a-corner-by'), 'finest']
	];
	const SPEEDS = [
		['rapid', word('sheets.moves-with-the-beam-off'), 'speed'],
		['raster_speed', word('sheets.fastest-along-a-row'), 'speed'],
		['acceleration', word('sheets.speeds-up-by'), 'acceleration'],
		['pierce', word('sheets.waits-before-each-cut'), 'number'],
		['handling', word('sheets.a-sheet-in-and-out-takes'), 'number']
	] as const;
	/** The width of a line is read in millimetres, inches or thousandths. */
	const per = $derived(session.unit === 'mm' ? 1 : session.unit === 'thou' ? MM_PER_INCH / 1000 : MM_PER_INCH);
	const OPERATIONS: [Operation, string][] = [
		['engrave', word('sheets.engrave')],
		['score', word('sheets.score')],
		['inner', word('sheets.inner-cuts')],
		['outer', word('sheets.outer-cuts')]
	];

	async function set(body: Record<string, unknown>) {
		await need(api.PATCH('/api/machines/{machine_id}', { params: { path: { machine_id: Number(machine.id) } }, body: body as never }));
		await rack.useMachine(machine.id);
	}
	async function quietly(body: Record<string, unknown>) {
		problem = '';
		try {
			await set(body);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const convention = (o: Operation, changes: Record<string, unknown>) => quietly({ [o]: { ...machine[o], ...changes } });
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
		problem = '';
		try {
			const made = await need(api.POST('/api/machines', { body: { name, like: Number(machine.id), borrow } }));
			name = '';
			await rack.load();
			await rack.useMachine(made.id);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<div class="bench" aria-label={word('sheets.machine-profile')} role="group">
	<div class="title">
		<input
			class="name"
			aria-label={word('sheets.name-of-the-machine')}
			value={machine.name}
			maxlength="80"
			onchange={(e) => quietly({ name: e.currentTarget.value })}
		/>
		{#if rack.rack!.machines.length > 1}
			<select aria-label={word('sheets.machine')} value={machine.id} onchange={(e) => rack.useMachine(e.currentTarget.value)}>
				{#each rack.rack!.machines as m (m.id)}<option value={m.id}>{m.name}</option>{/each}
			</select>
		{/if}
		<button class="btn" onclick={() => (rack.pane = 'sheet')}>{word('sheets.back-to-the-sheet')}</button>
	</div>
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	<div class="columns">
		<section>
			<h3>{word('sheets.bed-and-motion')}</h3>
			{#each LENGTHS as [key, label, digits] (key)}
				<NumberField
					{label}
					value={machine[key] ?? 0}
					unit={session.unit}
					fine={digits === 'fine'}
					finest={digits === 'finest'}
					oncommit={(v) => set({ [key]: v })}
				/>
			{/each}
			{#each SPEEDS as [key, label, kind] (key)}
				<NumberField
					{label}
					{kind}
					unit={session.unit}
					suffix={kind === 'number' ? 's' : undefined}
					value={machine[key] ?? 0}
					oncommit={(v) => set({ [key]: v })}
				/>
			{/each}
			<label class="tick"
				><input type="checkbox" checked={machine.pass_through} onchange={(e) => quietly({ pass_through: e.currentTarget.checked })} />
				{word('sheets.a-longer-sheet-can-reach-through')}</label
			>
		</section>
		<section>
			<h3>{word('sheets.lens-that-is-in')}</h3>
			{#each machine.lenses ?? [] as l (l.id)}
				<label class="tick"
					><input type="radio" name="{id}l" checked={machine.lens === l.id} onchange={() => quietly({ lens: l.id })} /> {l.name}</label
				>
			{/each}
			<p class="quiet">{word('sheets.kerf-fit-and-settings-belong-to')}</p>
			<div class="add">
				<input aria-label={word('sheets.another-lens')} placeholder={word('sheets.another-lens-2')} maxlength="60" bind:value={lens} />
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
					aria-label={word('sheets.name-of-the-new-machine')}
					placeholder={word('sheets.mossgate-floor-laser')}
					maxlength="80"
					bind:value={name}
				/>
				<button class="btn" disabled={!name.trim()} onclick={add}>{word('sheets.add-like-this-one')}</button>
			</div>
			<label class="tick"><input type="checkbox" bind:checked={borrow} /> {word('sheets.with-its-kerfs-and-settings-marked')}</label>
		</section>
		<section>
			<h3>{word('sheets.how-files-tell-operations-apart')}</h3>
			<label class="line" for="{id}c"
				>{word('sheets.convention')}<input
					id="{id}c"
					maxlength="60"
					value={machine.convention_name}
					onchange={(e) => quietly({ convention_name: e.currentTarget.value })}
				/></label
			>
			<table>
				<thead
					><tr
						><th></th><th>{word('sheets.colour')}</th><th>{word('sheets.line', { size: unitName(session.unit) })}</th><th
							>{word('sheets.layer')}</th
						></tr
					></thead
				>
				<tbody>
					{#each OPERATIONS as [o, label] (o)}
						{@const c = machine[o]!}
						<tr>
							<th>{label}</th>
							<td
								><input
									type="color"
									aria-label={word('sheets.colour-2', { label })}
									value={c.colour}
									onchange={(e) => convention(o, { colour: e.currentTarget.value })}
								/></td
							>
							<td
								><input
									class="fig thin"
									aria-label={word('sheets.line-width-in', { label, size: unitName(session.unit) })}
									value={Number((c.line_width / per).toFixed(4))}
									onchange={(e) => convention(o, { line_width: Number(e.currentTarget.value) * per })}
								/></td
							>
							<td
								><input
									aria-label={word('sheets.layer-2', { label })}
									value={c.layer}
									onchange={(e) => convention(o, { layer: e.currentTarget.value })}
								/></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
			<p class="quiet">{word('sheets.squares-of-a-power-card-get')}</p>
		</section>
	</div>
</div>

<style>
	.bench {
		grid-column: 2 / 4;
		overflow: auto;
		padding: 14px 24px;
		border-left: 1px solid var(--rule);
	}
	.title {
		display: flex;
		gap: 12px;
		align-items: center;
		margin-bottom: 6px;
	}
	.name {
		font-size: 17px;
		font-weight: 650;
		flex: 1;
		max-width: 360px;
	}
	.columns {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
		gap: 8px 34px;
		max-width: 1150px;
	}
	.columns :global(.field) {
		grid-template-columns: 1fr 132px;
	}
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
	.line {
		display: block;
	}
	input:not([type='color'], [type='checkbox'], [type='radio']),
	select {
		border: 1px solid var(--rule);
		border-radius: 4px;
		background-color: var(--bench);
		color: var(--ink);
		padding: 4px 7px;
		font-size: 13px;
		width: 100%;
	}
	input.name {
		font-size: 17px;
	}
	.title select {
		width: auto;
		padding-right: 26px;
	}
	input.thin {
		width: 62px;
	}
	input[type='color'] {
		width: 36px;
		height: 24px;
	}
	th {
		text-align: left;
		font-weight: 500;
		color: var(--ink-2);
		padding-right: 8px;
		white-space: nowrap;
	}
	td {
		padding: 2px 8px 2px 0;
	}
</style>
