<!-- A new panel in the corner of two: a gusset square to both, or a brace across. -->
<script lang="ts">
	import type { PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
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
	let across = $state({ on_a: 40, on_b: 40, inset_low: 0, inset_high: 0 });
	let problem = $state('');

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
		<AskedNumbers fields={braceNumbers(parts[0]!, parts[1]!)} values={across} onset={(key, v) => (across = { ...across, [key]: v })} />
		<p class="quiet">{word('build.from-line-to-line')}</p>
	{/if}
</ActionForm>
