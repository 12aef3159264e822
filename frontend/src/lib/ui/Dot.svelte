<!-- One dot of status. Its shape differs too, so that it can be told without its colour. -->
<script lang="ts">
	import { word } from '../../words/words';
	let { dot }: { dot: 'grey' | 'green' | 'amber' | 'red' } = $props();
	const words = { grey: word('common.nothing-yet'), green: word('common.fine'), amber: word('common.look'), red: word('common.must-fix') };
	const fills = { grey: '#9aa5a1', green: 'var(--good)', amber: 'var(--warn)', red: 'var(--bad)' };
</script>

<svg width="11" height="11" viewBox="0 0 11 11" role="img" aria-label={words[dot]} style:flex="none">
	{#if dot === 'red'}<path d="M1 1H10V10H1Z" fill={fills.red} />
	{:else if dot === 'amber'}<path d="M5.5 0.4L10.6 10H0.4Z" fill={fills.amber} />
	{:else if dot === 'green'}<circle cx="5.5" cy="5.5" r="4.6" fill={fills.green} />
	{:else}<circle cx="5.5" cy="5.5" r="3.9" fill="none" stroke={fills.grey} stroke-width="1.6" />{/if}
</svg>
