<!-- A new panel that stands on the face of the picked one: a leg, a fin, a divider. -->
<script lang="ts">
	import type { Design, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import { spreadRound, uprightNumbers } from './added';
	import { freshLabel, freshName } from './moves';

	let {
		part,
		host,
		stock,
		taken,
		labels,
		onadded
	}: {
		part: PartOut;
		host: string;
		stock: string;
		taken: ReadonlySet<string>;
		labels: ReadonlySet<string>;
		onadded: () => void;
	} = $props();
	const MOST = 40;
	const work = useProject();
	const b = $derived(boundsOf(part.profile.outer as number[][]));
	let side = $state<'front' | 'back'>('front');
	let count = $state(1);
	let typed = $state<Record<string, number>>({});
	const middle = $derived<[number, number]>([(b.x1 - b.x0) / 2, (b.y1 - b.y0) / 2]);
	/** In the middle of its host, and as wide all the way up as at its foot, unless something else is typed. */
	const numbers = $derived.by(() => {
		const width = typed.width ?? 40;
		return { x: middle[0], y: middle[1], along: 0, width, upper: width, height: 40, lean: 0, ...typed };
	});
	let problem = $state('');

	async function add() {
		const [used, seen] = [new Set(taken), new Set(labels)];
		const all = spreadRound(numbers, middle, count).map((place) => {
			const [id, label] = [freshName('upright', used), freshLabel(word('build.upright-on', { label: part.label.toLowerCase() }), seen)];
			used.add(id);
			seen.add(label);
			return { kind: 'upright', id, label, stock, host, back: side === 'back', ...place };
		});
		problem = '';
		try {
			await work.save((d) => ({ ...d, added: [...(d.added ?? []), ...all] as Design['added'] }), all[0]!.label);
			onadded();
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<ActionForm
	label={word('build.upright-on-it')}
	does={count === 1 ? word('build.add-the-upright') : word('build.add-uprights', { count })}
	{problem}
	ondo={add}
>
	<Choice
		label={word('build.side')}
		options={[
			{ value: 'front', name: word('build.front-face') },
			{ value: 'back', name: word('build.back-face') }
		]}
		value={side}
		onchoose={(v) => (side = v)}
	/>
	{#each uprightNumbers() as { key, name, degrees } (key)}
		<NumberField
			label={name}
			kind={degrees ? 'number' : 'length'}
			suffix={degrees ? '°' : undefined}
			unit={session.unit}
			value={numbers[key]}
			oncommit={(v) => void (typed = { ...typed, [key]: v })}
		/>
	{/each}
	<NumberField
		label={word('build.how-many-round-the-middle')}
		kind="count"
		value={count}
		oncommit={(v) => void (count = Math.min(Math.max(v, 1), MOST))}
	/>
	<p class="quiet">{word('build.its-tabs-go-through-the-panel')}</p>
</ActionForm>
