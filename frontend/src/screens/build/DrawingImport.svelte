<!-- A drawing from a file: looked at, its size settled, its notes read, before it goes onto anything. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { sendDrawing } from '../../api/files';
	import type { DrawingOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import { Attempt } from '../../lib/ui/attempt.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { intoView } from '../../lib/ui/intoview';
	import { settled } from '../../lib/ui/pending.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';
	import DrawingSeen from './DrawingSeen.svelte';
	import TraceNumbers, { TRACED, type Tracing } from './TraceNumbers.svelte';

	let {
		use,
		picture = false,
		ontake
	}: {
		use: string;
		/** an image is taken as it is, to be engraved dot by dot */
		picture?: boolean;
		ontake: (drawing: DrawingOut, widthMm: number) => Promise<void> | void;
	} = $props();
	const work = useProject();
	const id = $props.id();
	let file = $state.raw<File | null>(null);
	let drawing = $state.raw<DrawingOut | null>(null);
	let width = $state<number | null>(null);
	let tracing = $state<Tracing>(TRACED);
	let gap = $state(0.1);
	const attempt = new Attempt();
	const busy = $derived(attempt.busy);
	/** What one unit of a drawing may be, when the file does not say. */
	const UNITS: [string, number][] = [
		['mm', 1],
		['inch', 25.4],
		['point', 25.4 / 72],
		[word('build.pixel-96-an-inch'), 25.4 / 96]
	];
	const size = $derived(drawing?.size as unknown as [number, number] | undefined);
	const isImage = $derived(!!file && /\.(png|jpe?g)$/i.test(file.name));
	const open = $derived(drawing?.layers.reduce((sum, l) => sum + l.open, 0) ?? 0);

	const run = (work: () => Promise<DrawingOut>) =>
		attempt.at(async () => {
			drawing = await work();
			width = drawing.mm_per_unit ? drawing.size[0]! * drawing.mm_per_unit : width && isImage ? width : null;
		});
	const send = () => run(() => sendDrawing(work.id, file!, picture ? { as_picture: true } : isImage ? tracing : {}));
	function chosen(event: Event) {
		file = (event.currentTarget as HTMLInputElement).files?.[0] ?? null;
		drawing = null;
		if (file) void send();
	}
	async function close(event: Event) {
		if (!(await settled(event))) return;
		const params = { path: { project_id: work.id, drawing_id: Number(drawing!.id) } };
		return run(() => need(api.POST('/api/projects/{project_id}/drawings/{drawing_id}/close', { params, body: { gap } })));
	}
	async function take(event: Event) {
		if (!(await settled(event))) return; // a width that was typed counts
		await attempt.at(() => ontake(drawing!, width!));
	}
</script>

<div class="import" {@attach intoView(drawing ?? true)}>
	<label for="{id}f">{picture ? word('build.png-or-jpeg') : word('build.svg-dxf-png-or-jpeg')}</label>
	<input id="{id}f" type="file" accept={picture ? '.png,.jpg,.jpeg' : '.svg,.dxf,.png,.jpg,.jpeg'} onchange={chosen} disabled={busy} />
	{#if busy}<p class="quiet">{word('build.reading')}</p>{/if}
	{#if drawing && size}
		<DrawingSeen {drawing} picture={picture ? file : null} />
		{#each drawing.notes as n, i (i)}<p class="note">
				{session.told(n.says)}{n.place ? ` ${word('build.the-place-is-ringed')}` : ''}
			</p>{/each}
		{#if open && !picture}
			<NumberField label={word('build.close-gaps-up-to-units')} kind="number" value={gap} oncommit={(v) => void (gap = v)} />
			<button class="btn" onclick={close} disabled={busy}>{word('build.close-them')}</button>
		{/if}
		{#if isImage && !picture}
			<TraceNumbers
				{tracing}
				onchange={(changed) => {
					tracing = { ...tracing, ...changed };
					return send();
				}}
			/>
		{/if}
		{#if drawing.mm_per_unit === null && !isImage}
			<p class="ask">{word('build.the-file-does-not-say-how')}</p>
			<div class="units">
				{#each UNITS as [name, mm] (name)}<button class="btn" onclick={() => (width = size![0] * mm)}>{name}</button>{/each}
			</div>
		{/if}
		<NumberField
			label={width === null ? word('build.width-give-it') : word('build.width')}
			unit={session.unit}
			value={width}
			oncommit={(mm) => void (width = mm)}
		/>
		{#if size[0] && size[1]}<NumberField
				label={word('build.or-height')}
				unit={session.unit}
				value={width === null ? null : (width * size[1]) / size[0]}
				oncommit={(mm) => void (width = (mm * size![0]) / size![1])}
			/>{/if}
		{#if width !== null}
			<p class="quiet">
				<span class="fig">{show(width, session.unit)} × {show((width * size[1]) / (size[0] || 1), session.unit)}</span>
				{unitName(session.unit)}
			</p>
			<button class="btn main" onclick={take} disabled={busy}>{use}</button>
		{/if}
	{/if}
	{#if attempt.problem}<div class="note bad" role="alert">{attempt.problem}</div>{/if}
</div>

<style>
	.import {
		display: grid;
		gap: 5px;
		border-left: 3px solid var(--color-mat);
		padding: 4px 0 8px 10px;
		margin: 4px 0;
	}
	input[type='file'] {
		width: 100%;
		font-size: 12px;
	}
	.units {
		display: flex;
		flex-wrap: wrap;
		gap: 5px;
	}
	.btn {
		justify-self: start;
	}
</style>
