<script lang="ts">
	/** One entry of a register, field by field. Lengths in the person's unit; what is empty is left out. */
	import type { RegisterField } from '$core/registers/registers';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';
	import { untrack } from 'svelte';

	interface Props {
		fields: readonly RegisterField[];
		item?: Record<string, unknown>;
		unit: 'mm' | 'in';
		onsave(item: Record<string, unknown>): void;
		onleave(): void;
	}
	let { fields, item, unit, onsave, onleave }: Props = $props();
	const first = (f: RegisterField): unknown => (f.is === 'choice' && f.must ? f.items[0].value : f.is === 'length' ? 0 : '');
	// taken once: another entry has a form of its own
	let values = $state<Record<string, unknown>>(untrack(() => Object.fromEntries(fields.map((f) => [f.key, item?.[f.key] ?? first(f)]))));
	const filled = (): Record<string, unknown> =>
		Object.fromEntries(
			Object.entries(values)
				.map(([k, v]) => [k, typeof v === 'string' ? v.trim() : v])
				.filter(([, v]) => v !== '' && v !== undefined)
		);
	const id = $props.id();
</script>

<form
	class="my-3 grid grid-cols-2 gap-3 border-l-4 border-straw-600 bg-steel-50 p-3 sm:grid-cols-4"
	onsubmit={(e) => {
		e.preventDefault();
		onsave(filled());
	}}
>
	{#each fields as f (f.key)}
		{#if f.is === 'length'}
			<LengthField label={f.label} mm={values[f.key] as number} {unit} min={0} max={20000} onchange={(v) => (values[f.key] = v)} />
		{:else if f.is === 'number'}
			<NumberField
				label={f.label}
				unit={f.unit ?? ''}
				value={values[f.key] === '' ? undefined : (values[f.key] as number)}
				min={0}
				max={10000}
				optional={!f.must}
				onchange={(v) => (values[f.key] = v)}
			/>
		{:else if f.is === 'choice'}
			<Choice
				label={f.label}
				value={values[f.key] as string}
				items={[...(f.must ? [] : [{ value: '', name: 'not said' }]), ...f.items]}
				onchange={(v) => (values[f.key] = v)}
			/>
		{:else}
			<div class={f.key === 'note' ? 'col-span-2' : ''}>
				<Label for="{id}-{f.key}" class="mb-1 text-steel-700">{f.label}</Label><Input
					id="{id}-{f.key}"
					size="sm"
					type={f.is === 'day' ? 'date' : 'text'}
					required={f.must}
					maxlength={f.key === 'note' ? 300 : 80}
					bind:value={values[f.key] as string}
				/>
			</div>
		{/if}
	{/each}
	<div class="col-span-full flex gap-2">
		<Button type="submit" size="sm">Keep it</Button><Button size="sm" color="alternative" onclick={onleave}>Leave it</Button>
	</div>
</form>
