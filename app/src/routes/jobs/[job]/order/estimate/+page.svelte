<script lang="ts">
	/** What the piece and the job take, for a quote, and what each minute of waiting buys. */
	import { DEFAULT_QUOTE, estimate } from '$core/estimate/estimate';
	import type { WaitingRow } from '$core/estimate/waiting';
	import { liesFor } from '$core/layout/positions';
	import type { Quote } from '$core/document/schema';
	import { unitOf } from '$core/features';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import OrderTabs from '$lib/order/OrderTabs.svelte';
	import { duration, quantity } from '$lib/units';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	/** times have a unit and are always known; money may be left open */
	const RATES = [
		{ key: 'fitUpMinPerPart', label: 'Fit-up, a part', unit: 'min', max: 600 },
		{ key: 'setUpMin', label: 'Set-up, once', unit: 'min', max: 6000 },
		{ key: 'reworkMin', label: 'One rework', unit: 'min', max: 6000 },
		{ key: 'hourRate', label: 'Labour, an hour', unit: '', max: 100_000 },
		{ key: 'gasPerL', label: 'Gas, a litre', unit: '', max: 1000 },
		{ key: 'fillerPerKg', label: 'Filler, a kg', unit: '', max: 100_000 }
	] as const satisfies readonly { key: keyof Quote; label: string; unit: string; max: number }[];
	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	const quote = $derived(desk.doc.quote ?? DEFAULT_QUOTE);
	const lies = $derived(desk.geometry ? liesFor(desk.doc.runs, new Map(desk.geometry.positions)) : []);
	const flips = $derived(lies.filter((u, i) => i > 0 && u !== lies[i - 1]).length);
	const e = $derived(
		desk.result?.schedule && desk.geometry && desk.result.schedule.runs.length === desk.doc.runs.length
			? estimate(desk.doc, desk.result.schedule, desk.shown ?? desk.result, flips, data.job.quantity)
			: undefined
	);
	let rows = $state.raw<{ doc: typeof desk.doc; rows: WaitingRow[] } | undefined>();
	let busy = $state(0);
	let message = $state('');
	async function waiting() {
		const doc = desk.doc;
		busy = 0.01;
		message = '';
		const out = await desk.whatWaitingBuys((p) => (busy = Math.max(0.01, p)));
		busy = 0;
		if (out.ok) rows = { doc, rows: out.data };
		else message = out.message;
	}
	const edit = (label: string, key: keyof Quote, v: number | undefined) =>
		desk.change(label, (d) => {
			const next: Quote = { ...DEFAULT_QUOTE, ...d.quote };
			if (v === undefined) delete next[key];
			else next[key] = v;
			d.quote = next;
		});
	const lines = $derived(
		e
			? ([
					['Fit-up', e.fitUpS, `${desk.doc.parts.length} parts`],
					['Tacks', e.tackS, `${desk.doc.tacks.length} tacks`],
					['Arc', e.arcS, `${desk.doc.runs.length} runs, ${(e.arcJ / 1000).toFixed(0)} kJ`],
					['Between runs', e.betweenS, 'reposition, wire, helmet'],
					['Waits for the metal', e.waitS, `interpass ceiling ${desk.doc.interpassLimitC} °C`],
					['Flips', e.flipS, `${e.flips}`],
					['Likely rework', e.reworkS, `${(100 * e.reworkChance).toFixed(0)} % that a feature is out, from the bands and how they go together`]
				] as const)
			: []
	);
	const money = (v: number) => v.toFixed(2);
</script>

<OrderTabs jobId={desk.jobId} />
<div class="relative flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
	<main id="main" class="relative min-w-0 flex-1 bg-white px-4 py-3 max-md:flex-none max-md:overflow-x-auto md:overflow-y-auto">
		<h2 class="text-[17px]">One piece</h2>
		{#if !desk.doc.runs.length}
			<p class="text-sm text-steel-700">No runs yet: choose a pattern under Edit.</p>
		{:else if !e}
			<p class="text-sm text-steel-700">Working out the weld-out's heat…</p>
		{:else}
			<table class="mt-1 border-collapse text-sm">
				<tbody>
					{#each lines as [name, s, note] (name)}
						<tr class="border-b border-steel-200">
							<th scope="row" class="py-1 pr-6 text-left font-normal">{name}</th>
							<td class="tab py-1 pr-6 text-right">{duration(s)}</td>
							<td class="py-1 text-steel-600">{note}</td>
						</tr>
					{/each}
					<tr class="border-b-2 border-steel-700 font-semibold">
						<th scope="row" class="py-1 pr-6 text-left">At the bench</th>
						<td class="tab py-1 pr-6 text-right">{duration(e.benchS)}</td>
						<td class="py-1 font-normal text-steel-600">and {duration(e.coolS)} unattended, to cool before measuring</td>
					</tr>
					<tr class="border-b border-steel-200">
						<th scope="row" class="py-1 pr-6 text-left font-normal">Shielding gas</th>
						<td class="tab py-1 pr-6 text-right">{e.gasL.toFixed(0)} L</td>
						<td class="py-1 text-steel-600">{e.purgeL > 0 ? `and ${e.purgeL.toFixed(0)} L back purge` : 'with pre- and post-flow'}</td>
					</tr>
					<tr class="border-b border-steel-200">
						<th scope="row" class="py-1 pr-6 text-left font-normal">Filler</th>
						<td class="tab py-1 pr-6 text-right">{e.fillerG.toFixed(0)} g</td>
						<td class="py-1 text-steel-600">{e.fillerG > 0 ? 'from joint sizes and gaps' : 'all fused'}</td>
					</tr>
					{#if e.cost}
						<tr class="border-b-2 border-steel-700 font-semibold">
							<th scope="row" class="py-1 pr-6 text-left">Cost</th>
							<td class="tab py-1 pr-6 text-right">{money(e.cost.total)}</td>
							<td class="py-1 font-normal text-steel-600"
								>labour {money(e.cost.labour)}, gas {money(e.cost.gas)}, filler {money(e.cost.filler)}; sheet and overheads not in it</td
							>
						</tr>
					{/if}
				</tbody>
			</table>
			<h2 class="mt-4 text-[17px]">The job: {e.batch.quantity} piece{e.batch.quantity > 1 ? 's' : ''}</h2>
			<p class="text-sm">
				<span class="tab font-semibold">{duration(e.batch.benchS)}</span> at the bench with {quote.setUpMin} min set-up once,
				<span class="tab">{e.batch.gasL.toFixed(0)} L</span> gas, <span class="tab">{e.batch.fillerG.toFixed(0)} g</span>
				filler{#if e.batch.total !== undefined}, cost
					<span class="tab font-semibold">{money(e.batch.total)}</span>{/if}.
			</p>
		{/if}
		<h2 class="mt-5 text-[17px]">What waiting buys</h2>
		<p class="max-w-[76ch] text-sm text-steel-700">
			The same order under other interpass ceilings: minutes waited against where each feature comes out.
		</p>
		{#if busy}<p class="mt-1 flex items-center gap-2 text-sm">
				<progress class="h-2 w-48 accent-primary-600" max="1" value={busy} aria-label="Progress"></progress>
			</p>{:else}<Button class="mt-2" size="sm" color="alternative" disabled={!desk.doc.runs.length} onclick={waiting}>Work it out</Button>{/if}
		{#if message}<div class="mt-2"><Notice kind="fault">{message}</Notice></div>{/if}
		{#if rows}
			{#if rows.doc !== desk.doc}<div class="mt-2"><Notice kind="caution">This is of an older state of the plan.</Notice></div>{/if}
			{@const doc = rows.doc}
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<div class="mt-2 overflow-x-auto" role="region" aria-label="What waiting buys, table" tabindex="0">
				<table class="border-collapse text-sm whitespace-nowrap">
					<thead
						><tr class="border-b-2 border-steel-700 text-right align-bottom">
							<th scope="col" class="py-1 pr-4 text-left">Ceiling</th><th scope="col" class="px-3 py-1">Waits</th><th scope="col" class="px-3 py-1"
								>In all</th
							>
							{#each doc.features as f (f.id)}<th scope="col" class="max-w-28 px-2 py-1 font-medium whitespace-normal">{f.name}</th>{/each}
						</tr></thead
					>
					<tbody>
						{#each rows.rows as r (r.interpassLimitC)}
							<tr class="border-b border-steel-200 text-right {r.isPlan ? 'bg-straw-50 font-semibold' : ''}">
								<th scope="row" class="tab py-1 pr-4 text-left font-normal">{r.interpassLimitC} °C{r.isPlan ? ' (this plan)' : ''}</th>
								<td class="tab px-3 py-1">{duration(r.waitS)}</td><td class="tab px-3 py-1">{duration(r.totalS)}</td>
								{#each doc.features as f, k (f.id)}<td class="tab px-2 py-1">{quantity(r.values[k], unitOf(f), unit)}</td>{/each}
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
			<p class="mt-1 text-[12px] text-steel-600">
				Quick method with the heat that earlier runs leave. Corrosion limits on the interpass temperature are the procedure's, not this table's.
			</p>
		{/if}
	</main>
	<aside class="relative w-[372px] shrink-0 space-y-0.5 bg-steel-100 max-md:w-full md:overflow-y-auto" aria-label="Rates">
		<Panel title="Rates">
			<div class="grid grid-cols-2 gap-3">
				{#each RATES as f (f.key)}
					<NumberField
						label={f.label}
						unit={f.unit}
						value={quote[f.key]}
						optional={!f.unit}
						min={0}
						max={f.max}
						disabled={!desk.mayEdit}
						onchange={(v) => edit(f.label.toLowerCase(), f.key, v)}
					/>
				{/each}
			</div>
			<p class="mt-2 text-[13px] text-steel-600">Times are this tool's own estimates until you change them. Money in whatever the shop counts in.</p>
		</Panel>
	</aside>
</div>
