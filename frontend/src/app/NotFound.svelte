<script lang="ts">
	import { p } from './router';
	import { word } from '../words/words';
</script>

<main class="p-10">
	<h2>{word('shell.there-is-no-such-page')}</h2>
	<p class="mt-2"><a class="underline" href={p('/')}>{word('shell.back-to-the-shop-board')}</a></p>
</main>
