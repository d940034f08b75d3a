<script lang="ts">
	/** The plan beside one or two others: a change tried, an earlier revision, an order by a school. Paired differences, and parts to take over. */
	import { page } from '$app/state';
	import type { Comparison } from '$core/forecast/compare';
	import { planOf } from '$core/reading/readPlan';
	import type { PlanDocument } from '$core/document/schema';
	import { ORDER_PATTERNS, ORDER_SCHOOLS, type OrderPattern } from '$core/schools/orders';
	import { orderDoesNotApply, orderPattern } from '$core/schools/orderPattern';
	import { ADOPTABLE_WORDS, differingParts, withParts, type Adoptable } from '$core/search/adoptParts';
	import { WHAT_IFS } from '$core/search/whatIf';
	import { followLives } from '$core/sequence/lives';
	import { call } from '$lib/call';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { quantity } from '$lib/units';
	import { Button, Modal, Select } from 'flowbite-svelte';

	let { jobId }: { jobId: string } = $props();
	const desk = getDesk();
	const unit = $derived(page.data.person?.units ?? 'mm');
	let joint = $state('');
	const chosenJoint = $derived(desk.selection?.kind === 'joint' ? desk.selection.id : joint || (desk.seams[0]?.id ?? ''));
	interface Other {
		label: string;
		/** the plan it was compared with */
		from: PlanDocument;
		then: PlanDocument;
		answer: Comparison;
		/** in what it differs, and what of that is to be taken */
		differs: Adoptable[];
	}
	/** beside the plan as it stands: two at most, the newest last */
	const MOST = 2;
	let others = $state.raw<Other[]>([]);
	const shown = $derived(others.filter((o) => o.from === desk.doc));
	let drawn = $state(false);
	let taken = $state<Record<string, boolean>>({});
	let busy = $state('');
	let message = $state('');
	const earlier = $derived(Array.from({ length: desk.revision - 1 }, (_, i) => desk.revision - 1 - i));

	async function compare(label: string, make: () => PlanDocument | Promise<PlanDocument>) {
		busy = label;
		message = '';
		const from = desk.doc;
		try {
			const then = await make();
			const out = await desk.compareWith(then);
			if (out.ok) {
				const fresh = { label, from, then, answer: out.data, differs: differingParts(from, then) };
				others = [...others.filter((o) => o.from === from && o.label !== label), fresh].slice(-MOST);
				taken = {};
			} else message = out.message;
		} catch (e) {
			message = e instanceof Error ? e.message : String(e);
		}
		busy = '';
	}
	const takes = (o: Other) => o.differs.filter((k) => taken[`${o.label}/${k}`] ?? true);
	async function revision(n: number): Promise<PlanDocument> {
		const r = await call<{ plan: { document: unknown } }>('GET', `/api/jobs/${jobId}/plan?revision=${n}`);
		if (!r.ok) throw new Error(r.refusal.message);
		return planOf(r.data.plan.document);
	}
	function adopt(o: Other) {
		message = '';
		try {
			const { plan, notes } = withParts(desk.doc, o.then, takes(o));
			desk.change(`taking over from: ${o.label.toLowerCase()}`, (draft) => {
				Object.assign(draft, plan);
				return notes;
			});
			others = [];
		} catch (e) {
			message = e instanceof Error ? e.message : String(e);
		}
	}
	/** Another order of the same plan, by a school. */
	const schools = $derived(ORDER_PATTERNS.filter((p) => !orderDoesNotApply(desk.doc, { pattern: p, runLengthMm })));
	const runLengthMm = $derived(Math.max(20, ...desk.doc.runs.slice(0, 1).map((r) => Math.abs(r.toMm - r.fromMm))));
	const bySchool = (pattern: OrderPattern): PlanDocument => {
		const plan = structuredClone($state.snapshot(desk.doc)) as PlanDocument;
		plan.runs = orderPattern(plan, { pattern, runLengthMm });
		followLives(plan.holdDowns, plan.runs);
		return plan;
	};
	/** How far from the drawing then, in a word; what is shown as the same is the same. */
	const nearer = ({ now, then, unit: of }: Comparison['features'][number]) =>
		quantity(Math.abs(now), of, unit) === quantity(Math.abs(then), of, unit) ? 'same' : Math.abs(then) < Math.abs(now) ? 'nearer' : 'farther';
	/** two decimals, and no minus before nothing */
	const short = (v: number) => v.toFixed(2).replace(/^-(0\.00)$/, '$1');
	const ofFeature = (o: Other, id: string) => o.answer.features.find((f) => f.id === id);
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
				onclick={() => compare(w.label, () => w.apply(desk.doc, chosenJoint))}>{w.label}</button
			>
		{/each}
		{#each earlier as n (n)}
			<button
				type="button"
				class="rounded-sm border border-steel-400 px-2 py-1.5 text-left text-sm hover:bg-steel-50 disabled:text-steel-500"
				disabled={busy !== '' || !desk.result}
				onclick={() => compare(`Revision ${n}`, () => revision(n))}>Beside revision {n}</button
			>
		{/each}
		{#if schools.length && desk.doc.runs.length}<select
				class="rounded-sm border-steel-400 py-1.5 text-sm"
				aria-label="Beside an order by a school"
				disabled={busy !== '' || !desk.result}
				value=""
				onchange={(e) => {
					const pattern = e.currentTarget.value as OrderPattern;
					e.currentTarget.value = '';
					void compare(ORDER_SCHOOLS[pattern].name, () => bySchool(pattern));
				}}
				><option value="">Beside an order by a school…</option>{#each schools as p (p)}<option value={p}>{ORDER_SCHOOLS[p].name}</option
					>{/each}</select
			>{/if}
	</div>
	<div aria-live="polite" class="mt-2">
		{#if busy}<p class="text-sm">Working out: {busy.toLowerCase()}…</p>{/if}
		{#if message}<Notice kind="caution">{message}.</Notice>{/if}
	</div>
	{#if shown.length}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="relative overflow-x-auto" tabindex="0" role="group" aria-label="Plans beside each other">
			<table class="w-full text-[13px]">
				<thead>
					<tr class="text-left align-bottom text-steel-600">
						<th scope="col" class="font-normal">Feature</th>
						<th scope="col" class="text-right font-normal">Now</th>
						{#each shown as o (o.label)}<th scope="col" class="max-w-28 pl-2 text-right font-medium text-steel-900">{o.label}</th>{/each}
					</tr>
				</thead>
				<tbody>
					{#each shown[0].answer.features as f (f.id)}
						<tr class="border-t border-steel-200 align-top">
							<th scope="row" class="py-1 text-left font-normal">{f.name}</th>
							<td class="tab py-1 pl-2 text-right whitespace-nowrap">{quantity(f.now, f.unit, unit)}</td>
							{#each shown as o (o.label)}
								{@const g = ofFeature(o, f.id)}
								<td class="tab py-1 pl-2 text-right whitespace-nowrap">
									{#if g}{quantity(g.then, g.unit, unit)}
										<span class="block font-sans text-[12px] font-semibold text-steel-700">{nearer(g)}</span>
										<span class="block text-[11px] text-steel-600">{short(g.difference.low)}..{short(g.difference.high)}</span>
									{:else}–{/if}
								</td>
							{/each}
						</tr>
					{/each}
					<tr class="border-t border-steel-200 text-steel-700">
						<th scope="row" class="py-1 text-left font-normal">Mean pull, kN</th>
						<td class="tab py-1 pl-2 text-right">{(shown[0].answer.force.now / 1000).toFixed(1)}</td>
						{#each shown as o (o.label)}<td class="tab py-1 pl-2 text-right">{(o.answer.force.then / 1000).toFixed(1)}</td>{/each}
					</tr>
				</tbody>
			</table>
		</div>
		<p class="mt-1 text-[13px] text-steel-600">
			Quick method. Small figures: the 90 % band of the difference to now; errors that both share cancel. Waves follow the pull.
		</p>
		<button type="button" class="mt-1 min-h-9 w-full rounded-sm border border-steel-400 px-2 text-sm hover:bg-steel-50" onclick={() => (drawn = true)}
			>See them drawn beside each other</button
		>
		{#each shown as o (o.label)}
			<div class="mt-2 border-t border-steel-200 pt-2 text-[13px]" role="group" aria-label="Of {o.label}">
				<div class="flex items-baseline gap-2">
					<h3 class="mr-auto text-[14px]">{o.label}</h3>
					<button
						type="button"
						class="text-primary-700 underline"
						aria-label="Take {o.label} away"
						onclick={() => (others = others.filter((x) => x !== o))}>Take away</button
					>
				</div>
				{#each o.answer.panels as p (p.label)}
					<p>
						{p.label}: {p.now === undefined ? 'well inside' : `${p.now.toFixed(1)} times its limit`}, then {p.then === undefined
							? 'well inside'
							: `${p.then.toFixed(1)} times`} (plate formula).
					</p>
				{/each}
				{#if !o.differs.length}<p class="text-steel-600">It plans the same.</p>
				{:else if desk.mayEdit}
					<div class="mt-1 flex flex-wrap gap-x-4 gap-y-1">
						{#each o.differs as k (k)}<label class="flex min-h-7 items-center gap-1.5"
								><input
									type="checkbox"
									class="h-4 w-4 accent-primary-600"
									checked={taken[`${o.label}/${k}`] ?? true}
									onchange={(e) => (taken[`${o.label}/${k}`] = e.currentTarget.checked)}
								/>{ADOPTABLE_WORDS[k]}</label
							>{/each}
					</div>
					<Button class="mt-1" size="sm" disabled={!takes(o).length} onclick={() => adopt(o)}
						>{takes(o).length === o.differs.length ? 'Adopt this' : 'Adopt what is ticked'}</Button
					>
				{/if}
			</div>
		{/each}
	{/if}
</Panel>
<Modal bind:open={drawn} title="Plans beside each other" size="xl" outsideclose>
	{#if drawn}{#await import('./CompareDrawings.svelte') then { default: CompareDrawings }}
			<CompareDrawings plans={[{ label: 'Now', plan: desk.doc }, ...shown.map((o) => ({ label: o.label, plan: o.then }))]} />
		{/await}{/if}
</Modal>
