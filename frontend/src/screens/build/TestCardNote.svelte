<!-- A test card is not built: its numbers were fixed when it was made. -->
<script lang="ts">
	import { useProject } from '../../app/project.svelte';

	const work = useProject();
</script>

<h2>Test card</h2>
<p class="mt-2">
	Its numbers were fixed when it was made, so that newer evidence does not change a card that was cut. It is cut on its lines: nothing is
	corrected for kerf.
</p>
<p class="mt-2">Next: cut it, then enter on Sheets what came of it.</p>
<p class="mt-3 flex flex-wrap gap-2">
	<a class="btn main" href="/projects/{work.id}/sheets">Enter results</a>
	<a class="btn" href="/projects/{work.id}/run">Cut it</a>
</p>
