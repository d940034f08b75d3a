<script lang="ts">
	import { blankOf } from '$core/families/blank';
	import { regenerate } from '$core/families/family';
	import type { FamilyParameters } from '$core/families/defaults';
	import { pathLength } from '$core/geometry/polyline';
	import { JOINT_WORDS } from '$core/plan/words';
	import type { Fault } from '$core/plan/faults';
	import type { OwnMaterial } from '$core/plan/schema';
	import Choice from '$lib/ui/Choice.svelte';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { length } from '$lib/units';
	import BlankDrawing from '$lib/ui/BlankDrawing.svelte';
	import FamilyForm from '$lib/ui/FamilyForm.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let faults = $state<Fault[]>([]);
	const family = $derived(desk.doc.family);
	const blanks = $derived(desk.doc.parts.map((p) => blankOf(p, desk.doc)));
	const total = $derived(blanks.reduce((s, b) => s + b.weightKg, 0));

	/** the library's heats of this metal, and the one already noted */
	const heatsFor = (material: string, noted: string | undefined) => [
		...new Set([...data.heats.filter((h) => h.materialId === material).map((h) => h.heat), ...(noted ? [noted] : [])])
	];
	function resize(p: FamilyParameters) {
		if (!family || family.kind === 'free') return;
		// a material of the shop's own travels with the plan, so that its job file forecasts anywhere
		const own = data.ownMaterials.find((m) => m.id === p.material);
		const base =
			own && !desk.doc.materials.some((m) => m.id === own.id) ? { ...desk.doc, materials: [...desk.doc.materials, own as OwnMaterial] } : desk.doc;
		const made = regenerate(base, family.kind, p);
		faults = made.faults;
		if (!made.plan) return;
		desk.change('sizes of the piece', (d) => {
			Object.assign(d, made.plan);
			return made.notes;
		});
	}
</script>

<Bench show={{ tacks: false, runs: false, holds: false }}>
	<Panel title="Sizes">
		{#if faults.length}<div class="mb-2"><Notice kind="fault" title="Sizes kept as they were" {faults} /></div>{/if}
		{#if family && family.kind !== 'free'}
			<FamilyForm kind={family.kind} parameters={family.parameters} {unit} grades={data.grades} {faults} onchange={resize} disabled={!desk.mayEdit} />
		{:else}
			<p class="text-sm text-steel-600">This piece came from a job file and belongs to no family: its shape is changed in the file.</p>
		{/if}
	</Panel>
	<Panel title="Flat blanks">
		{#snippet aside()}<span class="tab text-sm">{total.toFixed(2)} kg in all</span>{/snippet}
		<ul class="space-y-2">
			{#each blanks as b (b.part.id)}
				<li>
					<button
						type="button"
						class="flex w-full gap-3 p-1 text-left text-sm {desk.selection?.id === b.part.id
							? 'bg-straw-50 outline outline-straw-400'
							: 'hover:bg-steel-50'}"
						aria-pressed={desk.selection?.id === b.part.id}
						onclick={() => (desk.selection = { kind: 'part', id: b.part.id })}
					>
						<BlankDrawing blank={b} />
						<span
							><span class="font-medium">{b.part.name}</span><br /><span class="tab"
								>{length(b.widthMm, unit, 1)} × {length(b.heightMm, unit, 1)}</span
							><br /><span class="tab text-steel-600"
								>{length(b.part.thicknessMm, unit)} · {b.weightKg.toFixed(2)} kg{b.part.bends.length ? ` · ${b.part.bends.length} bends` : ''}</span
							></span
						>
					</button>
					{#if desk.selection?.id === b.part.id}
						<div class="bg-straw-50 px-2 pb-2">
							<Choice
								label="Heat number of this blank"
								value={b.part.heatNumber ?? ''}
								items={[{ value: '', name: 'not noted' }, ...heatsFor(b.part.material, b.part.heatNumber).map((h) => ({ value: h, name: h }))]}
								onchange={(v) =>
									desk.change(`heat number of ${b.part.name}`, (d) => {
										const part = d.parts.find((x) => x.id === b.part.id)!;
										if (v) part.heatNumber = v;
										else delete part.heatNumber;
									})}
								disabled={!desk.mayEdit}
							/>
						</div>
					{/if}
				</li>
			{/each}
		</ul>
		<p class="mt-2 text-[13px] text-steel-600">
			Cut sizes, bend allowance taken off with a K-factor of 0.42 (common practice, no source: use your own press's).
		</p>
	</Panel>
	<Panel title="Seams">
		<table class="w-full text-sm">
			<tbody>
				{#each desk.doc.joints as j (j.id)}
					<tr class="border-t border-steel-200 first:border-0 {desk.selection?.id === j.id ? 'bg-straw-50' : ''}">
						<td class="py-1"
							><button
								type="button"
								class="text-left font-medium underline-offset-4 hover:underline"
								onclick={() => (desk.selection = { kind: 'joint', id: j.id })}>{j.name}</button
							><br /><span class="text-steel-600">{JOINT_WORDS[j.type]}</span></td
						>
						<td class="tab text-right">{length(pathLength(j.a.path), unit, 1)}</td>
					</tr>
				{/each}
			</tbody>
		</table>
		{#if desk.geometry}<p class="mt-2 text-[13px] text-steel-600">
				Mesh: {desk.geometry.xyz.length / 3} nodes, {desk.geometry.tri.length / 3} triangles of about {desk.geometry.sizeMm.toFixed(0)} mm.
			</p>{/if}
	</Panel>
</Bench>
