<script lang="ts">
	import { FACTOR_NAMES, FACTOR_WORDS, factorBand } from '$core/factors/factors';
	import { call, type Refusal } from '$lib/call';
	import { refresh } from '$lib/refresh';
	import UntilCold from '$lib/measure/UntilCold.svelte';
	import { length, quantity } from '$lib/units';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';
	import CouponReadings from './CouponReadings.svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayAdopt = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	let refusal = $state<Refusal | undefined>();
	let busy = $state(false);
	const span = (f: { low: number; value: number; high: number }) => `${f.value.toFixed(2)} (${f.low.toFixed(2)} to ${f.high.toFixed(2)})`;
	async function keep() {
		busy = true;
		const r = await call('POST', `/api/pieces/${data.piece.id}/learn`);
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await refresh();
		busy = false;
	}
	const done = 'text-sound-800';
</script>

<main id="main" class="mx-auto max-w-[900px] space-y-4 px-6 py-5 max-sm:px-3">
	<div>
		<p class="text-sm">
			<a class="text-primary-700 underline" href="/coupons">Coupons</a>{#if data.trial}, of trial
				<a class="text-primary-700 underline" href="/trials/{data.trial.id}">{data.trial.name}</a>{/if}
		</p>
		<h1 class="text-2xl">{data.record.name}</h1>
		<p class="text-steel-700">{data.job.number}, piece {data.piece.serial}. Tells {data.record.tells}. {data.job.notes ?? ''}</p>
	</div>
	{#if refusal}<Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice>{/if}
	{#await data.about then about}{#each about.cautions as c (c)}<Notice kind="caution">{c}</Notice>{/each}{/await}

	<Panel title="1. Cut">
		<ul class="text-sm">
			{#each data.sheets as s (s.name)}
				<li>
					<strong class="font-medium">{s.name}</strong>: {length(s.sizeMm[0], unit)} × {length(s.sizeMm[1], unit)}, sheet {length(
						s.thicknessMm,
						unit
					)}
				</li>
			{/each}
		</ul>
		<p class="mt-1 text-[13px] text-steel-600">
			From the sheet of the job it is for, edges clean and square: the calliper reads across them afterwards, so mark where you put it.
			{#await data.about then about}At this size the whole coupon warms by {Math.round(about.warmsBy)} K.{/await}
			<a class="text-primary-700 underline" href="/api/jobs/{data.job.id}/cutting-list.pdf">Cutting list</a>
		</p>
	</Panel>

	<Panel title="2. Weld">
		{#if data.isWelded}
			<p class={done}>✓ Welded, every step logged.</p>
			<UntilCold coolAt={data.coolAt} isWarm={false} />
		{:else}
			<p class="text-sm">
				{data.tacks} tacks, then the seam, at {data.settings.ampsA} A and {data.settings.speedMmPerS} mm/s{data.record.isOnBar
					? ', on the copper bar, which comes off cold'
					: ', lying free'}. The bench tells it step by step and keeps the log.
			</p>
			<Button class="mt-2 min-h-14 w-full sm:w-auto" href="/jobs/{data.job.id}/weld-out?piece={data.piece.id}"
				>{data.piece.state === 'waiting' ? 'Begin at the bench' : 'Go on at the bench'}</Button
			>
			<p class="mt-2 text-[13px] text-steel-600">
				Arc, fumes and hot metal: screen, extraction, gloves, and the rules of your shop and of those who answer for its welding.
			</p>
		{/if}
	</Panel>

	<Panel title="3. Read">
		{#if !data.isWelded}
			<p class="text-sm text-steel-600">
				When it is welded, cold and free. What the drawing says is where it began: read nothing into a warm coupon.
			</p>
		{:else}
			{#await Promise.all([data.about, data.art])}<p class="text-sm text-steel-600" role="status">What to read is being worked out.</p>
			{:then [about, art]}<CouponReadings
					piece={data.piece.id}
					readings={about.readings}
					measured={data.measured}
					posture={data.posture}
					{unit}
					{art}
				/>
			{:catch}<Notice kind="fault">What to read could not be worked out: use the job’s Measure page.</Notice>{/await}
		{/if}
	</Panel>

	<Panel title="4. What it says">
		{#if !data.found}<p class="text-sm text-steel-600">After the first reading.</p>{/if}
		{#await data.found}<p class="text-sm text-steel-600" role="status">Being worked out.</p>{:then found}
			{#if found?.before && found.after}
				{#each found.cautions as c (c)}<div class="mb-2"><Notice kind="caution">{c}</Notice></div>{/each}
				{#each found.rows?.filter((r) => r.isOutlier) ?? [] as r (r.reading)}<div class="mb-2">
						<Notice kind="caution"
							>{r.name} reads {quantity(r.measured, r.unit, unit)}, far from what was foretold: is it a slip, or in inches? It is kept on a leash.</Notice
						>
					</div>{/each}
				<div class="overflow-x-auto">
					<table class="w-full text-sm">
						<thead
							><tr class="text-left text-steel-600"
								><th class="py-1 pr-3 font-medium">Factor</th><th class="pr-3 font-medium">without it</th><th class="font-medium">with it</th></tr
							></thead
						>
						<tbody>
							{#each FACTOR_NAMES as n (n)}<tr class="border-t border-steel-200"
									><td class="py-1.5 pr-3">{FACTOR_WORDS[n]}</td><td class="tab pr-3 text-steel-600">{span(factorBand(found.before!, n))}</td><td
										class="tab">{span(factorBand(found.after!, n))}</td
									></tr
								>{/each}
						</tbody>
					</table>
				</div>
				<p class="mt-1 text-[12px] text-steel-600">1.00 is what the closed forms and the section say by themselves; bands hold 90 %.</p>
				{#if found.fresh.length}
					{#if mayAdopt}<Button class="mt-3 min-h-14 w-full sm:w-auto" disabled={busy || !found.settled?.converged} onclick={keep}
							>{busy ? 'Keeping…' : `Keep ${found.fresh.length} reading${found.fresh.length === 1 ? '' : 's'} as a lesson of the shop`}</Button
						>{:else}<p class="mt-2 text-sm">A planner keeps it as a lesson of the shop.</p>{/if}
				{:else}<p class="mt-3 {done}">✓ Kept as a lesson of the shop.</p>{/if}
			{:else if found?.why}<p class="text-sm text-steel-600">{found.why}</p>{/if}
		{:catch}<Notice kind="fault">It could not be worked out: open the job’s Learn page for the reason.</Notice>{/await}
	</Panel>

	<Panel title="What it changes on the open jobs">
		{#if !data.narrowed}<p class="text-sm text-steel-600">After the first reading.</p>{/if}
		{#await data.narrowed}<p class="text-sm text-steel-600" role="status">Open jobs are being looked through.</p>{:then list}
			{@const moved = (list ?? []).filter((n) => n.then < 0.99 * n.now).slice(0, 8)}
			{#if list && !moved.length}<p class="text-sm text-steel-700">No band of the open jobs gets a hundredth narrower by it.</p>{/if}
			<ul class="text-sm">
				{#each moved as n, i (i)}<li class="border-t border-steel-200 py-1.5 first:border-t-0">
						{n.name} of {n.job}: ±<span class="tab">{quantity(n.now, n.unit, unit)}</span> becomes ±<span class="tab"
							>{quantity(n.then, n.unit, unit)}</span
						>
					</li>{/each}
			</ul>
		{/await}
	</Panel>
</main>
