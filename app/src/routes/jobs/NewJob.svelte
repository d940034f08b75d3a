<script lang="ts">
	import { goto } from '$app/navigation';
	import { CATALOGUE, FAMILY_DEFAULTS, MADE_FAMILIES, type MadeFamily } from '$core/families';
	import type { FamilyParameters } from '$core/families/family';
	import type { LengthUnit } from '$core/units/length';
	import { call, type Refusal } from '$lib/call';
	import FamilyPreview from '$lib/job/FamilyPreview.svelte';
	import FamilyForm from '$lib/ui/FamilyForm.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';

	interface Props {
		unit: LengthUnit;
		grades: { id: string; name: string }[];
		/** jobs that this one may be like */
		earlier?: readonly { id: string; number: number; name: string; quantity: number }[];
	}
	let { unit, grades, earlier = [] }: Props = $props();
	const uid = $props.id();
	let kind = $state<MadeFamily>('open-trough');
	let parameters = $state<FamilyParameters>({ ...FAMILY_DEFAULTS['open-trough'] });
	/** the job it is like; of a family where none is said */
	let like = $state('');
	let name = $state('');
	let customer = $state('');
	let dueDate = $state('');
	let quantity = $state(1);
	let busy = $state(false);
	let refusal = $state<Refusal | undefined>();

	async function submit(e: SubmitEvent) {
		e.preventDefault();
		busy = true;
		const head = { name: name.trim(), ...(customer.trim() ? { customer: customer.trim() } : {}), ...(dueDate ? { dueDate } : {}), quantity };
		const r = like
			? await call<{ job: { id: string } }>('POST', `/api/jobs/${like}/duplicate`, head)
			: await call<{ job: { id: string } }>('POST', '/api/jobs', { ...head, family: { kind, parameters: $state.snapshot(parameters) } });
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
	{#if earlier.length}<Choice
			label="Like an earlier job"
			value={like}
			items={[{ value: '', name: 'no: by its family' }, ...earlier.map((j) => ({ value: j.id, name: `${j.number} ${j.name}` }))]}
			onchange={(id) => {
				like = id;
				quantity = earlier.find((j) => j.id === id)?.quantity ?? quantity;
			}}
		/>{/if}
	{#if like}<p class="text-sm text-steel-700">
			The new job begins with that one's whole plan: parts, hold-downs, tacks, settings and order. Its sizes can be changed on Parts, and everything
			else is worked out anew; its pieces, readings and signatures stay where they are.
		</p>{/if}
	<fieldset class={like ? 'hidden' : ''}>
		<legend class="mb-1 text-sm font-medium text-steel-700">What is it?</legend>
		<div class="grid grid-cols-3 gap-2 sm:grid-cols-4 lg:grid-cols-6">
			{#each MADE_FAMILIES as k (k)}
				<div
					class="relative flex flex-col items-center border-2 bg-white p-1 text-center text-[12px] leading-4 text-steel-900 focus-within:outline-2 {kind ===
					k
						? 'border-straw-400 bg-straw-50 font-medium'
						: 'border-steel-200'}"
				>
					<input
						type="radio"
						class="absolute inset-0 h-full w-full cursor-pointer opacity-0"
						name="family-{uid}"
						value={k}
						aria-label={CATALOGUE[k].name}
						checked={kind === k}
						onchange={() => {
							kind = k;
							parameters = { ...FAMILY_DEFAULTS[k] };
						}}
					/>
					<img src="/api/families/{k}.svg" alt="" width="120" height="84" loading="lazy" class="h-[64px] w-full object-contain" />
					<span>{CATALOGUE[k].name}</span>
				</div>
			{/each}
		</div>
	</fieldset>
	{#if !like}<div class="grid grid-cols-1 gap-5 md:grid-cols-[1.2fr_1fr]">
			<div>
				<p class="mb-2 text-sm text-steel-600">{CATALOGUE[kind].says}.</p>
				<FamilyForm folds {kind} {parameters} {unit} {grades} faults={refusal?.faults ?? []} onchange={(p) => (parameters = p)} />
			</div>
			<FamilyPreview {kind} {parameters} {unit} />
		</div>{/if}
	<div class="flex justify-end"><Button type="submit" disabled={busy}>{busy ? 'Making the plan…' : 'Make the job'}</Button></div>
</form>
