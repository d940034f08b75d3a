<script lang="ts">
	import { refresh } from '$lib/refresh';
	import { arcEnergy } from '$core/heat/arcEnergy';
	import { call, type Refusal } from '$lib/call';
	import { length } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import { MATERIAL_GROUPS, type MaterialGroup } from '$core/materials/grades';
	import { GROUP_GRADE } from '$core/materials/metals';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayPlan = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	const mayHeat = $derived(data.person?.roles.some((r) => r !== 'inspector') ?? false);
	let refusal = $state<Refusal | undefined>();
	let heat = $state({ heat: '', materialId: '1.4301', thicknessMm: 1.5, supplier: '' });
	let own = $state({
		id: '',
		name: '',
		group: 'austenitic' as MaterialGroup,
		eModulus: 200000,
		proofStrength: 230,
		density: 7900,
		conductivity: 15,
		alpha: 17,
		heatPerVolume: 4.4,
		lambdaHot: 20,
		meltC: 1400,
		source: ''
	});
	const all = $derived([...data.grades, ...data.materials]);

	async function send(method: 'POST' | 'PATCH', path: string, body: unknown) {
		const r = await call(method, path, body);
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await refresh();
		return r.ok;
	}
	async function addHeat(e: SubmitEvent) {
		e.preventDefault();
		const { supplier, ...rest } = heat;
		if (await send('POST', '/api/heats', { ...rest, heat: rest.heat.trim(), ...(supplier.trim() ? { supplier: supplier.trim() } : {}) }))
			heat.heat = '';
	}
	async function addMaterial(e: SubmitEvent) {
		e.preventDefault();
		const { gaugeTable, poisson } = GROUP_GRADE[own.group];
		const ok = await send('POST', '/api/materials', {
			material: {
				id: own.id.trim(),
				name: own.name.trim(),
				group: own.group,
				gaugeTable,
				eModulus: own.eModulus,
				poisson,
				proofStrength: own.proofStrength,
				density: own.density,
				conductivity: own.conductivity / 1000,
				responsePair: { alpha: own.alpha * 1e-6, rhoC: own.heatPerVolume * 1e-3, lambda: own.lambdaHot / 1000, meltC: own.meltC },
				source: own.source.trim()
			}
		});
		if (ok) own = { ...own, id: '', name: '' };
	}
</script>

<main id="main" class="mx-auto max-w-[1180px] space-y-5 px-6 py-6">
	<div class="flex flex-wrap items-baseline justify-between gap-3">
		<h1 class="text-2xl">Library</h1>
		<p>
			<a class="text-primary-700 underline" href="/library/registers"
				>Bars, clamps, instruments, power sources, tungstens, filler: what the shop has</a
			>
			and <a class="text-primary-700 underline" href="/learned">what it has learned</a>, and
			<a class="text-primary-700 underline" href="/coupons">coupons</a>
		</p>
	</div>
	{#if refusal}<Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice>{/if}
	<div class="grid grid-cols-2 gap-5">
		<Panel title="Shop procedures">
			{#if !data.procedures.length}<p class="text-steel-600">
					None yet. In a job's Weld stage, “Keep as a shop procedure” puts its settings here.
				</p>{/if}
			<ul>
				{#each data.procedures as p (p.id)}
					<li class="flex items-baseline gap-3 border-t border-steel-200 py-2 first:border-0">
						<div class="flex-1">
							<span class="font-medium">{p.name}</span>{#if p.archivedAt}<span class="text-sm text-steel-600"> (archived)</span>{/if}<br /><span
								class="tab text-sm text-steel-600"
								>{p.settings.ampsA} A {p.settings.current}, {p.settings.speedMmPerS} mm/s, {arcEnergy(p.settings).netHeat.toFixed(0)} J/mm net, {p
									.settings.fillerGrade ?? 'no filler'}; version {p.version}</span
							>
						</div>
						<a class="text-sm text-primary-700 underline" href="/api/procedures/{p.id}/sheet.pdf" target="_blank" rel="noopener">Print</a>
						{#if mayPlan}<button
								type="button"
								class="text-sm text-primary-700 underline"
								onclick={() => send('PATCH', `/api/procedures/${p.id}`, { version: p.version, archived: !p.archivedAt })}
								>{p.archivedAt ? 'Restore' : 'Archive'}</button
							>{/if}
					</li>
				{/each}
			</ul>
		</Panel>
		<Panel title="Heat numbers">
			<table class="w-full text-sm">
				<tbody
					>{#each data.heats as h (h.id)}<tr class="border-t border-steel-200 first:border-0"
							><td class="tab py-1.5 font-medium">{h.heat}</td><td>{all.find((g) => g.id === h.materialId)?.name ?? h.materialId}</td><td class="tab"
								>{length(h.thicknessMm, unit)}</td
							><td class="text-steel-600">{h.supplier ?? ''}</td></tr
						>{/each}</tbody
				>
			</table>
			{#if !data.heats.length}<p class="text-steel-600">None yet. Type the number on the mill certificate when sheet comes in.</p>{/if}
			{#if mayHeat}
				<form class="mt-3 grid grid-cols-2 gap-3 border-t border-steel-200 pt-3" onsubmit={addHeat}>
					<div>
						<Label for="heat" class="mb-1 text-steel-700">Heat number</Label><Input
							id="heat"
							size="sm"
							required
							maxlength={60}
							bind:value={heat.heat}
						/>
					</div>
					<Choice
						label="Material"
						value={heat.materialId}
						items={all.map((g) => ({ value: g.id, name: g.name }))}
						onchange={(v) => (heat.materialId = v)}
					/>
					<LengthField
						label="Thickness"
						mm={heat.thicknessMm}
						{unit}
						gaugeTable={all.find((g) => g.id === heat.materialId)?.gaugeTable}
						min={0.1}
						max={50}
						onchange={(v) => (heat.thicknessMm = v)}
					/>
					<div>
						<Label for="supplier" class="mb-1 text-steel-700">Supplier</Label><Input
							id="supplier"
							size="sm"
							maxlength={120}
							bind:value={heat.supplier}
						/>
					</div>
					<div><Button type="submit" size="sm">Add heat number</Button></div>
				</form>
			{/if}
		</Panel>
	</div>
	<Panel title="Materials">
		<table class="w-full text-sm">
			<thead
				><tr class="text-left text-steel-600"
					><th class="py-1 font-medium">Material</th><th class="font-medium">E, GPa</th><th class="font-medium">Proof, MPa</th><th class="font-medium"
						>Expansion, 10⁻⁶/K</th
					><th class="font-medium">ρ c, 10⁻³ J/mm³K</th><th class="font-medium">Source</th></tr
				></thead
			>
			<tbody
				>{#each all as m (m.id)}<tr class="border-t border-steel-200 align-top"
						><td class="py-1.5 font-medium">{m.name}</td><td class="tab">{m.eModulus / 1000}</td><td class="tab">{m.proofStrength}</td><td class="tab"
							>{(m.responsePair.alpha * 1e6).toFixed(1)}</td
						><td class="tab">{(m.responsePair.rhoC * 1e3).toFixed(2)}</td><td class="text-steel-600">{m.source}</td></tr
					>{/each}</tbody
			>
		</table>
		{#if mayPlan}
			<details class="mt-3 border-t border-steel-200 pt-3">
				<summary class="cursor-pointer font-medium">Add a material of your own</summary>
				<form class="mt-3 grid grid-cols-4 gap-3" onsubmit={addMaterial}>
					<div>
						<Label for="own-id" class="mb-1 text-steel-700">Short name</Label><Input
							id="own-id"
							size="sm"
							required
							pattern="[A-Za-z0-9][A-Za-z0-9._\-]*"
							bind:value={own.id}
						/>
					</div>
					<div>
						<Label for="own-name" class="mb-1 text-steel-700">Name</Label><Input
							id="own-name"
							size="sm"
							required
							maxlength={80}
							bind:value={own.name}
						/>
					</div>
					<Choice
						label="Group"
						value={own.group}
						items={MATERIAL_GROUPS.map((v) => ({ value: v, name: v }))}
						onchange={(v) => (own.group = v as MaterialGroup)}
					/>
					<NumberField label="E" unit="MPa" value={own.eModulus} min={1000} max={1000000} onchange={(v) => (own.eModulus = v!)} />
					<NumberField label="Proof strength" unit="MPa" value={own.proofStrength} min={5} max={3000} onchange={(v) => (own.proofStrength = v!)} />
					<NumberField label="Density" unit="kg/m³" value={own.density} min={500} max={25000} onchange={(v) => (own.density = v!)} />
					<NumberField
						label="Conductivity, cold"
						unit="W/m·K"
						value={own.conductivity}
						min={0.1}
						max={1000}
						onchange={(v) => (own.conductivity = v!)}
					/>
					<NumberField label="Conductivity, hot" unit="W/m·K" value={own.lambdaHot} min={0.1} max={1000} onchange={(v) => (own.lambdaHot = v!)} />
					<NumberField label="Mean expansion" unit="10⁻⁶/K" value={own.alpha} min={1} max={100} onchange={(v) => (own.alpha = v!)} />
					<NumberField label="Mean ρ c" unit="10⁻³ J/mm³K" value={own.heatPerVolume} min={0.1} max={100} onchange={(v) => (own.heatPerVolume = v!)} />
					<NumberField label="Melts at" unit="°C" value={own.meltC} min={200} max={3500} onchange={(v) => (own.meltC = v!)} />
					<div>
						<Label for="own-source" class="mb-1 text-steel-700">Where the numbers come from</Label><Input
							id="own-source"
							size="sm"
							required
							maxlength={300}
							bind:value={own.source}
						/>
					</div>
					<div><Button type="submit" size="sm">Add material</Button></div>
				</form>
			</details>
		{/if}
	</Panel>
</main>
