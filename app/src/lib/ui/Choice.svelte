<script lang="ts">
	import { tick } from 'svelte';
	import { Label, Select } from 'flowbite-svelte';
	interface Props {
		label: string;
		value: string;
		items: { value: string; name: string }[];
		onchange: (value: string) => void;
		disabled?: boolean;
		/** the label is only read out: what stands round the field says it to the eye */
		isUnseen?: boolean;
	}
	let { label, value, items, onchange, disabled = false, isUnseen = false }: Props = $props();
	const uid = $props.id();
	/** A change that was refused leaves the value as it was: the box then shows what holds, not what was picked. */
	async function picked(box: HTMLSelectElement) {
		onchange(box.value);
		await tick();
		box.value = value;
	}
</script>

<div class="field relative">
	<Label for="c-{uid}" class={isUnseen ? 'sr-only' : 'mb-1 text-steel-700'}>{label}</Label>
	<Select id="c-{uid}" size="sm" {items} {value} {disabled} placeholder="" onchange={(e) => picked(e.currentTarget as HTMLSelectElement)} />
</div>
