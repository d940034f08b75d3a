<script lang="ts">
	import { contextWords } from '$core/learn/context';
	import { FEATURE_WORDS } from '$core/document/words';
	import { FACTOR_NAMES, factorBand } from '$core/factors/factors';
	import { call, type Refusal } from '$lib/call';
	import { refresh } from '$lib/refresh';
	import { quantity } from '$lib/units';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import ForetoldChart from './ForetoldChart.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayWithdraw = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	let asking = $state<string | undefined>();
	let why = $state('');
	let busy = $state(false);
	let refusal = $state<Refusal | undefined>();
	const percent = (v: number) => `${Math.round(100 * v)} %`;

	async function withdraw(lesson: string) {
		busy = true;
		const r = await call('POST', `/api/lessons/${lesson}/withdraw`, { why });
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) {
			asking = undefined;
			why = '';
			await refresh();
		}
		busy = false;
	}
</script>

<main id="main" class="mx-auto max-w-[1180px] px-6 py-6 max-sm:px-4">
	<div class="mb-4 flex flex-wrap items-baseline justify-between gap-3">
		<h1 class="text-2xl">What the shop has learned</h1>
		<p>
			<a class="text-primary-700 underline" href="/coupons">Coupons</a>,
			<a class="text-primary-700 underline" href="/trials">trials</a>{#if data.rows.length},
				<a class="text-primary-700 underline" href="/api/learned.csv" download>every reading behind it (CSV)</a>{/if}
		</p>
	</div>
	{#if !data.rows.length}
		<p class="mb-4 max-w-2xl text-steel-700">
			Nothing yet. Weld a <a class="text-primary-700 underline" href="/coupons">coupon</a>, half an hour’s work, or weld a piece out at the bench,
			measure it cold and free of clamps, open its job’s Learn page and keep it as a lesson.
		</p>
	{/if}
	<div class="grid grid-cols-1 gap-5 lg:grid-cols-2">
		{#if data.rows.length}
			<Panel title="Foretold against measured">
				<p class="text-[13px] text-steel-700">
					Each reading against what all other pieces foretold of it. On the line it was foretold to the point; rings are far off and kept on a leash.
				</p>
				<div class="mt-2 grid grid-cols-1 gap-4 sm:grid-cols-2">
					{#each ['mm', '°'] as const as u (u)}
						{#if data.rows.some((r) => r.unit === u)}<ForetoldChart rows={data.rows.filter((r) => r.unit === u)} unit={u} />{/if}
					{/each}
				</div>
			</Panel>
			<Panel title="How good the forecasts have been">
				{#if data.covered}<p class="text-sm">
						{data.covered.inside} of {data.covered.count} readings lay inside their 90 % band ({percent(data.covered.inside / data.covered.count)};
						the true share is between {percent(data.covered.low)} and {percent(data.covered.high)}).
					</p>{/if}
				<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
				<div class="relative overflow-x-auto" tabindex="0" role="group" aria-label="Table, scrolled sideways">
					<table class="mt-2 w-full text-sm">
						<thead
							><tr class="text-left text-steel-600"
								><th class="py-1 pr-2 font-medium">Kind</th><th class="pr-2 font-medium">Readings</th><th class="pr-2 font-medium">Off, as made</th
								><th class="pr-2 font-medium">Off, by other pieces</th><th class="pr-2 font-medium">In band</th><th class="font-medium">Errs by</th
								></tr
							></thead
						>
						<tbody>
							{#each data.kinds as k (k.kind)}
								<tr class="border-t border-steel-200"
									><td class="py-1.5 pr-2">{FEATURE_WORDS[k.kind as keyof typeof FEATURE_WORDS] ?? k.kind}</td><td class="tab pr-2">{k.readings}</td
									><td class="tab pr-2">{quantity(k.asMade, k.unit, unit)}</td><td class="tab pr-2">{quantity(k.fromOthers, k.unit, unit)}</td><td
										class="tab pr-2">{k.covered.inside} of {k.covered.count}</td
									><td class="tab">{k.times.toFixed(1)} ×</td></tr
								>
							{/each}
						</tbody>
					</table>
				</div>
				<p class="mt-2 text-[12px] text-steel-600">
					Off: mean distance of the readings from the forecast with every factor at 1, and from what all other pieces foretell. Errs by: how many
					times as far as its band says the forecast is off for other reasons than the factors; it begins at 1 and moves as readings come.
				</p>
				{#if data.drift}
					<div class="mt-3">
						<Notice kind="caution" title="Something changed"
							>Since {new Date(data.drift.since).toLocaleDateString()} pieces come out {data.drift.after > data.drift.before ? 'stronger' : 'weaker'} than
							the
							{data.drift.pieces[0]} before foretell ({data.drift.pieces[1]} pieces; chance alone shows as much in {percent(data.drift.chance)} of shops).
							Another batch of sheet, another welder, another nozzle? If so, withdraw the older lessons, or give the new way its own settings.</Notice
						>
					</div>
				{/if}
			</Panel>
			<Panel title="Factors">
				<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
				<div class="relative overflow-x-auto" tabindex="0" role="group" aria-label="Table, scrolled sideways">
					<table class="w-full text-sm">
						<thead
							><tr class="text-left text-steel-600"
								><th class="py-1 pr-2 font-medium">For</th>{#each ['Heat', 'Pull', 'Shrinkage', 'Angle'] as h (h)}<th class="pr-2 font-medium">{h}</th
									>{/each}</tr
							></thead
						>
						<tbody>
							{#each data.contexts as c (JSON.stringify(c.context))}
								<tr class="border-t border-steel-200 align-top"
									><td class="py-1.5 pr-2"
										>{contextWords(c.context)}<br /><span class="text-[12px] text-steel-600"
											>{c.factors.pieces} piece{c.factors.pieces === 1 ? '' : 's'}{#if c.factors.borrowed}, helped by {c.factors.borrowed} of other kinds{/if}</span
										></td
									>{#each FACTOR_NAMES as n (n)}
										{@const b = factorBand(c.factors, n)}
										<td class="tab pr-2"
											>{b.value.toFixed(2)}<br /><span class="text-[11px] whitespace-nowrap text-steel-600"
												>{b.low.toFixed(2)} to {b.high.toFixed(2)}</span
											></td
										>
									{/each}</tr
								>
							{/each}
						</tbody>
					</table>
				</div>
			</Panel>
		{/if}
		{#if data.lessons.length}
			<Panel title="Lessons">
				{#if refusal}<Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice>{/if}
				<ul class="text-sm">
					{#each data.lessons as l (l.id)}
						<li class="border-t border-steel-200 py-2 first:border-t-0">
							<div class="flex flex-wrap items-baseline justify-between gap-2">
								<span
									>{#if l.jobId}<a class="text-primary-700 underline" href="/jobs/{l.jobId}/learn?piece={l.pieceId}">{l.job}, piece {l.serial}</a
										>{:else}A piece{/if}: {l.readings} readings, kept {new Date(l.createdAt).toLocaleDateString()} by {l.person}</span
								>
								{#if !l.withdrawnAt && !l.isSetAside && mayWithdraw}<Button
										size="xs"
										color="alternative"
										onclick={() => {
											asking = asking === l.id ? undefined : l.id;
											why = '';
										}}>Withdraw</Button
									>{/if}
							</div>
							<p class="text-[13px] text-steel-600">
								{#if l.withdrawnAt}Withdrawn {new Date(l.withdrawnAt).toLocaleDateString()} by {l.withdrawnBy}: {l.withdrawnWhy}
								{:else if l.isSetAside}Set aside: of an earlier method. Learn from the same piece again.
								{:else}After it: pull {l.pull.toFixed(2)}, shrinkage {l.shrinkage.toFixed(2)}, angle {l.angle.toFixed(2)} (heat in each){/if}
							</p>
							{#if asking === l.id}
								<form
									class="mt-2 flex flex-wrap items-end gap-2"
									onsubmit={(e) => {
										e.preventDefault();
										void withdraw(l.id);
									}}
								>
									<div class="min-w-60 flex-1">
										<Label for="why-{l.id}">Why it is withdrawn</Label><Input id="why-{l.id}" bind:value={why} maxlength={300} required />
									</div>
									<Button type="submit" size="sm" disabled={busy || !why.trim()}>{busy ? 'Working out anew…' : 'Withdraw this lesson'}</Button>
								</form>
							{/if}
						</li>
					{/each}
				</ul>
			</Panel>
		{/if}
	</div>
</main>
