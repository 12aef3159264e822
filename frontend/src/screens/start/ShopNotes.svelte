<!-- What of the rack is guessed, measured long ago, or nearly used up. -->
<script lang="ts">
	import type { Rack } from '../../api/types';
	import { word } from '../../words/words';

	let { rack }: { rack: Rack } = $props();
	const low = $derived(rack.stocks.filter((s) => s.whole + s.offcuts <= 1));
	const guesses = $derived(rack.stocks.filter((s) => s.verdict === 'allowed' && (s.guess || s.kerf_guess)));

	const OLD_DAYS = 180;
	const age = (iso: string) => Math.floor((Date.now() - new Date(iso).getTime()) / 86_400_000);
	const old = $derived(rack.stocks.filter((s) => s.verdict === 'allowed' && s.kerf_on && age(s.kerf_on) > OLD_DAYS));
</script>

{#each guesses as s (s.id)}<div class="note">
		<b>{s.name}</b><br />{s.kerf_guess ? word('start.its-kerf-was-never-measured-here') : word('start.its-thickness-is-a-guess')}
	</div>{/each}
{#each old as s (s.id)}<div class="note">
		<b>{s.name}</b><br />{word('start.its-kerf-was-measured-days-ago', { kerfon: age(s.kerf_on!) })}
	</div>{/each}
{#each low as s (s.id)}<div class="note bad">
		<b>{s.name}</b><br />{word('start.left-on-the-shelf', { whole: s.whole + s.offcuts })}
	</div>{/each}
{#if !guesses.length && !low.length && !old.length}<p class="quiet">{word('start.everything-is-measured-and-stocked')}</p>{/if}
