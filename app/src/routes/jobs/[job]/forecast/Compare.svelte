<script lang="ts">
	/** Try a change before adopting it, or hold the plan against an earlier revision: paired differences by the quick method. */
	import { page } from '$app/state';
	import type { Comparison } from '$core/forecast/compare';
	import { planOf } from '$core/reading/readPlan';
	import type { PlanDocument } from '$core/document/schema';
	import { WHAT_IFS } from '$core/search/whatIf';
	import { call } from '$lib/call';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { quantity } from '$lib/units';
	import { Button, Select } from 'flowbite-svelte';

	let { jobId }: { jobId: string } = $props();
	const desk = getDesk();
	const unit = $derived(page.data.person?.units ?? 'mm');
	let joint = $state('');
	const chosenJoint = $derived(desk.selection?.kind === 'joint' ? desk.selection.id : joint || (desk.seams[0]?.id ?? ''));
	let shown = $state.raw<{ label: string; from: PlanDocument; then: PlanDocument; answer: Comparison; adoptable: boolean } | undefined>();
	let busy = $state('');
	let message = $state('');
	const earlier = $derived(Array.from({ length: desk.revision - 1 }, (_, i) => desk.revision - 1 - i));

	async function compare(label: string, make: () => PlanDocument | Promise<PlanDocument>, adoptable: boolean) {
		busy = label;
		message = '';
		shown = undefined;
		const from = desk.doc;
		try {
			const then = await make();
			const out = await desk.compareWith(then);
			if (out.ok) shown = { label, from, then, answer: out.data, adoptable };
			else message = out.message;
		} catch (e) {
			message = e instanceof Error ? e.message : String(e);
		}
		busy = '';
	}
	async function revision(n: number): Promise<PlanDocument> {
		const r = await call<{ plan: { document: unknown } }>('GET', `/api/jobs/${jobId}/plan?revision=${n}`);
		if (!r.ok) throw new Error(r.refusal.message);
		return planOf(r.data.plan.document);
	}
	function adopt() {
		if (!shown) return;
		const { label, then } = shown;
		desk.change(label.toLowerCase(), (draft) => {
			Object.assign(draft, structuredClone(then));
		});
		shown = undefined;
	}
	/** How far from the drawing then, in a word; what is shown as the same is the same. */
	const nearer = ({ now, then, unit: of }: Comparison['features'][number]) =>
		quantity(Math.abs(now), of, unit) === quantity(Math.abs(then), of, unit) ? 'same' : Math.abs(then) < Math.abs(now) ? 'nearer' : 'farther';
</script>

<Panel title="What if">
	<label class="text-sm font-medium" for="what-if-seam">For seam</label>
	<Select
		id="what-if-seam"
		size="sm"
		class="mt-1"
		items={desk.seams.map((j) => ({ value: j.id, name: j.name }))}
		value={chosenJoint}
		onchange={(e: Event) => {
			joint = (e.currentTarget as HTMLSelectElement).value;
			desk.selection = { kind: 'joint', id: joint };
		}}
	/>
	<div class="mt-2 grid grid-cols-1 gap-1.5">
		{#each WHAT_IFS as w (w.id)}
			<button
				type="button"
				class="rounded-sm border border-steel-400 px-2 py-1.5 text-left text-sm hover:bg-steel-50 disabled:text-steel-500"
				disabled={busy !== '' || !desk.result}
				onclick={() => compare(w.label, () => w.apply(desk.doc, chosenJoint), true)}>{w.label}</button
			>
		{/each}
		{#each earlier as n (n)}
			<button
				type="button"
				class="rounded-sm border border-steel-400 px-2 py-1.5 text-left text-sm hover:bg-steel-50 disabled:text-steel-500"
				disabled={busy !== '' || !desk.result}
				onclick={() => compare(`Revision ${n}`, () => revision(n), false)}>Beside revision {n}</button
			>
		{/each}
	</div>
	<div aria-live="polite" class="mt-2">
		{#if busy}<p class="text-sm">Working out: {busy.toLowerCase()}…</p>{/if}
		{#if message}<Notice kind="caution">{message}.</Notice>{/if}
	</div>
	{#if shown && shown.from === desk.doc}
		<h3 class="mt-1 text-[15px]">{shown.label}</h3>
		<table class="w-full text-[13px]">
			<thead
				><tr class="text-left text-steel-600"
					><th class="font-normal">Feature</th><th class="text-right font-normal">Now</th><th class="text-right font-normal">Then</th></tr
				></thead
			>
			<tbody>
				{#each shown.answer.features as f (f.id)}
					<tr class="border-t border-steel-200 align-top">
						<td class="pt-1">{f.name}</td>
						<td class="tab pt-1 pl-2 text-right whitespace-nowrap">{quantity(f.now, f.unit, unit)}</td>
						<td class="tab pt-1 pl-2 text-right whitespace-nowrap">{quantity(f.then, f.unit, unit)}</td>
					</tr>
					<tr class="text-[12px] text-steel-600">
						<td class="pb-1 font-semibold">{nearer(f)}</td>
						<td class="tab pb-1 text-right" colspan="2"
							>{f.difference.predicted > 0 ? '+' : ''}{quantity(f.difference.predicted, f.unit, unit)} ({quantity(f.difference.low, f.unit, unit)} to
							{quantity(f.difference.high, f.unit, unit)})</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
		<p class="mt-1 text-[13px] text-steel-600">
			Quick method. In brackets the 90 % band of the difference: errors that both share cancel. Mean tendon force {(
				shown.answer.force.now / 1000
			).toFixed(1)} kN, then
			{(shown.answer.force.then / 1000).toFixed(1)} kN: waves follow it.
		</p>
		{#if shown.answer.panels.length}
			<ul class="mt-1 text-[13px]">
				{#each shown.answer.panels as p (p.label)}
					<li>
						{p.label}: {p.now === undefined ? 'well inside' : `${p.now.toFixed(1)} times its limit`}, then {p.then === undefined
							? 'well inside'
							: `${p.then.toFixed(1)} times`} (plate formula).
					</li>
				{/each}
			</ul>
		{/if}
		{#if shown.adoptable && desk.mayEdit}<Button class="mt-2" size="sm" onclick={adopt}>Adopt this</Button>{/if}
	{/if}
</Panel>
