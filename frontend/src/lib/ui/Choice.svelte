<!-- One of a few, side by side. -->
<script lang="ts" generics="T extends string">
	let {
		label,
		options,
		value,
		onchoose
	}: {
		label: string;
		options: { value: T; name: string }[];
		value: T;
		onchoose: (value: T) => void;
	} = $props();
	const id = $props.id();
</script>

<div class="choice" role="radiogroup" aria-label={label}>
	{#each options as o (o.value)}
		<label class:on={o.value === value}>
			<input type="radio" name={id} value={o.value} checked={o.value === value} onchange={() => onchoose(o.value)} />
			{o.name}
		</label>
	{/each}
</div>

<style>
	.choice {
		display: flex;
		flex-wrap: wrap; /* in a longer language */
		border: 1px solid var(--rule);
		border-radius: 4px;
		overflow: hidden;
	}
	label {
		position: relative; /* the hidden button stays in it: elsewhere it would make the page scroll */
		flex: 1;
		text-align: center;
		padding: 5px 4px;
		cursor: pointer;
		white-space: nowrap;
		margin: 0 -1px -1px 0; /* the last line of each row lies under the edge */
		border: solid var(--rule);
		border-width: 0 1px 1px 0;
	}
	label:hover {
		background: var(--pick);
	}
	label.on {
		background: var(--color-mat);
		color: #fff;
	}
	label:focus-within {
		box-shadow: inset 0 0 0 2px #57b39f;
	}
	input {
		position: absolute;
		inset: 0;
		opacity: 0;
		pointer-events: none;
	}
</style>
