<!-- How one meeting is laid out: its way of joining, how many fingers or tabs and how wide, what stands proud, which way a lap opens. -->
<script lang="ts">
	import type { MeetingChoice, MeetingOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { show } from '../../lib/units/units';
	import { word } from '../../words/words';

	let {
		m,
		name,
		ways,
		choice,
		pair
	}: {
		m: MeetingOut['meeting'];
		/** what makes the joint as it is cut */
		name: string;
		ways: MeetingOut['ways'];
		choice: MeetingChoice | undefined;
		pair: string;
	} = $props();
	const work = useProject();
	const set = (changes: Partial<MeetingChoice>, words: string) => work.setChoice(m.follows || m.id, changes, `${pair}: ${words}`);
	const asked = $derived(m.asked ?? m.style);
	const about = $derived(ways.find((w) => w.style === asked));
</script>

{#if ways.length > 1}
	<h3>{word('build.how-it-is-joined')}</h3>
	<Choice
		label={word('build.joint')}
		options={ways.map((w) => ({ value: w.style, name: w.label }))}
		value={asked}
		onchoose={(style) => void set({ style }, ways.find((w) => w.style === style)!.label)}
	/>
{/if}
{#if asked !== m.style}
	<div class="note">{word('build.there-is-no-room-for-here', { label: about?.label, name })}</div>
{/if}
{#if about?.counted}
	<NumberField label={about.counted} kind="count" value={m.count} oncommit={(v) => set({ count: v }, `${v}`)} />
	<NumberField
		label={about.wide}
		unit={session.unit}
		value={choice?.width ?? null}
		placeholder={word('build.by-rule')}
		oncommit={(mm) => set({ width: mm }, word('build.about-wide', { mm: show(mm, session.unit) }))}
	/>
{/if}
{#if about?.proud}
	<NumberField
		label={word('build.tabs-stand-out-by')}
		unit={session.unit}
		fine
		value={choice?.proud ?? 0}
		oncommit={(mm) => set({ proud: mm || null }, word('build.tabs-proud', { mm: show(mm, session.unit, true) }))}
	/>
{/if}
{#if m.kind === 'crossing'}
	<h3>{word('build.how-it-is-joined')}</h3>
	<NumberField
		label={word('build.cut-from-the-one-open-above')}
		kind="number"
		suffix="%"
		value={Math.round((choice?.share ?? 0.5) * 100)}
		oncommit={(v) => set({ share: v / 100 }, `${v} %`)}
	/>
	<label class="check"
		><input
			type="checkbox"
			checked={choice?.flip ?? false}
			onchange={(e) => void set({ flip: e.currentTarget.checked }, word('build.turned-round'))}
		/>
		{word('build.the-other-one-opens-upward')}</label
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
