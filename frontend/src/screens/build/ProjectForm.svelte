<!-- What belongs to all of a project: the prototype, its scale, and what can be taken out. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { RackRow } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import ScaleField from './ScaleField.svelte';
	import StockChoice from './StockChoice.svelte';

	let { build }: { build: BuildState } = $props();
	const work = useProject();
	const design = $derived(work.project!.design);
	let stocks = $state.raw<RackRow[]>([]);
	let problem = $state('');
	need(api.GET('/api/rack'))
		.then((rack) => (stocks = rack.stocks))
		.catch((e: Error) => (problem = e.message));
	const nameOf = (stock: string) => stocks.find((s) => s.id === stock)?.name ?? word('build.another-stock');

	async function prototype(v: string) {
		problem = '';
		try {
			await work.saveWhole(
				(d) => ({ ...d, prototype: v || null }),
				v ? word('build.prototype-in-2', { v: nameOf(v) }) : word('build.back-from-the-prototype')
			);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
</script>

<h3>{word('build.all-of-it')}</h3>
<StockChoice
	label={word('build.prototype-in')}
	{stocks}
	value={design.prototype ?? ''}
	none={word('build.not-now-the-stocks-above')}
	onchoose={prototype}
/>
{#if design.prototype}<div class="note">
		{word('build.everything-is-cut-from-now-with', { prototype: nameOf(design.prototype) })}
	</div>{/if}
<ScaleField label={word('build.scale-the-design-to')} />
<p class="quiet">{word('build.sizes-and-places-change-joints-fits')}</p>
<p class="quiet solids">
	{word('build.the-assembly-as-a-solid')}
	<a href="/api/projects/{work.id}/assembly.stl" download>{word('build.stl')}</a>
	<a href="/api/projects/{work.id}/assembly.glb" download>{word('build.gltf')}</a>
</p>
<p class="quiet solids">
	{word('build.to-keep-or-for-another-shop')} <a href="/api/projects/{work.id}/bundle" download>{word('build.the-whole-project')}</a>
</p>
{#if problem || build.problem}<div class="note bad" role="alert">{problem || build.problem}</div>{/if}

<style>
	.solids a {
		text-decoration: underline;
		margin-left: 6px;
	}
</style>
