<script lang="ts">
	import { takeOff } from '$core/plan/prune';
	import { blankOf } from '$core/families/blank';
	import AddPanel from '$lib/parts/AddPanel.svelte';
	import JointDrawing from '$lib/parts/JointDrawing.svelte';
	import WeldSymbol from '$lib/parts/WeldSymbol.svelte';
	import { regenerate } from '$core/compose/resize';
	import type { FamilyParameters } from '$core/families/family';
	import { pathLength } from '$core/geometry/polyline';
	import { JOINT_TYPES } from '$core/document/words';
	import { JOINTS } from '$core/joints';
	import type { Fault } from '$core/document/faults';
	import type { OwnMaterial, PlanDocument } from '$core/document/schema';
	import Choice from '$lib/ui/Choice.svelte';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { length } from '$lib/units';
	import BlankDrawing from '$lib/ui/BlankDrawing.svelte';
	import FamilyForm from '$lib/ui/FamilyForm.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { FLATNESS_MM_PER_M } from '$core/forecast/asDelivered';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let faults = $state<Fault[]>([]);
	const family = $derived(desk.doc.family);
	const blanks = $derived(desk.doc.parts.map((p) => blankOf(p, desk.doc)));
	const total = $derived(blanks.reduce((s, b) => s + b.weightKg, 0));

	const add = (made: PlanDocument, label: string) => void desk.change(label, (d) => void Object.assign(d, made));
	/** parts that can be taken off by themselves: what was added, and every part of a piece of no family */
	const loose = $derived(new Set(family && family.kind !== 'free' ? (family.additions ?? []).map((a) => a.id) : desk.doc.parts.map((p) => p.id)));
	const creases = $derived((family?.additions ?? []).filter((a) => a.kind === 'cross-break'));
	function remove(id: string, name: string) {
		if (desk.doc.parts.length > 1 && desk.change(`taking off ${name}`, (d) => takeOff(d, [id]))) desk.selection = undefined;
	}
	const removeCrease = (id: string, name: string, part: string) =>
		desk.change(`taking off ${name}`, (d) => {
			d.family!.additions = d.family!.additions!.filter((a) => a.id !== id);
			const on = d.parts.find((p) => p.id === part)!;
			on.crossBreaks = on.crossBreaks?.filter((c) => c.id !== id);
		});
	const editPart = (id: string, label: string, f: (p: (typeof desk.doc.parts)[number]) => void) =>
		desk.change(label, (d) => f(d.parts.find((x) => x.id === id)!));
	const editJoint = (id: string, f: (j: (typeof desk.doc.joints)[number]) => void) =>
		desk.change(`joint ${desk.doc.joints.find((j) => j.id === id)?.name ?? ''}`, (d) => f(d.joints.find((x) => x.id === id)!));
	const api = $derived(`/api/jobs/${data.job.id}`);

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
			<p class="text-sm text-steel-600">This piece belongs to no family: move its parts by their places under Flat blanks, and add to it below.</p>
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
								>{length(b.part.thicknessMm, unit)} · {b.weightKg.toFixed(2)} kg{b.part.bends.length
									? ` · ${b.part.bends.length} bend${b.part.bends.length === 1 ? '' : 's'}`
									: ''}</span
							></span
						>
					</button>
					{#if desk.selection?.id === b.part.id}
						<div class="grid grid-cols-2 items-end gap-2 bg-straw-50 px-2 pb-2">
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
							<NumberField
								label="Out of flat as it came"
								unit="mm/m"
								value={b.part.flatnessMmPerM}
								min={0}
								max={30}
								hint={b.part.flatnessMmPerM === undefined ? `${FLATNESS_MM_PER_M} is taken` : undefined}
								optional
								onchange={(v) =>
									desk.change(`flatness of ${b.part.name}`, (d) => {
										const part = d.parts.find((x) => x.id === b.part.id)!;
										if (v === undefined) delete part.flatnessMmPerM;
										else part.flatnessMmPerM = v;
									})}
								disabled={!desk.mayEdit}
							/>
							<Choice
								label="Grain"
								value={b.part.grain ?? 'none'}
								items={[
									{ value: 'none', name: 'any way' },
									{ value: 'x', name: 'along x' },
									{ value: 'y', name: 'along y' }
								]}
								onchange={(v) => editPart(b.part.id, `grain of ${b.part.name}`, (p) => (p.grain = v as 'x' | 'y' | 'none'))}
								disabled={!desk.mayEdit}
							/>
							<Choice
								label="Film"
								value={b.part.film ?? 'none'}
								items={[
									{ value: 'none', name: 'none' },
									{ value: 'front', name: 'on the front' },
									{ value: 'back', name: 'on the back' },
									{ value: 'both', name: 'both sides' }
								]}
								onchange={(v) => editPart(b.part.id, `film of ${b.part.name}`, (p) => (p.film = v as 'none' | 'front' | 'back' | 'both'))}
								disabled={!desk.mayEdit}
							/>
							{#if loose.has(b.part.id) && desk.doc.parts.length > 1 && desk.mayEdit}<div class="col-span-2">
									<Button size="xs" color="alternative" onclick={() => remove(b.part.id, b.part.name)}
										>Take {b.part.name} off, with its seams and all on them</Button
									>
								</div>{/if}
							{#if family?.kind === 'free'}
								{#each [0, 1, 2] as d (d)}
									<LengthField
										label="Place, {'xyz'[d]}"
										mm={b.part.frame.origin[d]}
										{unit}
										min={-20000}
										max={20000}
										onchange={(v) => editPart(b.part.id, `place of ${b.part.name}`, (p) => (p.frame.origin[d] = v))}
										disabled={!desk.mayEdit}
									/>
								{/each}
							{/if}
						</div>
					{/if}
				</li>
			{/each}
		</ul>
		<div class="mt-2 grid grid-cols-2 gap-3">
			<Choice
				label="Bend allowance"
				value={desk.doc.bendRule?.method ?? 'k-factor'}
				items={[
					{ value: 'k-factor', name: 'K-factor' },
					{ value: 'din-6935', name: 'DIN 6935' }
				]}
				onchange={(v) => desk.change('bend allowance', (d) => void (d.bendRule = { ...d.bendRule, method: v as 'k-factor' | 'din-6935' }))}
				disabled={!desk.mayEdit}
			/>
			{#if (desk.doc.bendRule?.method ?? 'k-factor') === 'k-factor'}
				<NumberField
					label="K-factor"
					value={desk.doc.bendRule?.kFactor ?? 0.42}
					min={0.25}
					max={0.5}
					hint="0.42: common practice, no source"
					onchange={(v) => desk.change('K-factor', (d) => void (d.bendRule = { method: 'k-factor', kFactor: v ?? 0.42 }))}
					disabled={!desk.mayEdit}
				/>
			{/if}
		</div>
		<p class="mt-2 text-sm">
			Cutting list with the oversize the forecast asks for:
			<a class="text-primary-700 underline" href="{api}/cutting-list.pdf" target="_blank" rel="noopener">PDF</a>,
			<a class="text-primary-700 underline" href="{api}/cutting-list.csv">CSV</a>,
			<a class="text-primary-700 underline" href="{api}/blanks.dxf">DXF of the blanks</a>
		</p>
	</Panel>
	<AddPanel plan={desk.doc} {unit} disabled={!desk.mayEdit} on={desk.selection?.kind === 'part' ? desk.selection : undefined} onadd={add} />
	{#if creases.length && desk.mayEdit}
		<Panel title="Creases added">
			<ul class="space-y-1 text-sm">
				{#each creases as c (c.id)}
					<li class="flex items-center justify-between gap-2">
						<span>{c.name} in {desk.doc.parts.find((p) => p.id === c.part)?.name}, {length(c.heightMm ?? 0, unit, 1)}</span>
						<Button size="xs" color="alternative" onclick={() => removeCrease(c.id, c.name, c.part)}>Take it off</Button>
					</li>
				{/each}
			</ul>
		</Panel>
	{/if}
	<Panel title="Joints">
		<ul>
			{#each desk.doc.joints as j (j.id)}
				{@const open = desk.selection?.id === j.id}
				<li class="border-t border-steel-200 py-1 text-sm first:border-0 {open ? 'bg-straw-50' : ''}">
					<button
						type="button"
						class="flex w-full items-center gap-3 text-left"
						aria-expanded={open}
						onclick={() => (desk.selection = open ? undefined : { kind: 'joint', id: j.id })}
					>
						<JointDrawing joint={j} plan={desk.doc} />
						<span class="flex-1"
							><span class="font-medium">{j.name}</span><br /><span class="text-steel-600"
								>{j.stock ? 'welded when the stock was made' : `${JOINTS[j.type].name}, ${j.penetration}, ${j.filler ? 'filler' : 'fusion'}`}</span
							></span
						>
						<span class="tab">{length(pathLength(j.a.path), unit, 1)}</span>
					</button>
					{#if open && !j.stock}
						<div class="grid grid-cols-2 gap-2 pt-1 pb-2">
							<div class="col-span-2 flex items-center gap-3 text-[13px] text-steel-600">
								<WeldSymbol joint={j} plan={desk.doc} />as on a drawing, ISO 2553
							</div>
							<Choice
								label="Kind"
								value={j.type}
								items={JOINT_TYPES.map((v) => ({ value: v, name: JOINTS[v].name }))}
								onchange={(v) => editJoint(j.id, (x) => (x.type = v as typeof x.type))}
								disabled={!desk.mayEdit}
							/>
							<Choice
								label="Penetration"
								value={j.penetration}
								items={[
									{ value: 'full', name: 'full' },
									{ value: 'partial', name: 'partial' },
									{ value: 'sealing', name: 'sealing, none wanted' }
								]}
								onchange={(v) => editJoint(j.id, (x) => (x.penetration = v as typeof x.penetration))}
								disabled={!desk.mayEdit}
							/>
							<Choice
								label="Metal"
								value={j.filler ? 'filler' : 'fusion'}
								items={[
									{ value: 'fusion', name: 'fusion only' },
									{ value: 'filler', name: 'with filler' }
								]}
								onchange={(v) => editJoint(j.id, (x) => (x.filler = v === 'filler'))}
								disabled={!desk.mayEdit}
							/>
							<Choice
								label="Welded from"
								value={j.weldSide}
								items={[
									{ value: 'front', name: JOINTS[j.type].sides.front },
									{ value: 'back', name: JOINTS[j.type].sides.back }
								]}
								onchange={(v) => editJoint(j.id, (x) => (x.weldSide = v as typeof x.weldSide))}
								disabled={!desk.mayEdit}
							/>
							<LengthField
								label="Weld size"
								mm={j.weldSizeMm ?? 0}
								{unit}
								min={0}
								max={20}
								hint="leg or throat; 0 for none asked"
								onchange={(v) =>
									editJoint(j.id, (x) => {
										if (v >= 0.3) x.weldSizeMm = v;
										else delete x.weldSizeMm;
									})}
								disabled={!desk.mayEdit}
							/>
							<LengthField
								label="Root gap"
								mm={j.gapMm}
								{unit}
								min={0}
								max={10}
								onchange={(v) => editJoint(j.id, (x) => (x.gapMm = v))}
								disabled={!desk.mayEdit}
							/>
						</div>
					{/if}
				</li>
			{/each}
		</ul>
		{#if desk.geometry}<p class="mt-2 text-[13px] text-steel-600">
				Mesh: {desk.geometry.xyz.length / 3} nodes, {desk.geometry.tri.length / 3} triangles of about {desk.geometry.sizeMm.toFixed(0)} mm.
			</p>{/if}
	</Panel>
</Bench>
