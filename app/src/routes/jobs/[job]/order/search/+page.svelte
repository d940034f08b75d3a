<script lang="ts">
	/** The search and every school side by side: what each comes to, why the found order is better, and what to adopt. */
	import { onDestroy, onMount } from 'svelte';
	import type { Run } from '$core/document/schema';
	import { adoptSeam } from '$core/search/adopt';
	import { exceedance } from '$core/search/cost';
	import type { BestSoFar, SearchResult, TableRow } from '$core/search/table';
	import { ORDER_SCHOOLS } from '$core/schools/orders';
	import BenchView from '$lib/bench-view/BenchView.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { seamLetters } from '$core/layout/seamNames';
	import { followLives } from '$core/sequence/lives';
	import { goalsBody, keepGoals, keptGoals } from '$lib/order/goals';
	import GoalsPanel from '$lib/order/GoalsPanel.svelte';
	import OrderTabs from '$lib/order/OrderTabs.svelte';
	import RunStrip from '$lib/order/RunStrip.svelte';
	import SearchChart from '$lib/order/SearchChart.svelte';
	import { TaskOf } from '$lib/order/taskOf.svelte';
	import { duration, quantity } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import SortHead from '$lib/ui/SortHead.svelte';
	import { Sorting } from '$lib/ui/sorting.svelte';
	import { Button, Checkbox } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	const RUNS_ONLY = { tacks: false, runs: true, holds: false };
	let goals = $state(keptGoals(desk.jobId));
	let full = $state(true);
	let shown = $state('search');
	let seam = $state('');
	let done = $state('');
	const search = new TaskOf<BestSoFar, SearchResult>(desk, 'order-search');
	const best = $derived(search.task?.partial);
	const result = $derived(search.result);
	const bestRuns = $derived(best?.runs ?? []);
	const row = $derived(result?.rows.find((r) => r.id === shown) ?? result?.rows[0]);
	const letters = $derived(seamLetters(desk.doc.joints));
	const featureOf = (id: string) => desk.doc.features.find((f) => f.id === id);
	/** 1 at a limit, 0 in the middle; a feature that is gone since then has none */
	const offMiddle = (id: string, value: number) => {
		const f = featureOf(id);
		return f ? Math.abs(exceedance(f, value)) : 0;
	};
	const isInside = (id: string, value: number) => offMiddle(id, value) <= 1;
	/** what two decimals show as nothing is no difference */
	const LEAST = 0.005;
	/** smaller error than the plan as it stands, beyond the paired band */
	const better = (id: string, { difference: d }: TableRow['cells'][number], now: number) =>
		d.low * d.high <= 0 || Math.abs(d.predicted) < LEAST ? '' : offMiddle(id, now + d.predicted) < offMiddle(id, now) ? '▼' : '▲';
	const now = $derived(result?.rows.find((r) => r.kind === 'now'));
	const costOf = (r: TableRow) => (result?.byHot && r.hotCost !== undefined ? r.hotCost : r.cost);
	/** features by how far they lie from the middle of their limits */
	const sorting = new Sorting<TableRow>((r, column) => {
		if (column === 'order') return r.name;
		if (column === 'time') return r.totalS;
		if (column === 'flips') return r.flips;
		if (column === 'all') return costOf(r);
		const k = result?.features.findIndex((f) => f.id === column) ?? -1;
		return k < 0 ? undefined : offMiddle(column, r.cells[k].value);
	});

	onMount(() => void search.look());
	onDestroy(() => search.end());
	function start() {
		keepGoals(desk.jobId, $state.snapshot(goals));
		done = '';
		shown = 'search';
		void search.start({ goals: goalsBody($state.snapshot(goals)), full });
	}
	function adopt(runs: readonly Run[], label: string) {
		const fresh = structuredClone($state.snapshot(runs)) as Run[];
		const ok = desk.change(label, (d) => {
			d.runs = fresh;
			return followLives(d.holdDowns, d.runs);
		});
		done = ok ? `Adopted: ${label}. Undo brings the plan back as it was.` : '';
	}
</script>

<OrderTabs jobId={desk.jobId} />
<div class="relative flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
	<main id="main" class="relative min-w-0 flex-1 bg-white max-md:flex-none md:overflow-y-auto">
		<div class="flex flex-wrap items-center gap-3 border-b border-steel-300 px-4 py-2.5" aria-live="polite">
			{#if search.isBusy}
				<span class="text-sm font-medium">{search.task?.state === 'queued' ? 'Waiting for a worker' : (best?.phase ?? 'Starting')}</span>
				<progress class="h-2 w-56 accent-primary-600" max="1" value={search.task?.progress ?? 0} aria-label="Search progress"></progress>
				{#if best?.evaluated}<span class="tab text-sm">{best.evaluated.toLocaleString('en')} orders weighed</span>{/if}
				<Button size="xs" color="alternative" onclick={() => search.stop()}>Stop, keep the best</Button>
			{:else}
				{#if desk.mayEdit}<Button size="sm" disabled={desk.doc.runs.length < 2} onclick={start}
						>{result ? 'Search again' : 'Search for a better order'}</Button
					>
					<Checkbox class="text-sm" bind:checked={full}>Every row arc by arc, the best two by the full method too (some minutes)</Checkbox>{/if}
				{#if desk.doc.runs.length < 2}<span class="text-sm text-steel-600">Needs two runs or more: choose a pattern under Edit.</span>{/if}
			{/if}
			{#if search.message}<Notice kind="fault">{search.message}</Notice>{/if}
			{#if search.task?.state === 'failed'}<Notice kind="fault">{search.task.message}</Notice>{/if}
			{#if result && !search.isCurrent}<Notice kind="caution">This answer is of an older state of the plan.</Notice>{/if}
			{#if result?.stopped}<Notice kind="note">Stopped early: this is what had been found.</Notice>{/if}
			{#if done}<Notice kind="done">{done}</Notice>{/if}
		</div>

		{#if search.isBusy && best}
			<section class="px-4 py-3" aria-label="Best so far">
				<h2 class="text-[17px]">Best so far</h2>
				{#if best.startCost > 0}<p class="mb-2 text-sm">
						What counts, together: <span class="tab font-semibold">{best.cost.toFixed(3)}</span> against
						<span class="tab">{best.startCost.toFixed(3)}</span> for the plan as it stands ({(100 * (1 - best.cost / best.startCost)).toFixed(1)} % less).
					</p>{/if}
				<RunStrip runs={bestRuns.length ? bestRuns : desk.doc.runs} joints={desk.doc.joints} label="Best order so far" />
				<div class="mt-3 grid h-80 grid-cols-2 gap-3">
					<div>
						{#if best.history.length > 1}<SearchChart history={best.history} evaluated={best.evaluated} />{/if}
					</div>
					<BenchView runs={bestRuns.length ? bestRuns : undefined} show={RUNS_ONLY} />
				</div>
			</section>
		{/if}

		{#if result}
			<section class="px-4 py-3" aria-labelledby="table-title">
				<h2 id="table-title" class="text-[17px]">
					Schools and the search, by the {result.byFinal === false
						? 'quick method'
						: result.byHot
							? 'final shape with each arc watched'
							: 'final shape'}
				</h2>
				<p class="mt-1 mb-2 max-w-[76ch] text-sm">{result.matters}</p>
				<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
				<div class="overflow-x-auto" role="region" aria-label="Orders side by side" tabindex="0">
					<table class="w-full border-collapse text-sm">
						<thead>
							<tr class="border-b-2 border-steel-700 text-left align-bottom">
								<SortHead {sorting} column="order" label="Order" class="py-1 pr-3" />
								{#each result.features as f (f.id)}<SortHead {sorting} column={f.id} label={f.name} class="max-w-28 px-2 py-1" toRight />{/each}
								<SortHead {sorting} column="time" label="Time" class="px-2 py-1" toRight />
								<SortHead {sorting} column="flips" label="Flips" class="px-2 py-1" toRight />
								<SortHead {sorting} column="all" label="All" class="py-1 pl-2" toRight />
							</tr>
						</thead>
						<tbody>
							{#each sorting.of(result.rows) as r (r.id)}
								<tr class="border-b border-steel-200 align-top {row?.id === r.id ? 'bg-straw-50' : ''}">
									<th scope="row" class="min-w-44 py-1.5 pr-3 text-left font-normal">
										<button
											type="button"
											class="text-left underline-offset-2 hover:underline {r.kind === 'search' ? 'font-semibold' : ''}"
											aria-pressed={row?.id === r.id}
											onclick={() => (shown = r.id)}>{r.name}</button
										>
										{#if r.note}<span class="block text-[12px] text-plum-700">{r.note}</span>{/if}
									</th>
									{#each r.cells as c, k (k)}
										{@const f = result.features[k]}
										<td class="tab px-2 py-1.5 text-right whitespace-nowrap">
											<span class="block {isInside(f.id, c.value) ? '' : 'font-semibold text-plum-700'}"
												>{isInside(f.id, c.value) ? '' : '✕ '}{quantity(c.value, f.unit, unit)}</span
											>
											{#if r.kind !== 'now' && now}<span
													class="block text-[11px] text-steel-600"
													title="Against the plan as it stands; 90 % of the paired difference"
													>{better(f.id, c, now.cells[k].value)}
													{c.difference.low.toFixed(2)}..{c.difference.high.toFixed(2)}</span
												>{/if}
											{#if c.hot !== undefined}<span class="block text-[11px] text-steel-700" title="By the final shape with each arc watched"
													>hot {c.hot.toFixed(2)}</span
												>{/if}
											{#if c.full !== undefined}<span class="block text-[11px] text-steel-700" title="By the full method"
													>full {c.full.toFixed(2)}</span
												>{/if}
										</td>
									{/each}
									<td class="tab px-2 py-1.5 text-right whitespace-nowrap">{duration(r.totalS)}</td>
									<td class="tab px-2 py-1.5 text-right">{r.flips}</td>
									<td class="tab py-1.5 pl-2 text-right">
										{costOf(r).toFixed(2)}
										{#if result.byHot && r.hotCost !== undefined}<span class="block text-[11px] text-steel-600" title="By the final shape alone"
												>plain {r.cost.toFixed(2)}</span
											>{/if}
									</td>
								</tr>
							{/each}
						</tbody>
					</table>
				</div>
				<p class="mt-1.5 text-[12px] text-steel-600">
					Below each value: its difference from the plan as it stands, 90 % band of the paired difference (errors the two share cancel; quick method
					with the heat of earlier runs). ▼ nearer, ▲ farther from the middle of the limits, beyond that band. ✕ outside its limit. All: what counts,
					together.
				</p>
				{#if result.leftOut.length}
					<details class="mt-2 text-sm">
						<summary class="cursor-pointer">{result.leftOut.length} schools do not apply to this piece</summary>
						<ul class="mt-1 list-disc pl-5 text-[13px]">
							{#each result.leftOut as l (l.pattern)}<li><span class="font-medium">{ORDER_SCHOOLS[l.pattern].name}.</span> {l.why}</li>{/each}
						</ul>
					</details>
				{/if}
			</section>
			{#if row}
				<section class="border-t-2 border-steel-700 px-4 py-3" aria-label="The chosen order">
					<h2 class="text-[17px]">{row.name}</h2>
					<RunStrip runs={row.runs} joints={desk.doc.joints} label={row.name} />
					<div class="mt-2 h-72"><BenchView runs={row.runs} show={RUNS_ONLY} /></div>
					{#if desk.mayEdit && row.kind !== 'now'}
						<div class="mt-2 flex flex-wrap items-end gap-2">
							<Button size="sm" onclick={() => adopt(row.runs, `the order “${row.name}”`)}>Adopt this order</Button>
							<div class="min-w-56">
								<Choice
									label="Only one seam's part"
									value={seam}
									items={[
										{ value: '', name: 'choose a seam…' },
										...desk.seams.map((j) => ({ value: j.id, name: `${letters.get(j.id)}  ${j.name}` }))
									]}
									onchange={(v) => (seam = v)}
								/>
							</div>
							<Button
								size="sm"
								color="alternative"
								disabled={!seam}
								onclick={() => adopt(adoptSeam(desk.doc.runs, row.runs, seam), `the part of ${letters.get(seam)} from “${row.name}”`)}
								>Adopt that part</Button
							>
						</div>
					{/if}
				</section>
			{/if}
		{:else if !search.isBusy}
			<div class="max-w-[70ch] px-4 py-6 text-sm text-steel-700">
				<p>
					The search tries every run in every place and both ways on the condensed piece, with the heat that earlier runs leave, and keeps assembly
					order, locked runs and the limit on flips. Every school that applies is worked out beside it by the final shape and with each arc watched,
					and the best two by the full method.
				</p>
				<p class="mt-2">Forecasts are estimates with bands: an order that gains less than its band is no better than another.</p>
			</div>
		{/if}
	</main>
	<aside class="relative w-[372px] shrink-0 space-y-0.5 bg-steel-100 max-md:w-full md:overflow-y-auto" aria-label="Goals and reasons">
		{#if result}
			<Panel title="Why">
				<ul class="list-disc space-y-1.5 pl-5 text-sm">
					{#each result.reasons as r, i (i)}<li>{r}</li>{/each}
				</ul>
			</Panel>
			{#if result.levers.length}
				<Panel title={result.orderMatters < 0.25 ? 'What matters more here' : 'Besides the order'}>
					<ul class="space-y-2 text-sm">
						{#each result.levers as l (l.id)}
							<li>
								<span class="font-medium">{l.label}:</span> what counts falls by {l.gain.toFixed(2)} (quick method).
							</li>
						{/each}
					</ul>
					<a class="mt-2 inline-block text-sm text-primary-700 underline" href="/jobs/{desk.jobId}/order/come-true"
						>Hold-downs and presets that make it come true</a
					>
				</Panel>
			{/if}
		{/if}
		<GoalsPanel bind:goals />
	</aside>
</div>
