<script lang="ts">
	/** A plain number with its unit beside it; empty is allowed where `optional`. */
	import { Helper, Input, Label } from 'flowbite-svelte';

	interface Props {
		label: string;
		value: number | undefined;
		unit?: string;
		onchange: (value: number | undefined) => void;
		min?: number;
		max?: number;
		optional?: boolean;
		fault?: string;
		hint?: string;
		disabled?: boolean;
		/** the label is only read out: what stands round the field says it to the eye */
		isUnseen?: boolean;
	}
	let {
		label,
		value,
		unit = '',
		onchange,
		min = -Infinity,
		max = Infinity,
		optional = false,
		fault,
		hint,
		disabled = false,
		isUnseen = false
	}: Props = $props();
	const uid = $props.id();
	let typed = $state<string | undefined>();
	let problem = $state('');
	const text = $derived(typed ?? (value === undefined ? '' : String(Math.round(value * 1e6) / 1e6)));
	function commit() {
		if (typed === undefined) return;
		const trimmed = typed.trim().replace(',', '.');
		if (trimmed === '' && optional) {
			typed = undefined;
			problem = '';
			onchange(undefined);
			return;
		}
		const v = Number(trimmed);
		if (trimmed === '' || !Number.isFinite(v)) problem = `“${typed}” is not a number`;
		else if (v < min || v > max) problem = `Allowed: ${min} to ${max} ${unit}`;
		else {
			problem = '';
			typed = undefined;
			if (v !== value) onchange(v);
		}
	}
	const message = $derived(problem || fault || '');
</script>

<div class="field relative">
	<Label for="n-{uid}" class={isUnseen ? 'sr-only' : 'mb-1 text-steel-700'}>{label}{unit ? `, ${unit}` : ''}</Label>
	<Input
		id="n-{uid}"
		class="tab"
		size="sm"
		inputmode="decimal"
		value={text}
		{disabled}
		color={message ? 'red' : 'default'}
		aria-invalid={message ? 'true' : undefined}
		aria-describedby={message || hint ? `n-${uid}-note` : undefined}
		oninput={(e) => (typed = (e.currentTarget as HTMLInputElement).value)}
		onblur={commit}
		onkeydown={(e: KeyboardEvent) => {
			if (e.key === 'Enter') commit();
			if (e.key === 'Escape') {
				typed = undefined;
				problem = '';
			}
		}}
	/>
	{#if message || hint}
		<Helper id="n-{uid}-note" class="mt-1 {message ? 'text-plum-700' : 'text-steel-600'}">{message || hint}</Helper>
	{/if}
</div>
