<!-- On which face of a panel something stands or lies. -->
<script lang="ts">
	import Choice from '../../lib/ui/Choice.svelte';
	import { word } from '../../words/words';

	let { value = $bindable() }: { value: 'front' | 'back' } = $props();
</script>

<Choice
	label={word('build.side')}
	options={[
		{ value: 'front', name: word('build.front-face') },
		{ value: 'back', name: word('build.back-face') }
	]}
	{value}
	onchoose={(v) => (value = v)}
/>
