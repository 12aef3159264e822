<!-- What a project may begin with, as small pictures. -->
<script lang="ts">
	import type { DesignFamily } from '../../api/types';
	import Picture from '../../lib/mat/Picture.svelte';
	import { word } from '../../words/words';

	let { families, chosen, onchoose }: { families: DesignFamily[]; chosen: DesignFamily | null; onchoose: (family: DesignFamily) => void } =
		$props();
	const id = $props.id();
</script>

<div class="families" role="radiogroup" aria-label={word('start.begin-with')}>
	{#each families as f (f.id)}
		<label class:on={f.id === chosen?.id} title={f.says}>
			<input type="radio" name="{id}f" value={f.id} checked={f.id === chosen?.id} onchange={() => onchoose(f)} />
			<Picture picture={f.picture} colours={{}} fallback={f.colour} height={58} />
			<span>{f.label}</span>
		</label>
	{/each}
</div>

<style>
	.families {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(84px, 1fr));
		gap: 6px;
	}
	@media (min-width: 1200px) {
		.families {
			grid-template-columns: repeat(6, 1fr); /* twelve in two whole rows */
		}
	}
	.families label {
		display: grid;
		justify-items: center;
		gap: 2px;
		padding: 6px 4px 4px;
		border: 1px solid var(--rule);
		border-radius: 4px;
		cursor: pointer;
		text-align: center;
		font-size: 12.5px;
	}
	.families label:hover {
		background: var(--bench-2);
	}
	.families label.on {
		background: var(--pick);
		border-color: var(--color-mat);
		font-weight: 650;
	}
	.families label:focus-within {
		box-shadow: 0 0 0 2px #57b39f;
	}
	.families input {
		position: absolute;
		opacity: 0;
		pointer-events: none;
	}
</style>
