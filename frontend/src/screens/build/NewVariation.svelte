<!-- Let something vary: what it is called, its alternatives, and what it sets. -->
<script lang="ts">
	import type { DesignFamily } from '../../api/types';
	import { useProject } from '../../app/project.svelte';
	import { isSet, type Sets, variationsOf, withVariation } from '../../app/variations';
	import { word } from '../../words/words';
	import ActionForm from './ActionForm.svelte';
	import SetsChoice from './SetsChoice.svelte';

	let { family, ondone }: { family: DesignFamily; ondone: () => void } = $props();
	const id = $props.id();
	const work = useProject();
	const first = $derived(!isSet(work.design, { of: 'sizes' }));
	let called = $state('');
	let listed = $state('');
	let sets = $state<Sets | null | undefined>(undefined);
	const wanted = $derived(sets === undefined ? (first ? { of: 'sizes' as const } : null) : sets);
	let problem = $state('');

	async function add() {
		const name = called.trim() || word('build.size');
		const names = [...new Set(listed.split(',').map((a) => a.trim()))].filter(Boolean);
		problem = '';
		if (names.length < 2) return void (problem = word('build.two-names-at-least'));
		if (variationsOf(work.design).some((v) => v.name === name)) return void (problem = word('build.varies-already', { name }));
		const said = word('build.varies-as', { name, names: names.join(', ') });
		await work.save((d) => withVariation(d, name, names, wanted ? [wanted] : []), said).then(ondone, (e: Error) => (problem = e.message));
	}
</script>

<ActionForm label={word('build.something-varies')} does={word('build.let-it-vary')} {problem} ondo={add}>
	<label for="{id}n">{word('build.what-varies')}</label>
	<input id="{id}n" class="input" maxlength="40" placeholder={word('build.size')} bind:value={called} />
	<label for="{id}a">{word('build.its-alternatives')}</label>
	<input id="{id}a" class="input" maxlength="400" placeholder={word('build.small-large')} bind:value={listed} />
	<SetsChoice
		label={word('build.what-it-sets')}
		{family}
		none={word('build.only-what-is-there')}
		value={wanted}
		onchoose={(s) => (sets = s)}
	/>
</ActionForm>
