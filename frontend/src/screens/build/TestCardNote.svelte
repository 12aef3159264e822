<!-- A test card is not built: its numbers were fixed when it was made. -->
<script lang="ts">
	import { useProject } from '../../app/project.svelte';
	import { word } from '../../words/words';

	const work = useProject();
</script>

<h2>{word('build.test-card')}</h2>
<p class="mt-2">
	{word('build.its-numbers-were-fixed-when-it')}
</p>
<p class="mt-2">{word('build.next-cut-it-then-enter-on')}</p>
<p class="mt-3 flex flex-wrap gap-2">
	<a class="btn main" href="/projects/{work.id}/sheets">{word('build.enter-results')}</a>
	<a class="btn" href="/projects/{work.id}/run">{word('build.cut-it')}</a>
</p>
