<!-- Something that is so or not, with what it is called. -->
<script lang="ts">
	let {
		label,
		checked,
		disabled = false,
		onchange
	}: { label: string; checked: boolean; disabled?: boolean; onchange: (now: boolean) => unknown } = $props();
</script>

<label><input type="checkbox" {checked} {disabled} onchange={(e) => onchange(e.currentTarget.checked)} /> {label}</label>

<style>
	label {
		display: flex;
		align-items: center;
		gap: 7px;
		padding: 3px 0;
	}
</style>
