<!-- An open project: frame, strip, and one station at a time. -->
<script lang="ts">
	import { Button, Modal } from 'flowbite-svelte';
	import type { Component } from 'svelte';
	import BenchStrip from './BenchStrip.svelte';
	import FindBox from './FindBox.svelte';
	import KeysHelp from './KeysHelp.svelte';
	import TopBar from './TopBar.svelte';
	import { ProjectState, provideProject } from './project.svelte';
	import { navigate, route } from './router';
	import { STATIONS } from './stations';
	import { word } from '../words/words';

	let { id }: { id: number } = $props();
	// svelte-ignore state_referenced_locally (a page opens one project; another one is another page)
	const work = new ProjectState(id);
	provideProject(work);
	let problem = $state('');
	let keys = $state(false);
	let finding = $state(false);
	let Station = $state.raw<Component | null>(null);
	const station = $derived(STATIONS.find((s) => s.key === route.params.station) ?? STATIONS[1]!);

	work.load().catch((e: Error) => (problem = e.message));
	$effect(() => work.watch());
	$effect(() => {
		const wanted = station;
		void wanted.load().then((m) => {
			if (wanted === station) Station = m.default;
		});
	});
	$effect(() => {
		if (!work.notice) return;
		const timer = setTimeout(() => (work.notice = ''), 6000);
		return () => clearTimeout(timer);
	});

	const typing = (e: KeyboardEvent) =>
		(e.target as HTMLElement).closest?.('input:not([type=radio]):not([type=checkbox]):not([type=range]), textarea, select');
	/** A number field in which nothing was typed since it was kept: Ctrl+Z then takes back the last change, as everywhere. */
	const untouched = (e: KeyboardEvent) => (e.target as HTMLElement).dataset?.untouched === 'true';
	function key(event: KeyboardEvent) {
		if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && (!typing(event) || untouched(event))) {
			event.preventDefault();
			void (event.shiftKey ? work.redo() : work.undo());
			return;
		}
		if (event.ctrlKey || event.metaKey) return;
		const at = Number(event.code.replace('Digit', ''));
		if (event.altKey && at >= 1 && at <= 6) {
			event.preventDefault();
			go(at - 1);
		}
		if (typing(event) || event.altKey) return;
		if (at >= 1 && at <= 6) go(at - 1);
		else if (event.key === '?') keys = true;
		else if (event.key === '/') {
			event.preventDefault();
			finding = true;
		}
	}
	function go(at: number) {
		navigate('/projects/:id/:station', { params: { id: String(id), station: STATIONS[at]!.key } });
	}
</script>

<svelte:window onkeydown={key} />

{#if problem}
	<main class="p-10">
		<div class="note bad" role="alert">{problem}</div>
		<a class="underline" href="/">{word('shell.back-to-the-shop-board')}</a>
	</main>
{:else if work.project}
	<div class="frame">
		<TopBar onfind={() => (finding = true)} onkeys={() => (keys = true)} />
		<BenchStrip stations={work.strip} current={station.key} onchoose={go} />
		<main>
			{#if Station}<Station />{/if}
		</main>
	</div>
	{#if work.notice}<div class="notice" role="status">{work.notice}</div>{/if}
	<KeysHelp bind:open={keys} />
	<FindBox bind:open={finding} />
	<Modal open={!!work.conflict} title={word('shell.two-of-you-changed-this')} size="sm" dismissable={false} onclose={() => {}}>
		<p>{work.conflict?.message}</p>
		<div class="mt-4 flex gap-2">
			<Button onclick={() => work.takeTheirs()}>{word('shell.take-theirs')}</Button>
			{#if work.conflict?.wanted}
				<Button color="alternative" onclick={() => work.saveMine()}>{word('shell.save-mine-on-top')}</Button>
			{/if}
		</div>
	</Modal>
{/if}

<style>
	.frame {
		height: 100%;
		display: grid;
		grid-template-rows: auto auto minmax(0, 1fr);
	}
	main {
		min-height: 0;
	}
	.notice {
		position: fixed;
		left: 50%;
		bottom: 18px;
		transform: translateX(-50%);
		background: var(--ink);
		color: var(--bench);
		padding: 8px 16px;
		border-radius: 4px;
		box-shadow: 0 4px 18px rgba(0, 0, 0, 0.3);
	}
</style>
