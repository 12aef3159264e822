<!-- What can be done with one panel: duplicate, mirror, lay one on its face, divide, leave out. Each is one step back. -->
<script lang="ts">
	import type { Added, Design, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import ActionForm from './ActionForm.svelte';
	import type { BuildState } from './build.svelte';
	import { AXES, freshLabel, freshName, mirrorBeside, namesIn, rangeOf, withoutPanel } from './moves';
	import NewCopies from './NewCopies.svelte';
	import NewPlate from './NewPlate.svelte';
	import NewUpright from './NewUpright.svelte';
	import NewWall from './NewWall.svelte';
	import PanelOutline from './PanelOutline.svelte';
	import { word } from '../../words/words';

	let { build, part, id, stocks }: { build: BuildState; part: PartOut; id: string; stocks: string[] } = $props();
	const GAP = 10; // [mm] between a panel and its copy
	const work = useProject();
	type Action = '' | 'duplicate' | 'mirror' | 'face' | 'upright' | 'wall' | 'outline' | 'divide';
	let open = $state<Action>('');
	let axis = $state<'x' | 'y' | 'z'>('x');
	let mirrorAt = $state<'beside' | 'middle'>('beside');
	let at = $state(0);
	let scarf = $state<'puzzle' | 'scarf'>('puzzle');
	const attempt = new Attempt();

	const b = $derived(boundsOf(part.profile.outer as number[][]));
	const added = $derived((work.design.added ?? []) as Added[]);
	const isAdded = $derived(added.some((a) => a.id === id));
	const taken = $derived(namesIn(work.design, build.out?.parts.map((p) => p.id) ?? []));
	const stock = $derived(part.stock || stocks[0]!);
	const labels = $derived(new Set(build.out?.parts.map((p) => p.label) ?? []));
	const axes = AXES.map((a) => ({ value: a.id, name: a.name }));

	const save = (change: (d: Design) => Design, label: string) =>
		attempt.at(async () => {
			await work.save(change, label);
			open = '';
		});
	const withAdded = (items: object[]) => (d: Design) => ({ ...d, added: [...(d.added ?? []), ...items] as Design['added'] });
	async function mirror() {
		const a = AXES.find((x) => x.id === axis)!.axis;
		const ranges = build.out!.parts.map((p) => rangeOf(p, a));
		const middle = (Math.min(...ranges.map((r) => r[0])) + Math.max(...ranges.map((r) => r[1]))) / 2;
		const about = mirrorAt === 'middle' ? middle : mirrorBeside(part, build.out!.parts, a, GAP);
		const name = freshName(`${id}-mirrored`, taken);
		await save(
			withAdded([
				{
					kind: 'copy',
					id: name,
					label: freshLabel(word('build.mirrored', { label: part.label }), labels),
					of: id,
					move: [0, 0, 0],
					mirror: axis,
					about
				}
			]),
			word('build.mirrored-2', { label: part.label })
		);
	}
	async function divide() {
		const cut = { panel: id, at: at || (b.x1 - b.x0) / 2, scarf: scarf === 'scarf' };
		await save((d) => ({ ...d, splits: [...(d.splits ?? []), cut] }), word('build.divided', { label: part.label }));
	}
	const whole = () =>
		save((d) => ({ ...d, splits: (d.splits ?? []).filter((s) => s.panel !== id) }), word('build.in-one-piece-2', { label: part.label }));
	const isDivided = $derived((work.design.splits ?? []).some((s) => s.panel === id));
	function leaveOut() {
		if (isAdded) return save((d) => withoutPanel(d, id), word('build.removed', { label: part.label }));
		return work.editPanels([id], () => ({ gone: true }), word('build.left-out-2', { label: part.label }));
	}
	const toggle = (action: Action) => (open = open === action ? '' : action);
</script>

<h3>{word('build.change')}</h3>
<div class="acts">
	<button class="btn" aria-expanded={open === 'duplicate'} onclick={() => toggle('duplicate')}>{word('build.duplicate')}</button>
	<button class="btn" aria-expanded={open === 'mirror'} onclick={() => toggle('mirror')}>{word('build.mirror')}</button>
	<button class="btn" aria-expanded={open === 'face'} onclick={() => toggle('face')}>{word('build.plate-on-it')}</button>
	<button class="btn" aria-expanded={open === 'upright'} onclick={() => toggle('upright')}>{word('build.upright-on-it')}</button>
	<button class="btn" aria-expanded={open === 'wall'} onclick={() => toggle('wall')}>{word('build.wall-on-an-edge')}</button>
	<button class="btn" aria-expanded={open === 'outline'} onclick={() => toggle('outline')}>{word('build.its-shape')}</button>
	{#if isDivided}<button class="btn" onclick={whole}>{word('build.in-one-piece')}</button>
	{:else}<button class="btn" aria-expanded={open === 'divide'} onclick={() => toggle('divide')}>{word('build.divide')}</button>{/if}
	<button class="btn" onclick={leaveOut}>{isAdded ? word('build.remove') : word('build.leave-out')}</button>
</div>
{#if open === 'duplicate'}
	<NewCopies {build} {part} {id} {taken} {labels} onadded={() => (open = '')} />
{:else if open === 'mirror'}
	<ActionForm
		label={word('build.mirror')}
		does={mirrorAt === 'beside' ? word('build.mirror-beside-it') : word('build.mirror-at-the-middle')}
		ondo={mirror}
	>
		<Choice label={word('build.along')} options={axes} value={axis} onchoose={(v) => (axis = v)} />
		<Choice
			label={word('build.where')}
			options={[
				{ value: 'beside', name: word('build.beside-it') },
				{ value: 'middle', name: word('build.across-the-middle-of-it-all') }
			]}
			value={mirrorAt}
			onchoose={(v) => (mirrorAt = v)}
		/>
		<p class="quiet">{word('build.holes-and-drawings-are-mirrored-too')}</p>
	</ActionForm>
{:else if open === 'face'}
	<NewPlate {part} host={id} {stock} {taken} {labels} onadded={() => (open = '')} />
{:else if open === 'upright'}
	<NewUpright {part} host={id} {stock} {taken} {labels} onadded={() => (open = '')} />
{:else if open === 'wall'}
	<NewWall {part} host={id} {taken} {labels} onadded={() => (open = '')} />
{:else if open === 'outline'}
	<PanelOutline {build} {id} label={part.label} />
{:else if open === 'divide'}
	<ActionForm label={word('build.divide')} does={word('build.divide-here')} ondo={divide}>
		<NumberField
			label={word('build.from-its-left-end')}
			unit={session.unit}
			value={at || (b.x1 - b.x0) / 2}
			oncommit={(v) => void (at = v)}
		/>
		<Choice
			label={word('build.joined-by')}
			options={[
				{ value: 'puzzle', name: word('build.puzzle-heads') },
				{ value: 'scarf', name: word('build.slant') }
			]}
			value={scarf}
			onchoose={(v) => (scarf = v)}
		/>
	</ActionForm>
{/if}
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}

<style>
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
	}
</style>
