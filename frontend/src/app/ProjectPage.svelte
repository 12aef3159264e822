<!-- One project at a time: another id is another page. -->
<script lang="ts">
	import OpenProject from './OpenProject.svelte';
	import { route } from './router';

	const id = $derived(Number(route.params.id));
</script>

{#key id}<OpenProject {id} />{/key}
