<!-- The kind of a meeting as a small sign: two sheets seen end-on. -->
<script lang="ts">
	import { meetName } from './kinds';
	let { kind }: { kind: string } = $props();
	const paths: Record<string, string> = {
		corner: 'M3 12V3H12',
		tee: 'M2 3H13M7.5 3V13',
		crossing: 'M7.5 1V14M1 7.5H14',
		through: 'M7.5 1V14M1 7.5H5M10 7.5H14',
		stack: 'M2 5H13M2 10H13',
		splice: 'M1 7.5H6M9 7.5H14'
	};
</script>

<svg width="15" height="15" viewBox="0 0 15 15" role="img" aria-label={meetName(kind)} style:flex="none">
	<path d={paths[kind] ?? 'M3 3L12 12M12 3L3 12'} fill="none" stroke="currentColor" stroke-width="2.4" />
</svg>
