<!-- One more item: of a kind, like one that is there, or another project of the shop. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import type { Design, DesignFamily, DrawingOut, Item, ProjectCard } from '../../api/types';
	import { allFamilies } from '../../app/families';
	import { bodyOf, freshItem } from '../../app/items';
	import { useProject } from '../../app/project.svelte';
	import { word } from '../../words/words';
	import type { BuildState } from './build.svelte';
	import DrawingImport from './DrawingImport.svelte';

	let { build }: { build: BuildState } = $props();
	const work = useProject();
	const id = $props.id();
	const whole = $derived(work.project!.design);
	let families = $state.raw<DesignFamily[]>([]);
	let projects = $state.raw<ProjectCard[]>([]);
	let from = $state('family box');
	let name = $state('');
	let problem = $state('');
	let busy = $state(false);
	Promise.all([allFamilies(), need(api.GET('/api/shop-board'))])
		.then(([all, cards]) => {
			families = all;
			projects = cards.filter((c) => c.id !== work.id);
		})
		.catch((e: Error) => (problem = e.message));

	/** Those with rooms that nothing stands in: the one that is open, or all. */
	const hosts = $derived(build.out?.items.filter((i) => build.freeRooms(i.id).length && (!work.item || work.item === i.id)) ?? []);
	async function fill(host: string) {
		problem = '';
		try {
			await work.fillRooms(host);
			build.adding = false;
		} catch (e) {
			problem = (e as Error).message;
		}
	}

	const firstName = (d: Design) => d.name || (build.out?.items[0]?.label ?? '');
	/** A further item with the numbers of a family, or of one that is there. */
	function made(d: Design, kind: string, what: string, label: string): Item {
		const plain = freshItem(d, label);
		if (kind === 'copy') {
			const like = d.items?.find((i) => i.id === what);
			return {
				...(like ?? plain),
				id: plain.id,
				label,
				loose: null,
				joined: null,
				design: { ...bodyOf(d, what), items: [], name: '', prototype: null }
			} as Item;
		}
		const family = families.find((f) => f.id === what)!;
		const numbers = kind === 'flat' ? { ...family.defaults, layers: 1 } : family.defaults;
		const stock = Object.values(d.stocks)[0]!;
		const design = { numbers, stocks: Object.fromEntries(family.roles.map((r) => [r.id, stock])), feel: d.feel };
		return { ...plain, design } as unknown as Item;
	}
	async function keep(item: Item) {
		const { label } = item;
		await work.saveWhole((d) => ({ ...d, name: firstName(d), items: [...(d.items ?? []), item] }), word('build.item-added', { label }));
		work.item = item.id;
	}
	/** An item that is one sheet, its outline that of a drawing. */
	async function drawn(drawing: DrawingOut, width: number) {
		const item = made(whole, 'family', 'plate', name.trim() || drawing.name.replace(/\.[^.]+$/, ''));
		const outline = { drawing: drawing.id, width, x: 0, y: 0, turn: 0, seen: true };
		await keep({ ...item, design: { ...item.design, edits: { sheet: { outline } } } } as unknown as Item);
		build.adding = false;
	}
	async function add(event: SubmitEvent) {
		event.preventDefault();
		[problem, busy] = ['', true];
		const [kind, what] = from.split(' ') as [string, string];
		try {
			if (kind === 'project') {
				const before = new Set((whole.items ?? []).map((i) => i.id));
				await work.bringProject(Number(what));
				work.item = work.project!.design.items?.find((i) => !before.has(i.id))?.id ?? '';
			} else {
				const usual =
					kind === 'flat'
						? word('build.flat-panel')
						: kind === 'copy'
							? build.out!.items.find((i) => i.id === what)!.label
							: families.find((f) => f.id === what)!.label;
				const label = name.trim() || usual;
				await keep(made(whole, kind, what, label));
			}
			build.adding = false;
		} catch (e) {
			problem = (e as Error).message;
		} finally {
			busy = false;
		}
	}
</script>

<h2>{word('build.add-an-item')}</h2>
<p class="quiet">{word('build.it-is-packed-planned-and-cut')}</p>
{#if families.length}<form onsubmit={add} aria-label={word('build.add-an-item')}>
		<label for="{id}from">{word('build.begin-with')}</label>
		<select id="{id}from" class="select" bind:value={from}>
			<optgroup label={word('build.a-kind')}>
				{#each families as f (f.id)}<option value="family {f.id}">{f.label}</option>{/each}
				<option value="flat layered">{word('build.flat-panel')}</option>
				<option value="drawing plate">{word('build.sheet-by-a-drawing')}</option>
			</optgroup>
			<optgroup label={word('build.like-one-that-is-here')}>
				{#each build.out?.items ?? [] as i (i.id)}<option value="copy {i.id}">{i.label}</option>{/each}
			</optgroup>
			{#if projects.length}<optgroup label={word('build.another-project-as-it-stands-now')}>
					{#each projects as p (p.id)}<option value="project {p.id}">{p.name}</option>{/each}
				</optgroup>{/if}
		</select>
		{#if !from.startsWith('project')}
			<label for="{id}name">{word('build.item-name')}</label>
			<input id="{id}name" class="input" maxlength="60" bind:value={name} />
		{/if}
		{#if !from.startsWith('drawing')}<button class="btn main" disabled={busy}>{word('build.add-it')}</button>{/if}
	</form>{/if}
{#if from.startsWith('drawing')}<DrawingImport use={word('build.add-it')} ontake={drawn} />{/if}
{#if hosts.length}<h3>{word('build.empty-rooms')}</h3>{/if}
{#each hosts as host (host.id)}
	<button class="btn room" onclick={() => fill(host.id)}
		>{word('build.a-box-in-each-empty-room', { rooms: build.freeRooms(host.id).length, host: host.label })}</button
	>
{/each}
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

<style>
	form {
		display: grid;
		gap: 4px;
	}
	.room {
		margin: 2px 0;
	}
	form .btn {
		margin-top: 6px;
	}
</style>
