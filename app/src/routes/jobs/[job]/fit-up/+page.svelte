<script lang="ts">
	import type { Joint } from '$core/document/schema';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { fitUpAdvice } from '$core/fitup/advice';
	import type { CouponRead } from '$core/coupons/evidence';
	import { call } from '$lib/call';
	import FromCoupons from '$lib/fitup/FromCoupons.svelte';
	import HoldPointsPanel from '$lib/fitup/HoldPointsPanel.svelte';
	import OrderPanel from '$lib/fitup/OrderPanel.svelte';
	import ReadingsPanel from '$lib/fitup/ReadingsPanel.svelte';
	import { length } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Checkbox, Input } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	const seamChoices = $derived(desk.seams.map((j) => ({ value: j.id, name: j.name })));
	let check = $state('');
	/** what coupons have been read at: the page stands without it */
	let read = $state.raw<CouponRead[]>([]);
	$effect(() => {
		void call<{ readings: CouponRead[] }>('GET', '/api/coupons/readings').then((r) => r.ok && (read = r.data.readings));
	});
	const edit = (id: string, label: string, f: (j: Joint) => void) => desk.change(label, (d) => f(d.joints.find((j) => j.id === id)!));
	const forecastOf = (id: string) => desk.result?.seams.find((s) => s.joint === id);
	const peel = $derived(Math.max(0, ...(desk.result?.seams.map((s) => s.tintWidthMm) ?? [0])));
	const advice = $derived(
		new Map(
			fitUpAdvice(desk.doc, new Map(desk.result?.seams.map((s) => [s.joint, s.tintWidthMm])), (mm) => length(mm, unit, 1)).map((a) => [a.joint, a])
		)
	);
	let onceSetUp = $state(false);
	function addCheck() {
		const text = check.trim();
		if (!text) return;
		if (
			desk.change('a prep check', (d) => void d.fitUp.checks.push({ id: `check-${Date.now().toString(36)}`, text, ...(onceSetUp && { onceSetUp }) }))
		)
			check = '';
	}
</script>

<Bench show={{ tacks: false, runs: false, holds: false }}>
	<Panel title="The one true corner">
		{#snippet aside()}<a class="text-sm text-primary-700 underline" href="/api/jobs/{data.job.id}/fit-up-sheet.pdf" target="_blank" rel="noopener"
				>Fit-up sheet</a
			>{/snippet}
		<div class="grid grid-cols-2 gap-3">
			<Choice
				label="On seam"
				value={desk.doc.fitUp.trueJoint ?? ''}
				items={seamChoices}
				onchange={(v) => desk.change('the true corner', (d) => void (d.fitUp.trueJoint = v))}
				disabled={!desk.mayEdit}
			/>
			<Choice
				label="At its"
				value={desk.doc.fitUp.trueEnd ?? 'datum'}
				items={[
					{ value: 'datum', name: 'Datum end (0 mm)' },
					{ value: 'far', name: 'Far end' }
				]}
				onchange={(v) => desk.change('the true corner', (d) => void (d.fitUp.trueEnd = v as 'datum' | 'far'))}
				disabled={!desk.mayEdit}
			/>
		</div>
		<p class="mt-2 text-[13px] text-steel-600">True this corner first and work away from it: tack patterns and weld orders start here.</p>
	</Panel>
	<OrderPanel plan={desk.doc} disabled={!desk.mayEdit} onchange={(label, edit) => desk.change(label, edit)} />
	<ReadingsPanel plan={desk.doc} {unit} disabled={!desk.mayEdit} onchange={(label, edit) => desk.change(label, edit)} />
	<Panel title="Seams before tacking">
		<div class="space-y-3">
			{#each desk.seams as j (j.id)}
				{@const cost = 0.1 * j.gapMm}
				{@const a = advice.get(j.id)}
				{@const turn = forecastOf(j.id)?.angularChangeDeg}
				<fieldset class="border-t border-steel-200 pt-2 {desk.selection?.id === j.id ? 'bg-straw-50' : ''}">
					<legend class="sr-only">{j.name}</legend>
					<button type="button" class="text-sm font-semibold" onclick={() => (desk.selection = { kind: 'joint', id: j.id })}>{j.name}</button>
					<div class="grid grid-cols-2 gap-3">
						<LengthField
							label="Root gap"
							mm={j.gapMm}
							{unit}
							min={0}
							max={10}
							onchange={(v) => edit(j.id, `gap of ${j.name}`, (x) => (x.gapMm = v))}
							disabled={!desk.mayEdit}
						/>
						<NumberField
							label="Preset over-angle"
							unit="°"
							value={j.presetDeg}
							min={-30}
							max={30}
							onchange={(v) => edit(j.id, `preset of ${j.name}`, (x) => (x.presetDeg = v ?? 0))}
							disabled={!desk.mayEdit}
						/>
					</div>
					<Checkbox
						class="mt-1 text-sm"
						checked={j.gapMeasured}
						disabled={!desk.mayEdit}
						onchange={(e) => edit(j.id, `gap of ${j.name}`, (x) => (x.gapMeasured = (e.currentTarget as HTMLInputElement).checked))}
						>Measured, not assumed</Checkbox
					>
					<p class="text-[13px] text-steel-600">
						{#if j.gapMm > 0}The gap adds {length(cost, unit, 3)} of shrinkage (0.10 × gap, Blodgett).{/if}
						{#if turn !== undefined}It turns about {Math.abs(turn).toFixed(1)}° {turn < 0 ? 'away from' : 'towards'} its weld by itself: a preset of
							{turn.toFixed(1)}° would cancel it on a free joint.{/if}
						{#if a}Film back {length(a.filmMm, unit, 0)} each side. Gap at most {length(a.gapLimitMm, unit, 2)}
							{j.filler ? 'with filler' : 'fused'} (common practice, no source).{/if}
					</p>
					<FromCoupons
						plan={desk.doc}
						joint={j}
						{read}
						{unit}
						disabled={!desk.mayEdit}
						onpreset={(deg) => edit(j.id, `preset of ${j.name}`, (x) => (x.presetDeg = deg))}
					/>
					{#if a?.notes.length}<ul class="list-disc pl-5 text-[13px] text-steel-700">
							{#each a.notes as n (n)}<li>{n}</li>{/each}
						</ul>{/if}
				</fieldset>
			{/each}
		</div>
	</Panel>
	<HoldPointsPanel plan={desk.doc} disabled={!desk.mayEdit} onchange={(label, edit) => desk.change(label, edit)} />
	<Panel title="Checks before the arc">
		<p class="mb-2 text-[13px] text-steel-600">
			Peel the film at least {length(peel / 2 + 10, unit, 0)} each side of the seam: half the tint band ({length(peel, unit, 0)} wide) and a 10 mm margin.
		</p>
		<ul class="space-y-1 text-sm">
			{#each desk.doc.fitUp.checks as c (c.id)}
				<li class="flex items-start gap-2 border-t border-steel-200 pt-1">
					<span class="flex-1"
						>{c.text}{#if c.onceSetUp}<span class="text-steel-600">, once it is set up</span>{/if}</span
					>{#if desk.mayEdit}<button
							type="button"
							class="text-primary-700 underline"
							aria-label="Remove check: {c.text}"
							onclick={() => desk.change('taking a check out', (d) => void (d.fitUp.checks = d.fitUp.checks.filter((x) => x.id !== c.id)))}
							>Remove</button
						>{/if}
				</li>
			{/each}
		</ul>
		{#if desk.mayEdit}
			<form
				class="mt-2 flex gap-2"
				onsubmit={(e) => {
					e.preventDefault();
					addCheck();
				}}
			>
				<label class="sr-only" for="new-check">New check</label><Input
					id="new-check"
					size="sm"
					bind:value={check}
					maxlength={200}
					placeholder="One more check"
				/><Button type="submit" size="sm">Add</Button>
			</form>
			<Checkbox class="mt-2 min-h-8 text-sm" bind:checked={onceSetUp}>Ask it once the sheets are set up</Checkbox>
		{/if}
	</Panel>
</Bench>
