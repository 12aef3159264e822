<!-- The family's few numbers, beside a picture that lights up the one being changed; stocks, feel, prototype and scale. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { DesignFamily, PictureOut, RackRow, Values } from '../../api/types';
	import { allFamilies } from '../../app/families';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import Picture from '../../lib/mat/Picture.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import Choice from '../../lib/ui/Choice.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import NumbersForm from '../../lib/ui/NumbersForm.svelte';
	import { show, unitName } from '../../lib/units/units';
	import type { BuildState } from './build.svelte';
	import FileNumbers from './FileNumbers.svelte';
	import PaintedSquares from './PaintedSquares.svelte';
	import MapNeeds from './MapNeeds.svelte';
	import TilePieces from './TilePieces.svelte';
	import ItemPlace from './ItemPlace.svelte';
	import ProjectForm from './ProjectForm.svelte';
	import { inProportion } from './proportions';
	import RoleStocks from './RoleStocks.svelte';
	import ScaleField from './ScaleField.svelte';
	import Variants from './Variants.svelte';
	import { ASKED_FEELS, feelName } from '../../lib/ui/feels';
	import { word } from '../../words/words';

	let { build }: { build: BuildState } = $props();
	const work = useProject();
	const design = $derived(work.design);
	/** As they are cut: those that follow a room are not the item's own. */
	const values = $derived((build.out?.item === work.item ? build.out.numbers : design.numbers) as unknown as Values);
	/** The item that is open; the only one too, where more than one of it is made. */
	const opened = $derived.by(() => {
		const [one, other] = build.out?.items ?? [];
		if (!work.item && one && !other && one.count + one.spares > 1) return one;
		return build.out?.items.find((i) => i.id === work.item) ?? null;
	});
	const bound = $derived(new Set(opened?.bound ?? []));
	let families = $state.raw<DesignFamily[]>([]);
	const family = $derived(families.find((f) => f.id === values.family) ?? null);
	let lit = $state('');
	const attempt = new Attempt();
	let stocks = $state.raw<RackRow[]>([]);
	Promise.all([need(api.GET('/api/rack')), allFamilies()])
		.then(([rack, all]) => {
			stocks = rack.stocks;
			families = all;
		})
		.catch(attempt.failed);

	let picture = $state.raw<PictureOut | null>(null);
	$effect(() => {
		if (!build.out?.built_from) return;
		const params = { path: { project_id: work.id }, query: { item: build.out.item } };
		need(api.GET('/api/projects/{project_id}/picture', { params }))
			.then((p) => (picture = p))
			.catch(() => {}); // the picture before stays
	});

	const FEW = 4;
	const wrong = $derived(new Map((build.out?.findings ?? []).filter((f) => f.field).map((f) => [f.field!, session.told(f.says)])));
	const general = $derived((build.out?.findings ?? []).filter((f) => !f.field));
	const roles = $derived(family?.roles ?? []);
	const quietly = (saved: Promise<void>) => attempt.at(() => saved);
	/** A number says itself what is wrong with it; a choice has no place for that. */
	function change(name: string, value: number | string, words: string) {
		const saved = work.setNumbers({ [name]: value, ...inProportion(values, name, value) }, words);
		return typeof value === 'number' ? saved : void quietly(saved);
	}
</script>

{#each opened ? [opened] : [] as item (item.id)}<ItemPlace {build} {item} />{/each}
<h2 class:sub={opened}>{family?.label ?? ''}</h2>
{#if picture}<Picture {picture} colours={build.colours} height={150} {lit} lines />{/if}
{#if family}
	{#if family.caution}<div class="note">{family.caution}</div>{/if}
	<NumbersForm
		numbers={family.numbers}
		{values}
		unit={session.unit}
		{wrong}
		plain={family.numbers.slice(0, 1).map((n) => n.group)}
		follows={bound}
		onfocus={(name) => (lit = name)}
		onchange={change}
	/>
	<FileNumbers {values} />
	{#if values.pattern === 'painted'}<PaintedSquares {values} colours={build.colours} />{/if}
	{#if values.family === 'tiles'}<TilePieces {values} problem={wrong.get('pieces')} /><MapNeeds needs={build.out?.needs ?? []} />{/if}
	{#each build.out?.facts ?? [] as fact (fact.label)}
		<p class="quiet fact">
			{fact.label} <span class="fig">{fact.mm.map((v) => show(v, session.unit)).join(' × ')}</span>
			{unitName(session.unit)}
		</p>
	{/each}

	<Variants {family} />
	<RoleStocks {roles} {stocks} />
{/if}

<h3>{word('build.how-joints-should-feel')}</h3>
<Choice
	label={word('build.feel-of-all-joints')}
	options={ASKED_FEELS}
	value={design.feel ?? 'snug'}
	onchoose={(v) => quietly(work.save((d) => ({ ...d, feel: v as typeof d.feel }), word('build.all-joints', { v: feelName(v) })))}
/>
<NumberField
	label={word('build.relief-in-corners-of-brittle-sheets')}
	unit={session.unit}
	fine
	value={design.relief ?? 0}
	oncommit={(mm) => work.save((d) => ({ ...d, relief: mm }), word('build.relief', { mm: show(mm, session.unit, true) }))}
/>
{#if !work.item}<ProjectForm {build} />{:else}
	<ScaleField label={word('build.scale-the-item-to')} />
{/if}
{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
{#each general.slice(0, FEW) as f, i (i)}<div class="note" class:bad={f.severity === 'must'}>{session.told(f.says)}</div>{/each}
{#if general.length > FEW}<p class="quiet">{word('build.more-are-listed-on-dry-fit', { general: general.length - FEW })}</p>{/if}

<style>
	.sub {
		font-size: 14px;
		margin-top: 10px;
	}
	.fact {
		padding: 1px 0;
	}
</style>
