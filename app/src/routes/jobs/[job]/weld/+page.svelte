<script lang="ts">
	import { JOINTS } from '$core/joints';
	import { arcEnergy } from '$core/heat/arcEnergy';
	import { startingSettings } from '$core/families/newPlan';
	import type { Joint, WeldSettings } from '$core/document/schema';
	import { PENETRATIONS, POLARITIES, POLARITY_WORDS, WELD_SIDES, type Polarity } from '$core/document/words';
	import { call, type Refusal } from '$lib/call';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { length } from '$lib/units';
	import FromShop from '$lib/weld/FromShop.svelte';
	import AdvicePanel from '$lib/weld/AdvicePanel.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import HeatHelp from '$lib/ui/HeatHelp.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Checkbox, Input, Label } from 'flowbite-svelte';
	import { refresh } from '$lib/refresh';

	/** settings that may be left open, as the plan document allows them */
	const MORE = [
		{ key: 'startA', label: 'Start current', unit: 'A', min: 1, max: 500 },
		{ key: 'upSlopeS', label: 'Rise to it', unit: 's', min: 0, max: 30 },
		{ key: 'finishA', label: 'Finish current', unit: 'A', min: 1, max: 500 },
		{ key: 'downSlopeS', label: 'Fall to it', unit: 's', min: 0, max: 30 },
		{ key: 'postFlowS', label: 'Post-flow', unit: 's', min: 0, max: 60 },
		{ key: 'preFlowS', label: 'Pre-flow', unit: 's', min: 0, max: 60 },
		{ key: 'cupMm', label: 'Cup bore', unit: 'mm', min: 3, max: 40 },
		{ key: 'stickOutMm', label: 'Stick-out', unit: 'mm', min: 1, max: 40 },
		{ key: 'tungstenMm', label: 'Tungsten', unit: 'mm', min: 0.5, max: 6.4 },
		{ key: 'purgeLPerMin', label: 'Back purge', unit: 'L/min', min: 0, max: 60 }
	] as const;
	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let chosen = $state('');
	let refusal = $state<Refusal | undefined>();
	const s = $derived(desk.doc.settings.find((x) => x.id === chosen) ?? desk.doc.settings[0]);
	const heat = $derived(s && arcEnergy(s));
	const seam = $derived(desk.result?.seams.find((x) => x.settings === s?.id));
	const edit = (label: string, f: (x: WeldSettings) => void) => desk.change(label, (d) => f(d.settings.find((x) => x.id === s.id)!));
	const editJoint = (id: string, label: string, f: (j: Joint) => void) => desk.change(label, (d) => f(d.joints.find((j) => j.id === id)!));
	const warnings = $derived(desk.result?.warnings.filter((w) => w.startsWith(`${s?.name}:`)) ?? []);
	function add() {
		const part = desk.doc.parts[0];
		const id = `set-${Date.now().toString(36)}`;
		if (
			desk.change(
				'new settings',
				(d) => void d.settings.push({ ...startingSettings(part.thicknessMm, part.material), id, name: `Settings ${d.settings.length + 1}` })
			)
		)
			chosen = id;
	}
	async function keepAsProcedure() {
		const r = await call('POST', '/api/procedures', { name: s.name, settings: s });
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await refresh();
	}
	const same = $derived(data.procedures.find((p) => p.name === s?.name));
	async function saveVersion() {
		if (!same) return;
		const r = await call('PATCH', `/api/procedures/${same.id}`, { version: same.version, settings: s });
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await refresh();
	}
	function useProcedure(id: string) {
		const p = data.procedures.find((x) => x.id === id);
		if (p) edit(`procedure ${p.name}`, (x) => Object.assign(x, { ...p.settings, id: x.id, name: p.name }));
	}
</script>

<Bench show={{ tacks: false, runs: false, holds: true }} tapes={false}>
	{#if s && heat}
		<Panel title="Settings">
			{#snippet aside()}{#if desk.mayEdit}<button type="button" class="text-sm text-primary-700 underline" onclick={add}>Add another</button
					>{/if}{/snippet}
			{#if refusal}<div class="mb-2"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
			<div class="grid grid-cols-2 gap-x-3 gap-y-2">
				{#if desk.doc.settings.length > 1}<div class="col-span-2">
						<Choice label="Which" value={s.id} items={desk.doc.settings.map((x) => ({ value: x.id, name: x.name }))} onchange={(v) => (chosen = v)} />
					</div>{/if}
				<div>
					<Label for="set-name" class="mb-1 text-steel-700">Name</Label><Input
						id="set-name"
						size="sm"
						value={s.name}
						maxlength={80}
						disabled={!desk.mayEdit}
						onchange={(e) => edit('name of settings', (x) => (x.name = (e.currentTarget as HTMLInputElement).value.trim() || x.name))}
					/>
				</div>
				<Choice
					label="Current"
					value={s.current}
					items={[
						{ value: 'steady', name: 'Steady' },
						{ value: 'pulsed', name: 'Pulsed' }
					]}
					onchange={(v) =>
						edit('steady or pulsed', (x) => {
							x.current = v as WeldSettings['current'];
							if (v === 'pulsed') {
								x.backgroundA ??= Math.round(x.ampsA * 0.7);
								x.pulsesPerSecond ??= 8;
								x.onFraction ??= 0.5;
							}
						})}
					disabled={!desk.mayEdit}
				/>
				<Choice
					label="Polarity"
					value={s.polarity ?? ''}
					items={[
						...(s.polarity ? [] : [{ value: '', name: 'not chosen' }]),
						...POLARITIES.map((p) => ({ value: p as string, name: POLARITY_WORDS[p] }))
					]}
					onchange={(v) => v && edit('polarity', (x) => (x.polarity = v as Polarity))}
					disabled={!desk.mayEdit}
				/>
				<NumberField
					label={s.current === 'pulsed' ? 'Peak' : 'Amps'}
					unit="A"
					value={s.ampsA}
					min={1}
					max={500}
					onchange={(v) => v && edit('amps', (x) => (x.ampsA = v))}
					disabled={!desk.mayEdit}
				/>
				<NumberField
					label="Travel speed"
					unit="mm/s"
					value={s.speedMmPerS}
					min={0.1}
					max={50}
					onchange={(v) => v && edit('travel speed', (x) => (x.speedMmPerS = v))}
					disabled={!desk.mayEdit}
				/>
				{#if s.current === 'pulsed'}
					<NumberField
						label="Background"
						unit="A"
						value={s.backgroundA}
						min={1}
						max={500}
						onchange={(v) => v && edit('background', (x) => (x.backgroundA = v))}
						disabled={!desk.mayEdit}
					/>
					<NumberField
						label="On-time"
						unit="%"
						value={Math.round((s.onFraction ?? 0.5) * 100)}
						min={5}
						max={95}
						onchange={(v) => v && edit('on-time', (x) => (x.onFraction = v / 100))}
						disabled={!desk.mayEdit}
					/>
					<NumberField
						label="Pulses"
						unit="per s"
						value={s.pulsesPerSecond}
						min={0.1}
						max={5000}
						onchange={(v) => v && edit('pulses', (x) => (x.pulsesPerSecond = v))}
						disabled={!desk.mayEdit}
					/>
				{/if}
				<NumberField
					label="Arc volts"
					unit="V"
					value={s.volts}
					min={5}
					max={60}
					optional
					hint={s.volts === undefined ? `estimated ${heat.volts.toFixed(1)} V` : 'empty: estimated'}
					onchange={(v) =>
						edit('volts', (x) => {
							if (v === undefined) delete x.volts;
							else x.volts = v;
						})}
					disabled={!desk.mayEdit}
				/>
				<div>
					<Label for="filler" class="mb-1 text-steel-700">Filler grade</Label><Input
						id="filler"
						size="sm"
						value={s.fillerGrade ?? ''}
						maxlength={40}
						disabled={!desk.mayEdit}
						onchange={(e) =>
							edit('filler', (x) => {
								const v = (e.currentTarget as HTMLInputElement).value.trim();
								if (v) x.fillerGrade = v;
								else delete x.fillerGrade;
							})}
					/>
				</div>
				<LengthField
					label="Filler size"
					mm={s.fillerMm ?? 1.2}
					{unit}
					min={0.3}
					max={6}
					onchange={(v) => edit('filler size', (x) => (x.fillerMm = v))}
					disabled={!desk.mayEdit}
				/>
				<NumberField
					label="Gas"
					unit="L/min"
					value={s.gasLPerMin}
					min={0}
					max={60}
					onchange={(v) => v !== undefined && edit('gas flow', (x) => (x.gasLPerMin = v))}
					disabled={!desk.mayEdit}
				/>
				{#each MORE as f (f.key)}
					<NumberField
						label={f.label}
						unit={f.unit}
						value={s[f.key]}
						min={f.min}
						max={f.max}
						optional
						onchange={(v) =>
							edit(f.label.toLowerCase(), (x) => {
								if (v === undefined) delete x[f.key];
								else x[f.key] = v;
							})}
						disabled={!desk.mayEdit}
					/>
				{/each}
			</div>
			<FromShop settings={s} shop={data.shop} disabled={!desk.mayEdit} onedit={edit} />
			{#if desk.mayEdit}
				<div class="mt-3 flex flex-wrap items-end gap-2">
					{#if same}<Button size="xs" color="alternative" onclick={saveVersion}>Keep as version {same.version + 1} of “{same.name}”</Button>
					{:else}<Button size="xs" color="alternative" onclick={keepAsProcedure}>Keep as a shop procedure</Button>{/if}
					{#if data.procedures.length}<div class="min-w-40">
							<Choice
								label="Use a procedure"
								value=""
								items={[{ value: '', name: 'choose…' }, ...data.procedures.map((p) => ({ value: p.id, name: p.name }))]}
								onchange={useProcedure}
							/>
						</div>{/if}
				</div>
			{/if}
		</Panel>
		<Panel title="What that means">
			<dl class="grid grid-cols-2 gap-x-4 gap-y-1.5">
				{#each [['Mean current', `${heat.meanAmps.toFixed(0)} A`], ['Arc energy', `${heat.arcEnergy.toFixed(0)} J/mm`], ['Net heat input', `${heat.netHeat.toFixed(0)} J/mm`], ['Melt width', seam ? length(seam.meltWidthMm, unit, 1) : '…'], ['Tint band', seam ? length(seam.tintWidthMm, unit, 0) : '…'], ['Tendon force', seam ? `${(seam.tendonForceN / 1000).toFixed(1)} kN` : '…'], ['Shrinkage across', seam ? length(seam.transverseShrinkageMm, unit, 2) : '…'], ['Angular change', seam ? `${seam.angularChangeDeg.toFixed(2)}°` : '…'], ...(seam?.facePushDeg ? [['Bend of the sheet under the web', `${seam.facePushDeg.toFixed(2)}°`]] : [])] as [k, v] (k)}
					<div>
						<dt class="text-[13px] text-steel-600">{k}</dt>
						<dd class="tab text-[19px] leading-6 font-semibold">{v}</dd>
					</div>
				{/each}
			</dl>
			{#if heat.voltsEstimated}<p class="mt-2 text-[13px] text-steel-600">
					Volts by 10 + 0.04 I (EN 60974-1): an estimate, high for a short arc. Type what the machine shows.
				</p>{/if}
			<div class="mt-2 space-y-1">
				{#each warnings as w (w)}<Notice kind="caution">{w.slice(s.name.length + 2)}</Notice>{/each}
			</div>
		</Panel>
		<AdvicePanel settings={s} />
		<Panel title="Joints">
			{#each desk.seams as j (j.id)}
				<fieldset class="border-t border-steel-200 py-2 first:border-0">
					<legend class="float-left w-full pt-1 text-sm font-semibold">{j.name}</legend>
					<div class="clear-both grid grid-cols-3 gap-2">
						<Choice
							label="Settings"
							value={j.settings}
							items={desk.doc.settings.map((x) => ({ value: x.id, name: x.name }))}
							onchange={(v) => editJoint(j.id, `settings of ${j.name}`, (x) => (x.settings = v))}
							disabled={!desk.mayEdit}
						/>
						<Choice
							label="Penetration"
							value={j.penetration}
							items={PENETRATIONS.map((p) => ({ value: p, name: p }))}
							onchange={(v) => editJoint(j.id, `penetration of ${j.name}`, (x) => (x.penetration = v as Joint['penetration']))}
							disabled={!desk.mayEdit}
						/>
						<Choice
							label="From"
							value={j.weldSide}
							items={WELD_SIDES.map((p) => ({ value: p, name: JOINTS[j.type].sides[p] }))}
							onchange={(v) => editJoint(j.id, `side of ${j.name}`, (x) => (x.weldSide = v as Joint['weldSide']))}
							disabled={!desk.mayEdit}
						/>
					</div>
					<Checkbox
						class="mt-2 text-sm"
						checked={Boolean(j.intermittent)}
						disabled={!desk.mayEdit || j.penetration === 'sealing'}
						onchange={(e) => {
							const on = (e.currentTarget as HTMLInputElement).checked;
							editJoint(j.id, `lengths with gaps on ${j.name}`, (x) => {
								if (on) x.intermittent = true;
								else delete x.intermittent;
							});
						}}>Strength and tightness allow lengths with gaps between</Checkbox
					>
				</fieldset>
			{/each}
		</Panel>
		<HeatHelp />
	{/if}
</Bench>
