<!-- The machine's profile: bed, motion, lenses, and how its files tell operations apart. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { Machine } from '../../api/types';
	import MachineFiles from './MachineFiles.svelte';
	import MachineLens from './MachineLens.svelte';
	import MachineMotion from './MachineMotion.svelte';
	import type { RackState } from './rack.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import { word } from '../../words/words';

	let { rack, machine }: { rack: RackState; machine: Machine } = $props();
	const attempt = new Attempt();

	async function set(body: Record<string, unknown>) {
		await need(api.PATCH('/api/machines/{machine_id}', { params: { path: { machine_id: Number(machine.id) } }, body: body as never }));
		await rack.useMachine(machine.id);
	}
	const quietly = (body: Record<string, unknown>) => attempt.at(() => set(body));
</script>

<div class="bench" aria-label={word('sheets.machine-profile')} role="group">
	<div class="title">
		<input
			class="input name"
			aria-label={word('sheets.name-of-the-machine')}
			value={machine.name}
			maxlength="80"
			onchange={(e) => quietly({ name: e.currentTarget.value })}
		/>
		{#if rack.rack!.machines.length > 1}
			<select
				class="select"
				aria-label={word('sheets.machine')}
				value={machine.id}
				onchange={(e) => rack.useMachine(e.currentTarget.value)}
			>
				{#each rack.rack!.machines as m (m.id)}<option value={m.id}>{m.name}</option>{/each}
			</select>
		{/if}
		<button class="btn" onclick={() => (rack.pane = 'sheet')}>{word('sheets.back-to-the-sheet')}</button>
	</div>
	{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
	<div class="columns">
		<MachineMotion {machine} {set} {quietly} />
		<MachineLens {rack} {machine} {quietly} onproblem={(told) => (attempt.problem = told)} />
		<MachineFiles {machine} {quietly} />
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
	input.name {
		font-size: 17px;
	}
	.title select {
		width: auto;
		padding-right: 26px;
	}
</style>
