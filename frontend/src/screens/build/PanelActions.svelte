<!-- What can be done with one panel: duplicate, mirror, lay one on its face, divide, leave out. Each is one step back. -->
<script lang="ts">
	import type { Added, Design, PartOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { boundsOf } from '../../lib/mat/outlines';
	import Choice from '../../lib/ui/Choice.svelte';
	import { intoView } from '../../lib/ui/intoview';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { settled } from '../../lib/ui/pending.svelte';
	import type { BuildState } from './build.svelte';
	import { AXES, clearOf, freshLabel, freshName, mirrorBeside, namesIn, rangeOf, withoutPanel } from './moves';
	import PanelOutline from './PanelOutline.svelte';

	let { build, part, id, stocks }: { build: BuildState; part: PartOut; id: string; stocks: string[] } = $props();
	const GAP = 10; // [mm] between a panel and its copy
	const work = useProject();
	type Action = '' | 'duplicate' | 'mirror' | 'face' | 'outline' | 'divide';
	let open = $state<Action>('');
	let axis = $state<'x' | 'y' | 'z'>('x');
	let spacing = $state<number | null>(null);
	let mirrorAt = $state<'beside' | 'middle'>('beside');
	let count = $state(1);
	let size = $state({ w: 40, h: 30, x: 10, y: 10 });
	let back = $state<'front' | 'back'>('front');
	let at = $state(0);
	let scarf = $state<'puzzle' | 'scarf'>('puzzle');
	let problem = $state('');

	const b = $derived(boundsOf(part.profile.outer as number[][]));
	const added = $derived((work.project!.design.added ?? []) as Added[]);
	const isAdded = $derived(added.some((a) => a.id === id));
	const taken = $derived(namesIn(work.project!.design, build.out?.parts.map((p) => p.id) ?? []));
	const labels = $derived(new Set(build.out?.parts.map((p) => p.label) ?? []));
	/** How far a copy stands from the original, so that it touches neither that nor another copy [mm]. */
	const clear = $derived(Math.ceil(clearOf(part, build.out?.parts ?? [], AXES.find((a) => a.id === axis)!.axis, GAP)));
	const axes = AXES.map((a) => ({ value: a.id, name: a.name }));

	async function save(change: (d: Design) => Design, label: string) {
		problem = '';
		try {
			await work.save(change, label);
			open = '';
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const withAdded = (items: object[]) => (d: Design) => ({ ...d, added: [...(d.added ?? []), ...items] as Design['added'] });
	async function duplicate(event: SubmitEvent) {
		event.preventDefault();
		if (!(await settled(event))) return;
		const names = new Set(taken);
		const seen = new Set(labels);
		const items = Array.from({ length: count }, (_, i) => {
			const name = freshName(`${id}-copy`, names);
			names.add(name);
			const move = AXES.map((a) => (a.id === axis ? (spacing ?? clear) * (i + 1) : 0));
			const label = freshLabel(`${part.label}, copy`, seen);
			seen.add(label);
			return { kind: 'copy', id: name, label, of: id, move, mirror: null, about: 0 };
		});
		await save(withAdded(items), `${part.label} × ${count + 1}`);
	}
	async function mirror(event: SubmitEvent) {
		event.preventDefault();
		const a = AXES.find((x) => x.id === axis)!.axis;
		const ranges = build.out!.parts.map((p) => rangeOf(p, a));
		const middle = (Math.min(...ranges.map((r) => r[0])) + Math.max(...ranges.map((r) => r[1]))) / 2;
		const about = mirrorAt === 'middle' ? middle : mirrorBeside(part, build.out!.parts, a, GAP);
		const name = freshName(`${id}-mirrored`, taken);
		await save(
			withAdded([
				{ kind: 'copy', id: name, label: freshLabel(`${part.label}, mirrored`, labels), of: id, move: [0, 0, 0], mirror: axis, about }
			]),
			`${part.label} mirrored`
		);
	}
	async function onFace(event: SubmitEvent) {
		event.preventDefault();
		if (!(await settled(event))) return;
		const name = freshName('plate', taken);
		const item = { kind: 'on_face', id: name, label: `Plate on ${part.label.toLowerCase()}`, stock: part.stock || stocks[0], host: id };
		const place = { back: back === 'back', from_corner: true, x: size.x, y: size.y, width: size.w, height: size.h };
		await save(withAdded([{ ...item, ...place }]), `A plate on ${part.label}`);
	}
	async function divide(event: SubmitEvent) {
		event.preventDefault();
		if (!(await settled(event))) return;
		const cut = { panel: id, at: at || (b.x1 - b.x0) / 2, scarf: scarf === 'scarf' };
		await save((d) => ({ ...d, splits: [...(d.splits ?? []), cut] }), `${part.label} divided`);
	}
	const whole = () => save((d) => ({ ...d, splits: (d.splits ?? []).filter((s) => s.panel !== id) }), `${part.label} in one piece`);
	const isDivided = $derived((work.project!.design.splits ?? []).some((s) => s.panel === id));
	function leaveOut() {
		if (isAdded) return save((d) => withoutPanel(d, id), `${part.label} removed`);
		return work.editPanels([id], () => ({ gone: true }), `${part.label} left out`);
	}
	const toggle = (action: Action) => (open = open === action ? '' : action);
</script>

<h3>Change</h3>
<div class="acts">
	<button class="btn" aria-expanded={open === 'duplicate'} onclick={() => toggle('duplicate')}>Duplicate</button>
	<button class="btn" aria-expanded={open === 'mirror'} onclick={() => toggle('mirror')}>Mirror</button>
	<button class="btn" aria-expanded={open === 'face'} onclick={() => toggle('face')}>Plate on it</button>
	<button class="btn" aria-expanded={open === 'outline'} onclick={() => toggle('outline')}>Outline from a file</button>
	{#if isDivided}<button class="btn" onclick={whole}>In one piece</button>
	{:else}<button class="btn" aria-expanded={open === 'divide'} onclick={() => toggle('divide')}>Divide</button>{/if}
	<button class="btn" onclick={leaveOut}>{isAdded ? 'Remove' : 'Leave out'}</button>
</div>
{#if open === 'duplicate'}
	<form {@attach intoView()} onsubmit={duplicate} aria-label="Duplicate">
		<Choice label="Along" options={axes} value={axis} onchoose={(v) => (axis = v)} />
		<NumberField label="Spacing" unit={session.unit} value={spacing ?? clear} oncommit={(v) => void (spacing = v)} />
		<NumberField label="Copies" kind="count" value={count} oncommit={(v) => void (count = Math.min(Math.max(v, 1), 60))} />
		<button class="btn main">Make {count === 1 ? 'one' : count} more</button>
	</form>
{:else if open === 'mirror'}
	<form {@attach intoView()} onsubmit={mirror} aria-label="Mirror">
		<Choice label="Along" options={axes} value={axis} onchoose={(v) => (axis = v)} />
		<Choice
			label="Where"
			options={[
				{ value: 'beside', name: 'beside it' },
				{ value: 'middle', name: 'across the middle of it all' }
			]}
			value={mirrorAt}
			onchoose={(v) => (mirrorAt = v)}
		/>
		<p class="quiet">Holes and drawings are mirrored too; text and numbers stay readable.</p>
		<button class="btn main">{mirrorAt === 'beside' ? 'Mirror beside it' : 'Mirror at the middle'}</button>
	</form>
{:else if open === 'face'}
	<form {@attach intoView()} onsubmit={onFace} aria-label="Plate on it">
		<Choice
			label="Side"
			options={[
				{ value: 'front', name: 'front face' },
				{ value: 'back', name: 'back face' }
			]}
			value={back}
			onchoose={(v) => (back = v)}
		/>
		<NumberField label="Width" unit={session.unit} value={size.w} oncommit={(v) => void (size.w = v)} />
		<NumberField label="Height" unit={session.unit} value={size.h} oncommit={(v) => void (size.h = v)} />
		<NumberField label="From its left edge" unit={session.unit} value={size.x} oncommit={(v) => void (size.x = v)} />
		<NumberField label="From its lower edge" unit={session.unit} value={size.y} oncommit={(v) => void (size.y = v)} />
		<button class="btn main">Add the plate</button>
	</form>
{:else if open === 'outline'}
	<PanelOutline {id} label={part.label} />
{:else if open === 'divide'}
	<form {@attach intoView()} onsubmit={divide} aria-label="Divide">
		<NumberField label="From its left end" unit={session.unit} value={at || (b.x1 - b.x0) / 2} oncommit={(v) => void (at = v)} />
		<Choice
			label="Joined by"
			options={[
				{ value: 'puzzle', name: 'puzzle heads' },
				{ value: 'scarf', name: 'slant' }
			]}
			value={scarf}
			onchoose={(v) => (scarf = v)}
		/>
		<button class="btn main">Divide here</button>
	</form>
{/if}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

<style>
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 6px;
	}
	form {
		border-left: 3px solid var(--color-mat);
		padding: 6px 0 8px 10px;
		margin-top: 8px;
		display: grid;
		gap: 4px;
	}
	form .btn {
		justify-self: start;
	}
</style>
