<script lang="ts">
	import { refresh } from '$lib/refresh';
	import { FACTOR_NAMES, FACTOR_WORDS, factorBand } from '$core/factors/factors';
	import { contextWords } from '$core/learn/context';
	import { MOMENT_WORDS } from '$core/document/words';
	import { VERDICT_WORDS } from '$core/features/verdict';
	import { call, type Refusal } from '$lib/call';
	import { SAID_LOOK, SAID_SIGN } from '$lib/measure/said';
	import { quantity } from '$lib/units';
	import BandMark from '$lib/ui/BandMark.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import Causes from './Causes.svelte';
	import PieceChoice from '$lib/ui/PieceChoice.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayAdopt = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	let refusal = $state<Refusal | undefined>();
	let busy = $state(false);
	/** the verdict, beside the reading that decides */
	const saidOf = (r: { feature: string; moment: string; measured: number }) =>
		data.judged.find((j) => j.feature === r.feature && j.moment === r.moment && Math.abs((j.value ?? NaN) - r.measured) < 1e-9)?.said;
	async function adopt() {
		busy = true;
		const r = await call('POST', `/api/pieces/${data.piece!.id}/learn`);
		refusal = r.ok ? undefined : r.refusal;
		// the job is read again, and the desk forecasts with what it brings
		if (r.ok) await refresh();
		busy = false;
	}
	const DEPTH_WORDS = { quick: 'quick forecast', 'final-shape': 'final shape', hot: 'hot depth', full: 'full forecast' } as const;
	const span = (f: { low: number; value: number; high: number }) => `${f.value.toFixed(2)}  (${f.low.toFixed(2)} to ${f.high.toFixed(2)})`;
	/** what one reading does to the factors, where it is a hundredth or more */
	const movesWords = (moves: readonly number[]) => {
		const told = moves.flatMap((m, i) => {
			const percent = Math.round(100 * (m - 1));
			return percent ? [`${FACTOR_WORDS[FACTOR_NAMES[i]].toLowerCase()} ${percent > 0 ? '+' : '−'}${Math.abs(percent)}\u00a0%`] : [];
		});
		return told.length ? `alone it moves ${told.join(', ')}` : 'alone it moves no factor by 1\u00a0%';
	};
	const x = (v: number) => 50 + (Math.log(v) / Math.log(4)) * 50;
</script>

<main id="main" class="relative flex-1 overflow-y-auto p-5">
	<div class="grid max-w-[1120px] grid-cols-1 gap-5 md:grid-cols-[1.35fr_1fr]">
		<div class="space-y-5">
			<Panel title="Predicted against measured">
				{#snippet aside()}
					{#if data.piece}<PieceChoice pieces={data.pieces} chosen={data.piece.id} tells="readings" />{/if}
				{/snippet}
				{#await data.found}
					<p class="text-steel-600" role="status">The piece is being worked out as it was run: this takes some seconds.</p>
				{:then found}
					{#if !found?.rows?.length}<p class="text-steel-600">{found?.why ?? 'No piece yet.'}</p>
					{:else}
						<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
						<div class="relative overflow-x-auto" tabindex="0" role="group" aria-label="Table, scrolled sideways">
							<table class="w-full text-sm">
								<thead
									><tr class="text-left text-steel-600"
										><th class="py-1 font-medium">Feature</th><th class="font-medium">Measured</th><th class="font-medium"
											>Foretold by other pieces</th
										><th class="font-medium">With this one</th></tr
									></thead
								>
								<tbody>
									{#each found.rows as r (r.reading)}
										<tr class="border-t border-steel-200 align-top">
											<td class="py-2 pr-2"
												><span class="font-medium">{r.name}</span><br /><span class="text-steel-600"
													>{MOMENT_WORDS[r.moment]}{#if r.depth}, by {DEPTH_WORDS[r.depth]}{/if}{#if !r.before}; not learned from: no depth speaks of
														its waves then{/if}{#if r.isOutlier}; <strong class="text-plum-700">far off: kept on a leash</strong>{/if}</span
												></td
											>
											<td class="tab py-2 pr-2 whitespace-nowrap"
												>{quantity(r.measured, r.unit, unit)}<br /><span class="text-steel-600">± {quantity(r.uncertainty90, r.unit, unit)}</span
												>{#if saidOf(r)}<br /><span class="font-sans font-medium {SAID_LOOK[saidOf(r)!]}"
														>{SAID_SIGN[saidOf(r)!]} {VERDICT_WORDS[saidOf(r)!]}</span
													>{/if}</td
											>
											<td class="tab w-44 py-2 pr-3"
												>{#if r.before}{quantity(r.before.predicted, r.unit, unit)}<BandMark
														low={r.before.low}
														high={r.before.high}
														value={r.before.predicted}
														upper={r.before.high}
														lower={r.before.low}
														measured={r.measured}
													/><span class="font-sans text-[12px] text-steel-600"
														>{r.measured + r.uncertainty90 >= r.before.low && r.measured - r.uncertainty90 <= r.before.high
															? 'agrees with the band'
															: 'outside the band, reading’s own doubt included'}</span
													>{:else}–{/if}</td
											>
											<td class="tab py-2"
												>{r.after ? quantity(r.after.predicted, r.unit, unit) : '–'}{#if r.moves}<br /><span
														class="font-sans text-[12px] text-steel-600">{movesWords(r.moves)}</span
													>{/if}</td
											>
										</tr>
									{/each}
								</tbody>
							</table>
						</div>
						{#each found.leaveOut ?? [] as l (l.unit)}<p class="mt-2 text-[13px] text-steel-600">
								Foretold from all other pieces, these readings are off by {l.error.toFixed(2)}
								{l.unit} (root mean square of {l.count}).
							</p>{/each}
					{/if}
				{:catch}
					<Notice kind="fault"
						>The piece as it was run could not be worked out. Open Forecast for the reason, set a coarser mesh size there, and come back.</Notice
					>
				{/await}
			</Panel>
			{#await data.found then found}{#if found?.wrong}<Causes wrong={found.wrong} {unit} />{/if}{/await}
		</div>
		<div class="space-y-5">
			<Panel title="Shop factors">
				{#if refusal}<div class="mt-2"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
				{#await data.found}<p class="text-sm text-steel-600" role="status">Being worked out.</p>{:then found}
					{#if found?.context}<p class="text-sm text-steel-600">
							For {contextWords(found.context)}. 1.00 is what the forecast’s own method says.
						</p>{/if}
					{#each found?.cautions ?? [] as c (c)}<div class="mt-2"><Notice kind="caution">{c}</Notice></div>{/each}
					<table class="mt-2 w-full text-sm">
						<tbody>
							{#each FACTOR_NAMES as n (n)}
								{@const before = factorBand(found?.before ?? data.factors, n)}
								{@const after = found?.after && found.rows?.some((r) => r.after) ? factorBand(found.after, n) : undefined}
								<tr class="border-t border-steel-200">
									<td class="py-2 pr-3"
										><span class="font-medium">{FACTOR_WORDS[n]}</span><br /><span class="tab text-steel-600"
											>{found?.before ? 'without it' : 'now'} {span(before)}</span
										>{#if after}<br /><span class="tab">with it {span(after)}</span>{/if}</td
									>
									<td class="w-32">
										<svg viewBox="0 0 100 30" class="h-8 w-full" aria-hidden="true"
											><path d="M50 0v30" stroke="#bcc5cc" /><path
												d="M{x(before.low)} 10H{x(before.high)}"
												stroke="#8f9ca6"
												stroke-width="4"
											/><circle cx={x(before.value)} cy="10" r="3.5" fill="#4d5963" />{#if after}<path
													d="M{x(after.low)} 22H{x(after.high)}"
													stroke="#d9a441"
													stroke-width="4"
												/><circle cx={x(after.value)} cy="22" r="3.5" fill="#96660f" />{/if}</svg
										>
									</td>
								</tr>
							{/each}
						</tbody>
					</table>
					{#if found?.settled && found.fresh.length}
						<p class="mt-2 text-sm">
							{found.fresh.length} new reading{found.fresh.length === 1 ? '' : 's'}; {found.settled.converged
								? `settled in ${found.settled.iterations} steps`
								: 'did not settle: look for a slip in the readings'}.
						</p>
						{#if mayAdopt}<Button size="sm" class="mt-2" disabled={busy || !found.settled.converged} onclick={adopt}
								>{busy ? 'Keeping…' : 'Keep as a lesson of the shop'}</Button
							>{/if}
					{:else if found?.why && found.rows?.length}<p class="mt-2 text-sm text-steel-600">{found.why}</p>{/if}
				{/await}
				<p class="mt-3 text-sm">
					<a class="text-primary-700 underline" href="/learned">All that the shop has learned</a>, how good its forecasts have been, and lessons to
					withdraw
				</p>
			</Panel>
			<Panel title="How it learns">
				<p class="text-[13px] text-steel-700">
					The plan is taken as it was run, and read against the final shape: lengths, angles and squareness, and waves by their size, whichever way
					they went. All pieces of the shop are weighed together: those of the same metal, thickness and technique most, others as far as they are
					alike. A piece that goes its own way counts as one piece however often it is read; how far the forecast errs besides is learned by kind. A
					reading farther than three standard deviations from what the others foretell is kept on a leash and named.
				</p>
				{#await data.found then found}
					{#if found?.history.length}
						<h3 class="mt-3 text-[15px]">Lessons of this metal and technique</h3>
						{#if found.history.some((h) => h.isSetAside)}<p class="text-[13px] text-steel-700">
								Factors from an earlier method of the forecast are kept and set aside: they would mean something else now. Learn from the same pieces
								again to have their like.
							</p>{/if}
						<ul class="text-sm">
							{#each found.history as h (h.id)}<li class="border-t border-steel-200 py-1">
									{new Date(h.createdAt).toLocaleDateString()} by {h.person}: {h.pieces} piece{h.pieces === 1 ? '' : 's'}, {h.readings} readings{h.isSetAside
										? ' (set aside)'
										: ''}{h.withdrawn ? ` (${h.withdrawn})` : ''};
									<span class="tab"
										>pull {Math.exp(h.mean[1]).toFixed(2)}, shrinkage {Math.exp(h.mean[2]).toFixed(2)}, angle {Math.exp(h.mean[3]).toFixed(2)}</span
									>
								</li>{/each}
						</ul>
					{/if}
				{/await}
			</Panel>
		</div>
	</div>
</main>
