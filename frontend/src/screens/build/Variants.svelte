<!-- Alternatives of a design: keep the present numbers under a name, and choose which one is built. -->
<script lang="ts">
	import type { Design } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { word } from '../../words/words';

	const work = useProject();
	const id = $props.id();
	const design = $derived(work.design);
	const variants = $derived(design.variants ?? {});
	const names = $derived(Object.keys(variants));
	let name = $state('');
	let problem = $state('');

	/** The variants with what is chosen now kept under its name. */
	const kept = (d: Design) => ({
		...d.variants,
		...(d.variant ? { [d.variant]: { numbers: d.numbers, left_out: d.left_out ?? [], scale: d.scale ?? 1 } } : {})
	});
	async function save(change: (d: Design) => Design, label: string) {
		problem = '';
		try {
			await work.save(change, label);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	async function add(event: SubmitEvent) {
		event.preventDefault();
		const wanted = name.trim();
		if (!wanted) return;
		const made = (d: Design) => ({ numbers: d.numbers, left_out: d.left_out ?? [], scale: d.scale ?? 1 });
		await save(
			(d) => ({ ...d, variants: { ...kept(d), [wanted]: made(d) } as Design['variants'], variant: wanted }),
			word('build.variant', { wanted })
		);
		name = '';
	}
	async function choose(wanted: string) {
		problem = '';
		try {
			await work.chooseVariant(wanted);
		} catch (e) {
			problem = (e as Error).message;
		}
	}
	const remove = (gone: string) =>
		save(
			(d) => {
				const all = { ...d.variants };
				delete all[gone];
				return { ...d, variants: all, variant: d.variant === gone ? '' : d.variant };
			},
			word('build.variant-removed', { gone })
		);
</script>

<h3>{word('build.variants')}</h3>
{#each names as n (n)}
	<div class="row">
		<label><input type="radio" name={id} checked={n === design.variant} onchange={() => choose(n)} /> {n}</label>
		<button class="quiet" aria-label={word('build.remove-variant', { n })} onclick={() => remove(n)}>{word('build.remove-3')}</button>
	</div>
{/each}
<form onsubmit={add} aria-label={word('build.new-variant')}>
	<input
		class="input"
		maxlength="40"
		placeholder={word('build.small-large')}
		aria-label={word('build.name-of-a-variant')}
		bind:value={name}
	/>
	<button class="btn">{word('build.keep-these-numbers')}</button>
</form>
{#if problem}<div class="note bad" role="alert">{problem}</div>{/if}

<style>
	.row {
		display: flex;
		justify-content: space-between;
		padding: 2px 0;
	}
	form {
		display: grid;
		grid-template-columns: 1fr auto;
		gap: 6px;
	}
</style>
