<script lang="ts">
	import { Label, Select } from 'flowbite-svelte';
	interface Props {
		label: string;
		value: string;
		items: { value: string; name: string }[];
		onchange: (value: string) => void;
		disabled?: boolean;
	}
	let { label, value, items, onchange, disabled = false }: Props = $props();
	const uid = $props.id();
</script>

<div class="field">
	<Label for="c-{uid}" class="mb-1 text-steel-700">{label}</Label>
	<Select id="c-{uid}" size="sm" {items} {value} {disabled} placeholder="" onchange={(e) => onchange((e.currentTarget as HTMLSelectElement).value)} />
</div>
