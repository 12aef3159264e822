<!-- How one meeting is laid out: its style, how many fingers or tabs and how wide, what stands proud, which way a lap opens. -->
<script lang="ts">
	import type { MeetingChoice, MeetingOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';

	let { m, choice, pair }: { m: MeetingOut['meeting']; choice: MeetingChoice | undefined; pair: string } = $props();
	const work = useProject();
	const set = (changes: Partial<MeetingChoice>, words: string) => work.setChoice(m.id, changes, `${pair}: ${words}`);
	const tees = [
		{ value: 'tabs', name: 'tabs' },
		{ value: 'whole', name: 'one wide tab' },
		{ value: 'blind', name: 'scored' }
	];
	const counted = $derived({ corner: 'Fingers (odd)', tee: 'Tabs', stack: 'Dowel holes' }[m.kind as string]);
	const wide = $derived({ corner: 'Finger, width', tee: 'Tab, width', stack: 'Dowel, diameter' }[m.kind as string]);
</script>

{#if counted || m.kind === 'crossing'}<h3>Layout</h3>{/if}
{#if m.kind === 'tee'}
	<Choice
		label="Style"
		options={tees}
		value={choice?.style && choice.style !== 'butt' ? choice.style : 'tabs'}
		onchoose={(v) => void set({ style: v === 'tabs' ? null : (v as 'whole') }, v)}
	/>
{/if}
{#if counted && m.style !== 'scored'}
	<NumberField label={counted} kind="count" value={m.count} oncommit={(v) => set({ count: v }, `${v}`)} />
	<NumberField
		label={wide!}
		unit={session.unit}
		value={choice?.width ?? null}
		placeholder="by rule"
		oncommit={(mm) => set({ width: mm }, `about ${show(mm, session.unit)} wide`)}
	/>
{/if}
{#if m.kind === 'tee' && m.style === 'tabs'}
	<NumberField
		label="Tabs stand out by"
		unit={session.unit}
		fine
		value={choice?.proud ?? 0}
		oncommit={(mm) => set({ proud: mm || null }, `tabs ${show(mm, session.unit, true)} proud`)}
	/>
{/if}
{#if m.kind === 'crossing'}
	<NumberField
		label="Cut from the one open above"
		kind="number"
		suffix="%"
		value={Math.round((choice?.share ?? 0.5) * 100)}
		oncommit={(v) => set({ share: v / 100 }, `${v} %`)}
	/>
	<label class="check"
		><input type="checkbox" checked={choice?.flip ?? false} onchange={(e) => void set({ flip: e.currentTarget.checked }, 'turned round')} /> the
		other one opens upward</label
	>
{/if}

<style>
	.check {
		display: flex;
		align-items: center;
		gap: 7px;
		padding: 3px 0;
	}
</style>
