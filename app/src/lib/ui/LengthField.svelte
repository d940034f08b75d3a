<script lang="ts">
	/** The one place lengths are typed: 1/16, 3/8 in, 0.060", 60 thou, 16 ga, 1.5. Gives millimetres. */
	import type { GaugeTable } from '$core/units/gauge';
	import { formatLength, parseLength, type LengthUnit } from '$core/units/length';
	import { Helper, Input, Label } from 'flowbite-svelte';

	interface Props {
		label: string;
		mm: number;
		unit: LengthUnit;
		onchange: (mm: number) => void;
		gaugeTable?: GaugeTable;
		min?: number;
		max?: number;
		/** what the server found wrong with this field */
		fault?: string;
		hint?: string;
		disabled?: boolean;
		id?: string;
	}
	let { label, mm, unit, onchange, gaugeTable, min = 0, max = 20000, fault, hint, disabled = false, id }: Props = $props();
	const uid = $props.id();
	const inputId = $derived(id ?? `length-${uid}`);

	let typed = $state<string | undefined>();
	const text = $derived(typed ?? formatLength(mm, unit));
	let problem = $state('');

	function commit() {
		if (typed === undefined) return;
		const read = parseLength(typed, { unit, gaugeTable });
		if (!read.ok) {
			problem = read.message;
			return;
		}
		if (read.mm < min || read.mm > max) {
			problem = `Allowed: ${formatLength(min, unit)} to ${formatLength(max, unit)}`;
			return;
		}
		problem = '';
		typed = undefined;
		if (Math.abs(read.mm - mm) > 1e-9) onchange(read.mm);
	}
	function keydown(e: KeyboardEvent) {
		if (e.key === 'Enter') commit();
		if (e.key === 'Escape') {
			typed = undefined;
			problem = '';
		}
	}
	const message = $derived(problem || fault || '');
	/** a fraction or gauge shows what it came to while it is typed */
	const preview = $derived.by(() => {
		if (typed === undefined) return '';
		const read = parseLength(typed, { unit, gaugeTable });
		return read.ok && !/^[\d.,]+( ?mm)?$/.test(typed.trim()) ? `= ${formatLength(read.mm, 'mm', 3)}` : '';
	});
</script>

<div class="field">
	<Label for={inputId} class="mb-1 text-steel-700">{label}</Label>
	<Input
		id={inputId}
		class="tab"
		size="sm"
		value={text}
		{disabled}
		color={message ? 'red' : 'default'}
		aria-invalid={message ? 'true' : undefined}
		aria-describedby={message || hint || preview ? `${inputId}-note` : undefined}
		oninput={(e) => (typed = (e.currentTarget as HTMLInputElement).value)}
		onblur={commit}
		onkeydown={keydown}
	/>
	{#if message || preview || hint}
		<Helper id="{inputId}-note" class="mt-1 {message ? 'text-plum-700' : 'text-steel-600'}">{message || preview || hint}</Helper>
	{/if}
</div>
