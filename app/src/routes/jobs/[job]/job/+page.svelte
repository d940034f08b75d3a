<script lang="ts">
	import { VERDICT_WORDS } from '$core/features/verdict';
	import { FEATURE_WORDS, PIECE_WORDS, POSTURES, POSTURE_WORDS, TAPE_OVER, TAPE_WORDS, type Posture, type TapeOver } from '$core/document/words';
	import { goto } from '$app/navigation';
	import { refresh } from '$lib/refresh';
	import { featureKind, unitOf } from '$core/features';
	import { DECISIONS, DECISION_WORDS, type Decision } from '$core/measure/decision';
	import { CLASSES, generalTolerance } from '$core/features/general';
	import { withoutFeature } from '$core/compose/features';
	import FeatureAdd from '$lib/job/FeatureAdd.svelte';
	import type { AnyFeature, PlanDocument } from '$core/document/schema';
	import { call, type Refusal } from '$lib/call';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { quantity } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Input, Label, Textarea } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let form = $derived({
		name: data.job.name,
		customer: data.job.customer ?? '',
		dueDate: data.job.dueDate ?? '',
		quantity: data.job.quantity,
		notes: data.job.notes ?? ''
	});
	let refusal = $state<Refusal | undefined>();
	let saved = $state(false);
	const fault = (f: string) => refusal?.faults.find((x) => x.field === f)?.allowed;

	async function save() {
		const r = await call('PATCH', `/api/jobs/${data.job.id}`, {
			version: data.job.version,
			name: form.name.trim(),
			customer: form.customer.trim() || null,
			dueDate: form.dueDate || null,
			quantity: form.quantity,
			notes: form.notes || null
		});
		saved = r.ok;
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await refresh();
	}
	async function overwrite() {
		const now = refusal?.current as { version: number } | undefined;
		if (!now) return;
		data.job.version = now.version;
		await save();
	}
	async function duplicate() {
		const r = await call<{ job: { id: string } }>('POST', `/api/jobs/${data.job.id}/duplicate`, { name: `${data.job.name} (copy)`.slice(0, 120) });
		if (r.ok) await goto('/jobs');
		else refusal = r.refusal;
	}
	const generalOf = (f: AnyFeature) => featureKind(f).general;
	const fromClass = (f: AnyFeature, c: string) =>
		desk.change(`tolerance of ${f.name}`, (d) => {
			d.features.find((x) => x.id === f.id)!.tolerance = generalTolerance(f, d, c);
		});
	const rename = (f: AnyFeature, name: string) => {
		if (!name.trim() || name.trim() === f.name) return;
		desk.change(`name of ${f.name}`, (d) => {
			d.features.find((x) => x.id === f.id)!.name = name.trim().slice(0, 80);
		});
	};
	const remove = (f: AnyFeature) =>
		desk.change(`${f.name} taken away`, (d) => {
			const without = withoutFeature(d, f.id);
			d.features = without.features;
			d.points = without.points;
		});
	const tapeOver = (f: AnyFeature, over: string) =>
		desk.change(`where the tape of ${f.name} lies`, (d) => {
			const x = d.features.find((y) => y.id === f.id)!;
			if (x.kind === 'length' || x.kind === 'squareness') x.over = over as TapeOver;
		});
	function add(made: PlanDocument, label: string) {
		desk.change(label, (d) => {
			d.features = made.features;
			d.points = made.points;
		});
	}
	/** a value of the feature in the person's unit, from the core's and back */
	const per = (f: AnyFeature) => (unitOf(f) === '°' || unit === 'mm' ? 1 : 25.4);
	/** a worn part to be copied, crooked or not: its measure is the target instead of the drawing's */
	const original = (f: AnyFeature, shown: number | undefined) =>
		desk.change(`target of ${f.name}`, (d) => {
			const x = d.features.find((y) => y.id === f.id)!;
			if (shown === undefined) delete x.original;
			else x.original = shown * per(f);
		});
	function typed(f: AnyFeature, value: number | undefined) {
		if (value === undefined) return;
		const v = value * per(f);
		desk.change(`tolerance of ${f.name}`, (d) => {
			const g = d.features.find((x) => x.id === f.id)!;
			g.tolerance = { upper: v, ...(f.tolerance.lower === undefined ? {} : { lower: -v }), source: 'typed' };
		});
	}
	const classOf = (f: AnyFeature) => /^ISO 13920-([A-H])/.exec(f.tolerance.source)?.[1] ?? 'typed';
</script>

<main id="main" class="relative flex-1 overflow-y-auto p-5">
	<div class="grid max-w-[1120px] grid-cols-1 gap-5 md:grid-cols-[1fr_1.35fr]">
		<div class="space-y-5">
			<Panel title="Order">
				{#if refusal}
					<div class="mb-3">
						<Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice>
						{#if refusal.status === 409 && refusal.current}<Button size="xs" class="mt-2" onclick={overwrite}>Save mine over it</Button>
							<Button
								size="xs"
								color="alternative"
								class="mt-2"
								onclick={() => {
									refusal = undefined;
									void refresh();
								}}>Take theirs</Button
							>{/if}
					</div>
				{/if}
				<div class="space-y-3">
					<div>
						<Label for="name" class="mb-1 text-steel-700">Job name</Label><Input
							id="name"
							size="sm"
							bind:value={form.name}
							disabled={!desk.mayEdit}
							maxlength={120}
						/>{#if fault('name')}<p class="text-sm text-plum-700">{fault('name')}</p>{/if}
					</div>
					<div>
						<Label for="customer" class="mb-1 text-steel-700">Customer</Label><Input
							id="customer"
							size="sm"
							bind:value={form.customer}
							disabled={!desk.mayEdit}
							maxlength={120}
						/>
					</div>
					<div class="grid grid-cols-2 gap-3">
						<NumberField
							label="Quantity"
							value={form.quantity}
							min={1}
							max={500}
							fault={fault('quantity')}
							onchange={(v) => (form.quantity = v ?? 1)}
							disabled={!desk.mayEdit}
						/>
						<div>
							<Label for="due" class="mb-1 text-steel-700">Due</Label><Input
								id="due"
								type="date"
								size="sm"
								class="tab"
								bind:value={form.dueDate}
								disabled={!desk.mayEdit}
							/>
						</div>
					</div>
					<div>
						<Label for="notes" class="mb-1 text-steel-700">Notes</Label><Textarea
							id="notes"
							rows={3}
							class="w-full"
							bind:value={form.notes}
							disabled={!desk.mayEdit}
						/>
					</div>
					{#if desk.mayEdit}<div class="flex items-center gap-3">
							<Button size="sm" onclick={save}>Save order</Button>{#if saved}<span class="text-sm text-sound-700" role="status">Saved</span>{/if}
						</div>{/if}
				</div>
			</Panel>
			<Panel title="Pieces">
				<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
				<div class="overflow-x-auto" role="region" aria-label="Pieces of this job" tabindex="0">
					<table class="w-full text-sm">
						<thead
							><tr class="text-left text-steel-600"
								><th class="py-1 font-medium">Serial</th><th class="font-medium">State</th><th class="font-medium">Readings</th><th></th></tr
							></thead
						>
						<tbody>
							{#each data.pieces as p (p.id)}
								<tr class="border-t border-steel-200"
									><td class="tab py-1.5">{p.serial}</td><td>{PIECE_WORDS[p.state]}</td><td class="tab">{p.readings}</td><td class="text-right"
										><a class="text-primary-700 underline" href="/jobs/{data.job.id}/weld-out?piece={p.id}">Bench</a></td
									></tr
								>
							{/each}
						</tbody>
					</table>
				</div>
			</Panel>
			<Panel title="Revisions and files">
				<ul class="mb-3 text-sm">
					{#each data.revisions as r (r.id)}<li class="border-t border-steel-200 py-1 first:border-0">
							Revision {r.revision}: {r.state}{r.issuedAt ? ` ${new Date(r.issuedAt).toLocaleDateString()} by ${r.issuedBy}` : ''}
						</li>{/each}
				</ul>
				<div class="flex flex-wrap gap-3 text-sm">
					<a class="text-primary-700 underline" href="/api/jobs/{data.job.id}/export" download>Job file</a>
					<a class="text-primary-700 underline" href="/api/jobs/{data.job.id}/record" download>Job with its record</a>
					{#if data.hasHistory}<a class="text-primary-700 underline" href="/jobs/{data.job.id}/history">History it came with</a>{/if}
					<a class="text-primary-700 underline" href="/api/jobs/{data.job.id}/traveller.pdf" target="_blank" rel="noopener">Traveller (PDF)</a>
					<a class="text-primary-700 underline" href="/api/jobs/{data.job.id}/run-sheet.pdf" target="_blank" rel="noopener">Run sheet (PDF)</a>
					<a class="text-primary-700 underline" href="/api/jobs/{data.job.id}/marks-sheet.pdf" target="_blank" rel="noopener">Marks sheet (PDF)</a>
					<a class="text-primary-700 underline" href="/api/jobs/{data.job.id}/labels.pdf" target="_blank" rel="noopener">Labels (PDF)</a>
					{#if desk.mayEdit}<button type="button" class="text-primary-700 underline" onclick={duplicate}>Duplicate this job</button>{/if}
				</div>
			</Panel>
		</div>
		<Panel title="What must come true">
			{#snippet aside()}<span class="text-sm text-steel-600">tolerances typed, or by ISO 13920 class</span>{/snippet}
			<div class="mb-3 grid max-w-[600px] gap-3 sm:grid-cols-2">
				<Choice
					label="A reading near its limit"
					value={desk.doc.decision ?? 'as-read'}
					items={DECISIONS.map((d) => ({ value: d as string, name: DECISION_WORDS[d] }))}
					onchange={(v) =>
						desk.change('how a reading near its limit is taken', (d) => {
							if (v === 'as-read') delete d.decision;
							else d.decision = v as Decision;
						})}
					disabled={!desk.mayEdit}
				/>
				<Choice
					label="How the finished piece lies while it is measured"
					value={desk.doc.posture}
					items={POSTURES.map((p) => ({ value: p as string, name: POSTURE_WORDS[p] }))}
					onchange={(p) =>
						desk.change('how the piece lies', (d) => {
							d.posture = p as Posture;
						})}
					disabled={!desk.mayEdit}
				/>
			</div>
			{#if desk.doc.features.length === 0}<p class="text-steel-600">
					Nothing to measure is named yet: choose from what the piece offers, or make a feature of your own.
				</p>{/if}
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<div class="overflow-x-auto" role="region" aria-label="Features and their limits" tabindex="0">
				<table class="w-full text-sm">
					<thead
						><tr class="text-left text-steel-600"
							><th class="py-1 font-medium">Feature</th><th class="font-medium">Class</th><th class="w-28 font-medium">Limit</th><th
								class="text-right font-medium">Forecast</th
							></tr
						></thead
					>
					<tbody>
						{#each desk.doc.features as f (f.id)}
							{@const r = desk.shown?.features.find((x) => x.id === f.id)}
							<tr class="border-t border-steel-200 align-top">
								<td class="py-2 pr-2"
									><input
										class="w-full rounded-sm border border-transparent bg-transparent px-1 py-0.5 font-medium hover:border-steel-300 focus:border-steel-500"
										aria-label="Name of {f.name}"
										value={f.name}
										maxlength={80}
										disabled={!desk.mayEdit}
										onchange={(e) => rename(f, e.currentTarget.value)}
									/><br /><span class="px-1 text-steel-600">{FEATURE_WORDS[f.kind]}</span>
									{#if f.kind === 'length' || f.kind === 'squareness'}
										<select
											class="ml-1 rounded-sm py-0.5 text-[13px]"
											aria-label="Where the tape of {f.name} lies"
											value={f.over ?? 'outside'}
											disabled={!desk.mayEdit}
											onchange={(e) => tapeOver(f, e.currentTarget.value)}
											>{#each TAPE_OVER as o (o)}<option value={o}>{TAPE_WORDS[o]}</option>{/each}</select
										>
									{/if}
									{#if desk.mayEdit}<button type="button" class="ml-1 text-[13px] text-plum-700 underline" onclick={() => remove(f)}
											>take away<span class="sr-only"> {f.name}</span></button
										>{/if}
									{#if r?.nominal !== undefined}
										<details open={f.original !== undefined} class="text-[13px]">
											<summary class="cursor-pointer text-primary-700 underline">copy a measured original</summary>
											<NumberField
												label="Measured original, {unitOf(f) === '°' ? '°' : unit}"
												value={f.original === undefined ? undefined : f.original / per(f)}
												min={0}
												max={20000}
												optional
												hint="empty: the drawing, {quantity(r.nominal, r.unit, unit)}"
												onchange={(v) => original(f, v)}
												disabled={!desk.mayEdit}
											/>
										</details>
									{/if}</td
								>
								<td class="w-36 py-1.5 pr-2"
									><Choice
										label="Class of {f.name}"
										isUnseen
										value={classOf(f)}
										items={[
											...CLASSES[generalOf(f).classes].map((c) => ({ value: c as string, name: `Class ${c}` })),
											{ value: 'typed', name: 'Typed' }
										]}
										onchange={(c) => c !== 'typed' && fromClass(f, c)}
										disabled={!desk.mayEdit}
									/></td
								>
								<td class="py-1.5 pr-2"
									><NumberField
										label="Limit of {f.name}"
										isUnseen
										value={Math.round((f.tolerance.upper / per(f)) * 1000) / 1000}
										min={0.001}
										max={1000}
										hint={f.tolerance.lower === undefined ? 'at most' : 'plus or minus'}
										onchange={(v) => typed(f, v)}
										disabled={!desk.mayEdit}
									/></td
								>
								<td class="tab py-2 text-right whitespace-nowrap"
									>{r && !r.notFound && r.verdict !== 'final shape' ? quantity(r.predicted, r.unit, unit) : '–'}<br /><span
										class="font-sans text-steel-600">{r ? VERDICT_WORDS[r.verdict] : ''}</span
									></td
								>
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
			{#if desk.mayEdit}<FeatureAdd plan={desk.doc} {unit} onadd={add} />{/if}
		</Panel>
	</div>
</main>
