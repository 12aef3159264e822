<!-- A drawing from a file: looked at, its size settled, its notes read, before it goes onto anything. -->
<script lang="ts">
	import { api, need } from '../../api/client';
	import { sendDrawing } from '../../api/files';
	import type { DrawingOut } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { session } from '../../app/session.svelte';
	import NumberField from '../../lib/ui/NumberField.svelte';
	import { intoView } from '../../lib/ui/intoview';
	import { settled } from '../../lib/ui/pending.svelte';
	import { show, unitName } from '../../lib/units/units';
	import { word } from '../../words/words';

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
	let tracing = $state({ threshold: 0.5, smoothing: 1.5, simplify: 0.6 });
	let gap = $state(0.1);
	let problem = $state('');
	let busy = $state(false);
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

	async function run(work: () => Promise<DrawingOut>) {
		[problem, busy] = ['', true];
		try {
			drawing = await work();
			width = drawing.mm_per_unit ? drawing.size[0]! * drawing.mm_per_unit : width && isImage ? width : null;
		} catch (e) {
			problem = (e as Error).message;
		} finally {
			busy = false;
		}
	}
	const send = () => run(() => sendDrawing(work.id, file!, picture ? { as_picture: true } : isImage ? tracing : {}));
	const shown = $derived(picture && file ? URL.createObjectURL(file) : '');
	$effect(() => {
		const url = shown;
		return () => url && URL.revokeObjectURL(url);
	});
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
		problem = '';
		try {
			await ontake(drawing!, width!);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const path = (ring: readonly (readonly number[])[]) => `M${ring.map((p) => `${p[0]} ${size![1] - p[1]!}`).join('L')}`;
</script>

<div class="import" {@attach intoView(drawing ?? true)}>
	<label for="{id}f">{picture ? word('build.png-or-jpeg') : word('build.svg-dxf-png-or-jpeg')}</label>
	<input id="{id}f" type="file" accept={picture ? '.png,.jpg,.jpeg' : '.svg,.dxf,.png,.jpg,.jpeg'} onchange={chosen} disabled={busy} />
	{#if busy}<p class="quiet">{word('build.reading')}</p>{/if}
	{#if drawing && size}
		{#if picture}<img src={shown} alt={word('build.what-was-read')} />{:else}<svg
				viewBox="{-size[0] * 0.03} {-size[1] * 0.03} {size[0] * 1.06} {size[1] * 1.06}"
				role="img"
				aria-label={word('build.what-was-read')}
			>
				{#each drawing.lines as line, i (i)}<path d={path(line)} vector-effect="non-scaling-stroke" />{/each}
				{#each drawing.notes.filter((n) => n.place) as n (n.code)}<circle
						cx={n.place![0]}
						cy={size[1] - n.place![1]!}
						r={Math.max(...size) * 0.025}
						vector-effect="non-scaling-stroke"
					/>{/each}
			</svg>{/if}
		{#each drawing.notes as n, i (i)}<p class="note">
				{session.told(n.says)}{n.place ? ` ${word('build.the-place-is-ringed')}` : ''}
			</p>{/each}
		{#if open && !picture}
			<NumberField label={word('build.close-gaps-up-to-units')} kind="number" value={gap} oncommit={(v) => void (gap = v)} />
			<button class="btn" onclick={close} disabled={busy}>{word('build.close-them')}</button>
		{/if}
		{#if isImage && !picture}
			<NumberField
				label={word('build.darker-than-counts')}
				kind="number"
				suffix="%"
				value={Math.round(tracing.threshold * 100)}
				oncommit={(v) => {
					tracing.threshold = v / 100;
					return send();
				}}
			/>
			<NumberField
				label={word('build.smoothing-pixels')}
				kind="number"
				value={tracing.smoothing}
				oncommit={(v) => {
					tracing.smoothing = v;
					return send();
				}}
			/>
			<NumberField
				label={word('build.may-deviate-pixels')}
				kind="number"
				value={tracing.simplify}
				oncommit={(v) => {
					tracing.simplify = v;
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
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
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
	svg,
	img {
		width: 100%;
		max-height: 150px;
		object-fit: contain;
		background: var(--bench-2);
		border-radius: 4px;
	}
	path {
		fill: none;
		stroke: var(--ink);
		stroke-width: 1;
	}
	circle {
		fill: none;
		stroke: var(--bad);
		stroke-width: 2;
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
