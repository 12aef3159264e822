<!-- A new panel that stands on the face of the picked one: a leg, a fin, a divider. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import AskedNumbers from './AskedNumbers.svelte';
	import { addAll, spreadRound, uprightNumbers } from './added';
	import { naming } from './moves';
	import SideChoice from './SideChoice.svelte';

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
	const FARTHER_OUT = 0.4; // of the way from the lower edge to the middle: several in the middle would stand in each other
	const work = useProject();
	const b = $derived(boundsOf(part.profile.outer as number[][]));
	let side = $state<'front' | 'back'>('front');
	let count = $state(1);
	let typed = $state<Record<string, number>>({});
	const middle = $derived<[number, number]>([(b.x1 - b.x0) / 2, (b.y1 - b.y0) / 2]);
	/** In the middle of its host, several farther out, and as wide all the way up as at its foot, unless something else is typed. */
	const numbers = $derived.by(() => {
		const width = typed.width ?? 40;
		const y = count > 1 ? FARTHER_OUT * middle[1] : middle[1];
		return { x: middle[0], y, along: 0, width, upper: width, height: 40, lean: 0, ...typed };
	});
	let problem = $state('');

	async function add() {
		const name = naming(taken, labels);
		const all = spreadRound(numbers, middle, count).map((place) => {
			const given = name('upright', word('build.upright-on', { label: part.label.toLowerCase() }));
			return { kind: 'upright', ...given, stock, host, back: side === 'back', ...place };
		});
		problem = await addAll(work, all, all[0]!.label);
		if (!problem) onadded();
	}
</script>

<ActionForm
	label={word('build.upright-on-it')}
	does={count === 1 ? word('build.add-the-upright') : word('build.add-uprights', { count })}
	{problem}
	ondo={add}
>
	<SideChoice bind:value={side} />
	<AskedNumbers fields={uprightNumbers()} values={numbers} onset={(key, v) => (typed = { ...typed, [key]: v })} />
	<NumberField
		label={word('build.how-many-round-the-middle')}
		kind="count"
		value={count}
		oncommit={(v) => void (count = Math.min(Math.max(v, 1), MOST))}
	/>
	<p class="quiet">{word('build.its-tabs-go-through-the-panel')}</p>
</ActionForm>
