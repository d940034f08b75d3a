<script lang="ts">
	/** Every piece that was begun: searched, filtered, summed. */
	import { page } from '$app/state';
	import { isFirstTimeRight } from '$core/corrections/summary';
	import { JOINT_TYPES, PIECE_WORDS } from '$core/document/words';
	import { JOINTS } from '$core/joints';
	import { WAY_WORDS, type WayKind } from '$core/weldout/afterwards';
	import Panel from '$lib/ui/Panel.svelte';
	import { length } from '$lib/units';
	import { Button, Label } from 'flowbite-svelte';
	import BarsChart from './BarsChart.svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const a = $derived(data.asked);
	const OUTCOME_WORDS = {
		right: 'right first time',
		accepted: 'accepted',
		concession: 'accepted by concession',
		rejected: 'rejected',
		open: 'not signed yet'
	};
	const share = (n: number, of: number) => (of ? `${Math.round((100 * n) / of)} %` : '–');
	const at = (to: number) => {
		const asked = new URLSearchParams(page.url.searchParams);
		asked.set('page', String(to));
		return `?${asked}`;
	};
	const box = 'w-full rounded-sm border border-steel-400 bg-white px-2 py-1.5 text-sm';
	const isFiltered = $derived(Object.values(a).some((v) => v !== undefined));
	const ended = (r: (typeof data.rows)[number]) =>
		r.accepted === null
			? PIECE_WORDS[r.state]
			: !r.accepted
				? '✕ rejected'
				: r.concession
					? '✓ by concession'
					: r.summary && isFirstTimeRight(r.summary, true)
						? '✓ right first time'
						: '✓ accepted';
</script>

<svelte:head><title>Logbook · Sarta</title></svelte:head>
<main id="main" class="relative flex-1 overflow-y-auto p-2 sm:p-5">
	<div class="mx-auto max-w-[1240px] space-y-5">
		<Panel title="Logbook">
			{#snippet aside()}<a class="text-sm text-primary-700 underline" href="/api/logbook.csv{page.url.search}">CSV</a>{/snippet}
			<form method="GET" class="grid grid-cols-2 gap-3 sm:grid-cols-4 lg:grid-cols-8">
				<div class="col-span-2">
					<Label for="l-search" class="mb-1">Search</Label><input
						id="l-search"
						name="search"
						class={box}
						maxlength="100"
						value={a.search ?? ''}
						placeholder="job, customer, piece, fault"
					/>
				</div>
				<div>
					<Label for="l-material" class="mb-1">Material</Label><select id="l-material" name="material" class={box} value={a.material ?? ''}
						><option value="">any</option>{#each data.choices.materials as m (m)}<option>{m}</option>{/each}</select
					>
				</div>
				<div>
					<Label for="l-thick" class="mb-1">Thickness</Label><select id="l-thick" name="thicknessMm" class={box} value={a.thicknessMm ?? ''}
						><option value="">any</option>{#each data.choices.thicknesses as t (t)}<option value={t}>{length(t, unit)}</option>{/each}</select
					>
				</div>
				<div>
					<Label for="l-joint" class="mb-1">Joint</Label><select id="l-joint" name="joint" class={box} value={a.joint ?? ''}
						><option value="">any</option>{#each JOINT_TYPES as j (j)}<option value={j}>{JOINTS[j].name}</option>{/each}</select
					>
				</div>
				<div>
					<Label for="l-welder" class="mb-1">Welder</Label><select id="l-welder" name="welder" class={box} value={a.welder ?? ''}
						><option value="">anybody</option>{#each data.choices.welders as w (w.id)}<option value={w.id}>{w.name}</option>{/each}</select
					>
				</div>
				<div><Label for="l-from" class="mb-1">Signed from</Label><input id="l-from" type="date" name="from" class={box} value={a.from ?? ''} /></div>
				<div><Label for="l-to" class="mb-1">to</Label><input id="l-to" type="date" name="to" class={box} value={a.to ?? ''} /></div>
				<div class="col-span-2">
					<Label for="l-outcome" class="mb-1">How it ended</Label><select id="l-outcome" name="outcome" class={box} value={a.outcome ?? ''}
						><option value="">any way</option>{#each Object.entries(OUTCOME_WORDS) as [id, words] (id)}<option value={id}>{words}</option
							>{/each}</select
					>
				</div>
				<div class="flex items-end gap-3">
					<Button type="submit" size="sm">Show</Button>{#if isFiltered}<a class="pb-2 text-sm text-primary-700 underline" href="/logbook">All</a>{/if}
				</div>
			</form>
			<p class="mt-2 text-[13px] text-steel-600">Joint, welder and dates are those of signed pieces: what is still open is not in them.</p>
		</Panel>
		<div class="grid gap-5 lg:grid-cols-3">
			<Panel title="In all">
				<dl class="grid grid-cols-[1fr_auto] gap-y-1 text-sm">
					<dt>Pieces begun</dt>
					<dd class="tab text-right">{data.sums.pieces}</dd>
					<dt>Signed</dt>
					<dd class="tab text-right">{data.sums.signed}</dd>
					<dt>Accepted</dt>
					<dd class="tab text-right">{data.sums.accepted} ({share(data.sums.accepted, data.sums.signed)})</dd>
					<dt>Right first time</dt>
					<dd class="tab text-right">{data.sums.right} ({share(data.sums.right, data.sums.summed)})</dd>
					<dt>Waited for metal to cool</dt>
					<dd class="tab text-right">{data.sums.waitH.toFixed(1)} h</dd>
					<dt>Put right, repaired, polished</dt>
					<dd class="tab text-right">{data.sums.reworkH.toFixed(1)} h</dd>
				</dl>
				<p class="mt-2 text-[13px] text-steel-600">
					Right first time: accepted with nothing outside, no problem logged, nothing put right.{data.sums.signed > data.sums.summed
						? ` ${data.sums.signed - data.sums.summed} signed before this was kept are not in it.`
						: ''}
				</p>
			</Panel>
			<Panel title="Outside most often">
				{#if data.sums.outside.length}<BarsChart bars={data.sums.outside} label="Features outside their limits" />
				{:else}<p class="text-sm text-steel-600">Nothing that was signed was outside its limits.</p>{/if}
				{#if data.sums.problems.length}
					<h3 class="mt-2 text-[15px]">Problems</h3>
					<ul class="text-sm">
						{#each data.sums.problems as p (p.note)}<li>{p.count} × {p.note}</li>{/each}
					</ul>
				{/if}
			</Panel>
			<Panel title="What corrections gave">
				{#if data.sums.corrections.length}
					<ul class="text-sm">
						{#each data.sums.corrections as c (c.way)}<li class="border-t border-steel-200 py-1 first:border-0">
								{WAY_WORDS[c.way as WayKind] ?? c.way}: {c.count} ×{c.read
									? `, nearer to the drawing in ${c.better} of ${c.read} that were read before and after`
									: ', never read before and after'}
							</li>{/each}
					</ul>
				{:else}<p class="text-sm text-steel-600">Nothing was put right on these pieces.</p>{/if}
			</Panel>
		</div>
		<Panel title="Pieces">
			{#if !data.rows.length}<p class="text-steel-600">
					{isFiltered ? 'No piece is like that.' : 'No piece has been started at the bench yet.'}
				</p>
			{:else}
				<!-- svelte-ignore a11y_no_noninteractive_tabindex (it scrolls sideways on a phone: the keyboard must reach it) -->
				<div class="overflow-x-auto" tabindex="0" role="region" aria-label="Pieces">
					<table class="w-full min-w-[820px] text-sm">
						<thead class="text-left text-steel-600"
							><tr
								><th class="py-1 font-medium">Piece</th><th class="font-medium">Job</th><th class="font-medium">Metal</th><th class="font-medium"
									>Welded by</th
								><th class="font-medium">Signed</th><th class="font-medium">How it ended</th><th class="font-medium"
									>What was out, wrong or put right</th
								></tr
							></thead
						>
						<tbody>
							{#each data.rows as r (r.id)}
								<tr class="border-t border-steel-200 align-top">
									<td class="tab py-1.5 pr-3"><a class="text-primary-700 underline" href="/jobs/{r.jobId}/hand-over?piece={r.id}">{r.serial}</a></td>
									<td class="pr-3"
										>{r.job}{#if r.customer}<br /><span class="text-steel-600">{r.customer}</span>{/if}</td
									>
									<td class="tab pr-3 whitespace-nowrap">{r.material} {length(r.thicknessMm, unit)}</td>
									<td class="pr-3">{r.summary?.welders.map((w) => w.name).join(', ') ?? ''}</td>
									<td class="tab pr-3 whitespace-nowrap">{r.signedAt ? `${r.signedAt.toISOString().slice(0, 10)} ` : ''}{r.signedBy ?? ''}</td>
									<td class="pr-3 whitespace-nowrap {r.accepted === false ? 'text-plum-700' : r.accepted ? 'text-sound-700' : ''}">{ended(r)}</td>
									<td class="text-steel-700"
										>{[
											...(r.summary?.outside.map((o) => `outside: ${o}`) ?? []),
											...(r.summary?.problems.map((p) => p.note) ?? []),
											...(r.summary?.corrections.map((c) => WAY_WORDS[c.way].toLowerCase()) ?? [])
										].join('; ')}</td
									>
								</tr>
							{/each}
						</tbody>
					</table>
				</div>
				{#if data.pages > 1}<p class="mt-3 flex gap-4 text-sm">
						{#if data.page > 1}<a class="text-primary-700 underline" href={at(data.page - 1)}>Later ones</a>{/if}
						<span class="tab">{data.page} of {data.pages}</span>
						{#if data.page < data.pages}<a class="text-primary-700 underline" href={at(data.page + 1)}>Earlier ones</a>{/if}
					</p>{/if}
			{/if}
		</Panel>
	</div>
</main>
