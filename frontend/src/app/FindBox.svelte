<!-- Finds any part, joint or stock and goes there. -->
<script lang="ts">
	import Popup from '../lib/ui/Popup.svelte';
	import { api, need } from '../api/client';
	import { useProject } from './project.svelte';
	import { navigate } from './router';
	import { word } from '../words/words';

	let { open = $bindable(false) }: { open?: boolean } = $props();
	const work = useProject();
	interface Found {
		name: string;
		kind: string;
		station: string;
		query: string;
	}
	let all = $state<Found[]>([]);
	let text = $state('');
	let at = $state(0);
	const found = $derived(all.filter((f) => `${f.name} ${f.kind}`.toLowerCase().includes(text.trim().toLowerCase())).slice(0, 12));

	$effect(() => {
		if (open) void load();
	});
	async function load() {
		text = '';
		at = 0;
		const params = { path: { project_id: work.id } };
		const [build, rack] = await Promise.all([need(api.GET('/api/projects/{project_id}/build', { params })), need(api.GET('/api/rack'))]);
		const names = new Map(build.parts.map((p) => [p.id, p.label]));
		all = [
			...build.parts.map((p) => ({
				name: p.label,
				kind: 'panel',
				station: 'build',
				query: `panel=${p.id}`
			})),
			...build.meetings.map((m) => ({
				name: word('shell.with', { a: names.get(m.a), b: names.get(m.b) }),
				kind: m.kind,
				station: 'build',
				query: `meeting=${encodeURIComponent(m.id)}`
			})),
			...rack.stocks.map((s) => ({
				name: s.name,
				kind: 'stock',
				station: 'sheets',
				query: `stock=${s.id}`
			}))
		];
	}
	/** Close first: while the dialog is there, nothing behind it can take the focus. */
	let going: Found | null = null;
	function go(f: Found) {
		going = f;
		open = false;
	}
	function closed() {
		const f = going;
		going = null;
		if (!f) return;
		navigate('/projects/:id/:station', {
			params: { id: String(work.id), station: f.station },
			search: Object.fromEntries(new URLSearchParams(f.query))
		});
	}
	function key(event: KeyboardEvent) {
		if (event.key === 'ArrowDown') at = Math.min(at + 1, found.length - 1);
		else if (event.key === 'ArrowUp') at = Math.max(at - 1, 0);
		else if (event.key === 'Enter' && found[at]) go(found[at]!);
		else return;
		event.preventDefault();
	}
</script>

<Popup bind:open title={word('shell.find')} size="sm" onoutroend={() => setTimeout(closed)}>
	<!-- svelte-ignore a11y_autofocus -->
	<input
		class="w-full"
		autofocus
		aria-label={word('shell.find-a-part-joint-or-stock')}
		placeholder={word('shell.part-joint-or-stock')}
		bind:value={text}
		oninput={() => (at = 0)}
		onkeydown={key}
	/>
	<ul role="listbox" aria-label={word('shell.found')}>
		{#each found as f, i (f.kind + f.name + f.query)}
			<li role="option" aria-selected={i === at}>
				<button class:on={i === at} onclick={() => go(f)}>{f.name}<span class="quiet">{f.kind}</span></button>
			</li>
		{/each}
	</ul>
	{#if all.length && !found.length}<p class="quiet">{word('shell.nothing-is-called-that-here')}</p>{/if}
</Popup>

<style>
	button {
		width: 100%;
		display: flex;
		justify-content: space-between;
		padding: 5px 8px;
		border-radius: 4px;
	}
	button.on,
	button:hover {
		background: var(--pick);
	}
</style>
