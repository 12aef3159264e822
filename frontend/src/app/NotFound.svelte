<script lang="ts">
	import { p } from './router';
</script>

<main class="p-10">
	<h2>There is no such page</h2>
	<p class="mt-2"><a class="underline" href={p('/')}>Back to the shop board</a></p>
</main>
