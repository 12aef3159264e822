<!-- A new panel in the corner of two: a gusset square to both, or a brace across. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { CornerRoom, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import { show } from '../../lib/units/units';
	import { session } from '../../app/session.svelte';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import AskedNumbers from './AskedNumbers.svelte';
	import { addedTo, braceNumbers, pairName } from './added';
	import type { BuildState } from './build.svelte';

	let { build, parts, square }: { build: BuildState; parts: PartOut[]; square: boolean } = $props();
	const work = useProject();
	const KINDS = [
		{ value: 'gusset' as const, name: word('build.gusset') },
		{ value: 'brace' as const, name: word('build.brace') }
	];
	let chosen = $state<'gusset' | 'brace'>('gusset');
	const kind = $derived(square ? chosen : 'brace');
	let plate = $state({ size: 30, at: 0 });
	const FROM_CORNER = 40; // [mm] where there is room for it
	let typed = $state<Partial<Record<'on_a' | 'on_b' | 'inset_low' | 'inset_high', number>>>({});
	/** where the sheet may meet both; null until it is known, and where there is no such place */
	let room = $state.raw<CornerRoom | null>(null);
	let problem = $state('');

	const usual = ([low, high]: readonly [number, number]) =>
		low < FROM_CORNER && FROM_CORNER < high ? FROM_CORNER : Math.round((low + high) * 5) / 10;
	const across = $derived({
		on_a: room ? usual(room.on_a as unknown as [number, number]) : FROM_CORNER,
		on_b: room ? usual(room.on_b as unknown as [number, number]) : FROM_CORNER,
		inset_low: 0,
		inset_high: 0,
		...typed
	});
	const a = $derived(parts[0]!.panel);
	const b = $derived(parts[1]!.panel);
	$effect(() => {
		void build.out?.built_from; // asked again when the design is another
		const asked = { params: { path: { project_id: work.id }, query: { item: work.item } }, body: { a, b } };
		need(api.POST('/api/projects/{project_id}/corner', asked))
			.then((found) => (room = found))
			.catch(() => (room = null));
	});
	const possible = (part: PartOut, [low, high]: readonly number[]) =>
		word('build.possible-on', { part: part.label, low: show(low!, session.unit), high: show(high!, session.unit) });

	const PLATE = [
		{ key: 'size' as const, name: word('build.size') },
		{ key: 'at' as const, name: word('build.from-the-middle') }
	];
	async function add() {
		const pair = pairName(parts);
		const [label, what] =
			kind === 'gusset'
				? [word('build.gusset-of', { pair }), { kind: 'gusset' as const, ...plate }]
				: [word('build.brace-of', { pair }), { kind: 'brace' as const, ...across }];
		problem = await addedTo(work, build, parts, label, [what]);
	}
</script>

<h3>{word('build.a-panel-in-their-corner')}</h3>
<ActionForm
	label={kind === 'gusset' ? word('build.gusset') : word('build.brace')}
	does={kind === 'gusset' ? word('build.add-the-gusset') : word('build.add-the-brace')}
	{problem}
	ondo={add}
>
	{#if square}<Choice label={word('build.what-stands-in-the-corner')} options={KINDS} value={kind} onchoose={(v) => (chosen = v)} />{/if}
	{#if kind === 'gusset'}
		<AskedNumbers fields={PLATE} values={plate} onset={(key, v) => (plate = { ...plate, [key]: v })} />
	{:else}
		<AskedNumbers fields={braceNumbers(parts[0]!, parts[1]!)} values={across} onset={(key, v) => (typed = { ...typed, [key]: v })} />
		{#if room}<p class="quiet">{possible(parts[0]!, room.on_a)} {possible(parts[1]!, room.on_b)}</p>{/if}
		<p class="quiet">{word('build.from-line-to-line')}</p>
	{/if}
</ActionForm>
