<script lang="ts">
	import { tick } from 'svelte';
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
	/** A change that was refused leaves the value as it was: the box then shows what holds, not what was picked. */
	async function picked(box: HTMLSelectElement) {
		onchange(box.value);
		await tick();
		box.value = value;
	}
</script>

<div class="field">
	<Label for="c-{uid}" class="mb-1 text-steel-700">{label}</Label>
	<Select id="c-{uid}" size="sm" {items} {value} {disabled} placeholder="" onchange={(e) => picked(e.currentTarget as HTMLSelectElement)} />
</div>
