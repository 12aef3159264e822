<!-- Our mark: a panel with a notch. -->
<script lang="ts">
	let { size = 22 }: { size?: number } = $props();
</script>

<svg width={size} height={size} viewBox="0 0 22 22" aria-hidden="true">
	<path d="M1 1H21V21H16V12H6V21H1Z" fill="currentColor" class="mark" />
</svg>

<style>
	.mark {
		color: #1d5a4f;
	}
</style>
