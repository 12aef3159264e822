<!-- An item that is joined to another one: into which side of that it goes, and how far. -->
<script lang="ts">
	import type { Item } from '../../api/types';
	import { rootOf } from '../../app/items';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import Tick from '../../lib/ui/Tick.svelte';
	import { word } from '../../words/words';

	type Joined = NonNullable<Item['joined']>;
	let {
		joined,
		host,
		save,
		onproblem
	}: {
		joined: Joined;
		/** what it is called */
		host: string;
		save: (changes: Partial<Item>, what: string) => Promise<void>;
		onproblem: (message: string) => void;
	} = $props();
	const work = useProject();
	const id = $props.id();
	const SIDES = {
		above: word('build.side-above'),
		below: word('build.side-below'),
		left: word('build.side-left'),
		right: word('build.side-right'),
		before: word('build.side-before'),
		behind: word('build.side-behind')
	} as const;
	const set = (changes: Partial<Joined>) => {
		const next = { ...joined, ...changes };
		return save({ joined: next }, word('build.joined-change', { side: SIDES[next.side], label: host }));
	};
	const quietly = (saved: Promise<void>) => saved.catch((e: Error) => onproblem(e.message));
</script>

<div class="pair">
	<label for="{id}side">{word('build.into-its')}</label>
	<select
		id="{id}side"
		class="select"
		value={joined.side}
		onchange={(e) => void quietly(set({ side: e.currentTarget.value as Joined['side'] }))}
	>
		{#each Object.entries(SIDES) as [side, name] (side)}<option value={side}>{name}</option>{/each}
	</select>
</div>
<Tick
	label={word('build.through-the-panel')}
	checked={joined.into === null}
	onchange={(now) => void quietly(set({ into: now ? null : 0 }))}
/>
{#if joined.into !== null && joined.into !== undefined}
	<NumberField label={word('build.how-far-in')} unit={session.unit} fine value={joined.into} oncommit={(mm) => set({ into: mm })} />
{/if}
<p class="quiet">{word('build.joints-where-open', { label: host })}</p>
<button class="btn" onclick={() => (work.item = rootOf(work.project!.design, joined.host))}>{word('build.see-both')}</button>
