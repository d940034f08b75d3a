<script lang="ts">
	import { goto } from '$app/navigation';
	import { CATALOGUE, FAMILY_DEFAULTS, MADE_FAMILIES, type MadeFamily } from '$core/families';
	import type { FamilyParameters } from '$core/families/family';
	import type { LengthUnit } from '$core/units/length';
	import { call, type Refusal } from '$lib/call';
	import Choice from '$lib/ui/Choice.svelte';
	import FamilyForm from '$lib/ui/FamilyForm.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';

	let { unit, grades }: { unit: LengthUnit; grades: { id: string; name: string }[] } = $props();
	let kind = $state<MadeFamily>('open-trough');
	let parameters = $state<FamilyParameters>({ ...FAMILY_DEFAULTS['open-trough'] });
	let name = $state('');
	let customer = $state('');
	let dueDate = $state('');
	let quantity = $state(1);
	let busy = $state(false);
	let refusal = $state<Refusal | undefined>();

	async function submit(e: SubmitEvent) {
		e.preventDefault();
		busy = true;
		const r = await call<{ job: { id: string } }>('POST', '/api/jobs', {
			name: name.trim(),
			...(customer.trim() ? { customer: customer.trim() } : {}),
			...(dueDate ? { dueDate } : {}),
			quantity,
			family: { kind, parameters: $state.snapshot(parameters) }
		});
		busy = false;
		if (r.ok) await goto(`/jobs/${r.data.job.id}/parts`);
		else refusal = r.refusal;
	}
	const faultOf = (field: string) => refusal?.faults.find((f) => f.field === field)?.allowed;
</script>

<form class="space-y-4" onsubmit={submit}>
	{#if refusal}<Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice>{/if}
	<div class="grid grid-cols-2 gap-4">
		<div>
			<Label for="job-name" class="mb-1 text-steel-700">Job name</Label>
			<Input id="job-name" size="sm" required maxlength={120} bind:value={name} aria-invalid={faultOf('name') ? 'true' : undefined} />
			{#if faultOf('name')}<p class="mt-1 text-sm text-plum-700">{faultOf('name')}</p>{/if}
		</div>
		<div>
			<Label for="job-customer" class="mb-1 text-steel-700">Customer</Label>
			<Input id="job-customer" size="sm" maxlength={120} bind:value={customer} />
		</div>
		<NumberField label="Quantity" value={quantity} min={1} max={500} onchange={(v) => (quantity = v ?? 1)} fault={faultOf('quantity')} />
		<div>
			<Label for="job-due" class="mb-1 text-steel-700">Due</Label>
			<Input id="job-due" type="date" size="sm" class="tab" bind:value={dueDate} />
		</div>
	</div>
	<Choice
		label="What is it?"
		value={kind}
		items={MADE_FAMILIES.map((k) => ({ value: k, name: CATALOGUE[k].name }))}
		onchange={(v) => {
			kind = v as typeof kind;
			parameters = { ...FAMILY_DEFAULTS[kind] };
		}}
	/>
	<p class="text-sm text-steel-600">{CATALOGUE[kind].says}.</p>
	<FamilyForm {kind} {parameters} {unit} {grades} faults={refusal?.faults ?? []} onchange={(p) => (parameters = p)} />
	<div class="flex justify-end"><Button type="submit" disabled={busy}>{busy ? 'Making the plan…' : 'Make the job'}</Button></div>
</form>
