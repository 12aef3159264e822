<!-- Times by operation, settings, what to know before it goes out, and the files. -->
<script lang="ts">
	import { api, need, Problem } from '../../api/client';
	import type { Beam, PlanChoices, PlanOut, SheetPlan } from '../../api/types';
	import Dot from '../../lib/ui/Dot.svelte';
	import { session } from '../../app/session.svelte';
	import { clock, day, showKerf, unitName } from '../../lib/units/units';
	import { runName } from '../../lib/mat/runs';
	import { KERF_PLACES, type KerfPlace } from '../../lib/ui/kerfplaces';
	import CutChoices from './CutChoices.svelte';
	import OrderList from './OrderList.svelte';
	import Sides from './Sides.svelte';

	let {
		out,
		sheet,
		problem,
		busy,
		projectId,
		number,
		t = $bindable(),
		onplan,
		onmachine,
		onchange
	}: {
		out: PlanOut;
		sheet: SheetPlan | null;
		problem: string;
		busy: boolean;
		projectId: number;
		/** of the sheet, from 0 */
		number: number;
		/** the moment under the reel's mark [s] */
		t: number;
		onplan: () => Promise<void>;
		onmachine: () => Promise<void>;
		onchange: (told: PlanOut) => void;
	} = $props();
	const plan = $derived(out.plan);
	const settings = $derived(sheet ? out.settings[sheet.stock] : undefined);
	const found = $derived((plan?.findings ?? []).filter((f) => f.severity !== 'fine'));
	const fine = $derived((plan?.findings ?? []).filter((f) => f.severity === 'fine'));
	const must = $derived(found.some((f) => f.severity === 'must'));
	const ready = $derived(!!plan && out.fresh && !must);
	const href = (name: string) => `/api/projects/${projectId}/files/${name}`;
	const count = (operation: string) => sheet?.strokes.filter((s) => s.path.operation === operation).length ?? 0;
	const own = (operation: string) => sheet?.strokes.some((s) => s.path.operation === operation && s.path.beam) ?? false;
	const sheets = $derived(Math.max(0, ...(plan?.sheets ?? []).map((s) => s.number ?? 1)));
	const kinds = $derived(
		settings
			? [
					{ operation: 'engrave', name: 'Engrave', beam: settings.engrave },
					{ operation: 'score', name: 'Score', beam: settings.score },
					{ operation: 'inner', name: 'Inner cuts', beam: settings.cut },
					{ operation: 'outer', name: 'Outer cuts', beam: settings.cut }
				]
			: []
	);
	/** How often the beam goes over, as this run does it: passes may be shared out over both sides. */
	const passes = (operation: string, b: Beam) => {
		const some = new Set(sheet?.strokes.filter((s) => s.path.operation === operation).map((s) => s.passes) ?? []);
		const told = some.size ? [...some].sort((x, y) => x - y) : [b.passes ?? 1];
		return told.length > 1 || told[0]! > 1 ? ` · ${told.join(' or ')} passes` : '';
	};
	const words = (b: Beam, operation: string) =>
		`${b.power} % · ${b.speed} mm/s${passes(operation, b)}${b.focus ? ` · focus ${b.focus > 0 ? '+' : ''}${b.focus}` : ''}`;
	const paths = (operation: string) => `${count(operation)} path${count(operation) === 1 ? '' : 's'}`;
	let told = $state('');
	const accepted = $derived(out.accepted);

	async function accept() {
		told = '';
		try {
			const params = { path: { project_id: projectId } };
			onchange(await need(api.POST('/api/projects/{project_id}/plan/accept', { params, body: { version: out.version } })));
		} catch (e) {
			if (e instanceof Problem && e.status === 409) onchange(e.facts.answer as PlanOut);
			else told = (e as Error).message;
		}
	}

	const skip = $derived((out.choices?.skip ?? []) as string[]);
	let choosing = $state(false);
	async function choose(change: Partial<PlanChoices>) {
		[told, choosing] = ['', true];
		try {
			const params = { path: { project_id: projectId } };
			onchange(await need(api.PATCH('/api/projects/{project_id}/plan/choices', { params, body: change as never })));
		} catch (e) {
			told = (e as Error).message;
		} finally {
			choosing = false;
		}
	}

	async function kerfPlace(place: KerfPlace) {
		told = '';
		try {
			await need(
				api.PATCH('/api/machines/{machine_id}', {
					params: { path: { machine_id: Number(out.machine!.id) } },
					body: { kerf_place: place }
				})
			);
			await onmachine();
		} catch (e) {
			told = (e as Error).message;
		}
	}
</script>

<aside class="side px-4 py-3">
	{#if plan}
		<h2><span class="fig">{clock(plan.seconds)}</span> ± {clock(plan.band)}</h2>
		<p class="quiet">
			{sheets} sheet{sheets === 1 ? '' : 's'}{plan.sheets.length > sheets ? `, ${plan.sheets.length} runs,` : ''} with handling · {out.factor_runs
				? `the log says × ${out.factor.toFixed(2)} (${out.factor_runs} run${out.factor_runs === 1 ? '' : 's'})`
				: 'no runs logged yet'}
		</p>
		{#if sheet && settings}
			<table>
				<tbody>
					{#each kinds as k (k.operation)}
						{#if count(k.operation) || skip.includes(k.operation)}<tr
								><td
									><label class="burn-it"
										><input
											type="checkbox"
											checked={!skip.includes(k.operation)}
											disabled={choosing || busy}
											onchange={(e) =>
												choose({
													skip: (e.currentTarget.checked
														? skip.filter((o) => o !== k.operation)
														: [...skip, k.operation]) as PlanChoices['skip']
												})}
										/>
										{k.name}</label
									><small
										>{skip.includes(k.operation) ? 'left out of this job' : paths(k.operation)} · {own(k.operation)
											? 'each with settings of its own'
											: words(k.beam, k.operation)}{k.operation === 'outer' ? ` · ${settings.source}` : ''}</small
									></td
								><td class="fig">{clock(sheet.by_operation[k.operation] ?? 0)}</td></tr
							>{/if}
					{/each}
					<tr
						><td>Moves<small>{(sheet.travel / 1000).toFixed(1)} m with the beam off</small></td><td class="fig"
							>{clock(sheet.by_operation.travel ?? 0)}</td
						></tr
					>
				</tbody>
			</table>
			{#each sheet.hints ?? [] as h, i (i)}<p class="hint">{session.said(h.message)}</p>{/each}
		{/if}
	{/if}
	{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}
	{#if plan && !out.fresh}
		<div class="note">
			Something changed since this plan was made{out.layout_fresh ? '.' : ': the parts must be packed again first.'}
		</div>
		<button class="btn main" disabled={busy || !out.layout_fresh} onclick={onplan}>{busy ? 'Planning …' : 'Plan again'}</button>
	{/if}

	{#if plan}
		<h3>Before it can go out</h3>
		<ul>
			{#each found as f, i (i)}<li>
					<Dot dot={f.severity === 'must' ? 'red' : 'amber'} /><span>{session.said(f.message)}</span>
				</li>{/each}
			<li>
				<Dot dot="green" />
				<details>
					<summary>{fine.length} check{fine.length === 1 ? '' : 's'} passed</summary>{#each fine as f (f.code)}<small
							>{session.said(f.message)}</small
						>{/each}
				</details>
			</li>
		</ul>
		{#if found.length && !must && out.fresh}
			{#if accepted}<p class="quiet">Read by {accepted.by}, {day(accepted.on)}.</p>
			{:else}<label class="flex items-start gap-2 py-1"
					><input type="checkbox" class="mt-1" checked={false} onchange={accept} /> I have read these and go on</label
				>{/if}
		{/if}
		<div class="mt-2 flex flex-wrap gap-2">
			{#if ready && (accepted || !found.length)}
				<a class="btn burn" href={href('all.zip')} download>Make the files</a>
				<a class="btn" href={href('run-sheet.pdf')} download>Run sheet PDF</a>
				<a class="btn" href={href('cut-list.csv')} download>Cut list</a>
				<details class="each" open={plan.sheets.length <= 3}>
					<summary class="quiet">sheet by sheet</summary>
					{#each plan.sheets as s, i (i)}<span
							>{runName(s)}: <a href={href(`sheet-${i + 1}.svg`)} download>SVG</a>
							<a href={href(`sheet-${i + 1}.dxf`)} download>DXF</a>
							<a href={href(`sheet-${i + 1}.pdf`)} download>PDF</a>
							<a href={href(`sheet-${i + 1}.gcode`)} download>G-code</a>
							{#if s.printed?.length}<a href={href(`sheet-${i + 1}-print.pdf`)} download>to print, PDF</a>{/if}</span
						>{/each}
				</details>
			{:else}<button class="btn burn" disabled>Make the files</button>{/if}
		</div>
		{#if plan.kerf_place === 'line'}
			<h3>Cut on the line</h3>
			<p>A test piece is cut where it is drawn. Switch off any kerf correction in the machine’s own software for it.</p>
		{:else}
			<h3>Kerf is corrected</h3>
			{#each KERF_PLACES as [place, name] (place)}<label class="flex gap-2"
					><input type="radio" name="kerf" checked={out.machine?.kerf_place === place} onchange={() => kerfPlace(place)} />
					{name}{place === 'paths' && sheet?.kerf ? `: ${showKerf(sheet.kerf, session.unit)} ${unitName(session.unit)}` : ''}</label
				>{/each}
		{/if}
		{#if sheet}<Sides {out} {sheet} onchoose={choose} /><CutChoices {out} {sheet} onchoose={choose} />{/if}
		{#if told}<div class="note bad" role="alert">{told}</div>{/if}
		{#if sheet && out.fresh}<OrderList {projectId} {out} {sheet} {number} labels={out.labels} bind:t {onchange} />{/if}
		<h3>At the machine</h3>
		<p>
			Stay with it, lid shut, air and extraction on, extinguisher at hand. Weights on warped corners, outside the head’s path. Local rules
			come first.
		</p>
	{/if}
</aside>

<style>
	table {
		width: 100%;
		border-collapse: collapse;
		margin-top: 6px;
	}
	td {
		padding: 5px 0;
		border-bottom: 1px solid var(--rule);
		vertical-align: top;
	}
	td.fig {
		text-align: right;
		font-size: 15px;
	}
	small {
		display: block;
		color: var(--ink-2);
		font-size: 11.5px;
	}
	h3 {
		font-weight: 650;
		font-size: 12.5px;
		color: var(--ink-2);
		margin: 12px 0 4px;
	}
	li {
		display: flex;
		gap: 10px;
		padding: 5px 0;
		border-bottom: 1px solid var(--rule);
	}
	li :global(svg) {
		margin-top: 4px;
	}
	.burn-it {
		display: flex;
		gap: 7px;
		align-items: center;
	}
	td small {
		padding-left: 20px;
	}
	.hint {
		margin: 6px 0 0;
		padding-left: 10px;
		border-left: 3px solid var(--color-mat);
		font-size: 12.5px;
	}
	.each {
		flex-basis: 100%;
		font-size: 12.5px;
	}
	.each span {
		display: inline-block;
		margin-right: 14px;
	}
	.each a {
		text-decoration: underline;
	}
</style>
