<script lang="ts">
	/** A piece that is out: what would bring it back, what was done, and what it gave. */
	import { refresh } from '$lib/refresh';
	import { asItGoes } from '$core/corrections/share';
	import type { Way } from '$core/corrections/way';
	import { WAY_WORDS } from '$core/weldout/afterwards';
	import { VERDICT_WORDS, verdictOf } from '$core/features/verdict';
	import LogIt from '$lib/measure/LogIt.svelte';
	import { SAID_LOOK, SAID_SIGN } from '$lib/measure/said';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import PieceChoice from '$lib/ui/PieceChoice.svelte';
	import { quantity } from '$lib/units';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayLog = $derived(data.piece?.state !== 'handed-over' && (data.person?.roles.some((r) => r !== 'inspector') ?? false));
	const nameOf = (id: string | undefined) => data.features.find((f) => f.id === id)?.name ?? 'the piece';
	const unitOf = (id: string | undefined) => data.features.find((f) => f.id === id)?.unit ?? 'mm';
	const out = $derived(data.features.filter((f) => f.said === 'outside' || f.said === 'in doubt'));
	const unread = $derived(data.features.filter((f) => f.missing));
	/** id of the way that is being entered as done */
	let doing = $state('');
	/** of the features that are out, the one a way moves most */
	const meant = (w: Way) =>
		w.ends
			.filter((e) => out.some((f) => f.id === e.feature))
			.sort(
				(p, q) =>
					Math.abs((data.features.find((f) => f.id === q.feature)?.value ?? 0) - q.value) -
					Math.abs((data.features.find((f) => f.id === p.feature)?.value ?? 0) - p.value)
			)[0]?.feature ?? w.id.split(':')[1];
	const said = (w: Way) => ({
		way: w.kind,
		...(w.joint ? { joint: w.joint } : {}),
		...(data.features.some((f) => f.id === meant(w)) ? { feature: meant(w) } : {})
	});
	/** what it was foretold to come to, where what is entered is what was foretold */
	const foretold = (w: Way) => (d: { way?: string; feature?: string }) => {
		const end = w.ends.find((e) => e.feature === d.feature);
		return end && d.way === w.kind ? { foretold: end.value } : {};
	};
	/** what this way has given here, and where the feature it is for would end by that */
	function here(w: Way) {
		const share = data.shares.find(([way]) => way === w.kind)?.[1];
		const end = w.ends.find((e) => e.feature === meant(w));
		const now = data.features.find((f) => f.id === end?.feature);
		return share && end && now?.value !== undefined ? { share, now, end: asItGoes(end, now.value, share) } : undefined;
	}
	async function logged() {
		doing = '';
		await refresh();
	}
	const gave = (before: number | undefined, after: number | undefined, id: string | undefined) =>
		before === undefined
			? 'not read before it'
			: after === undefined
				? `${quantity(before, unitOf(id), unit)}; not read since`
				: `${quantity(before, unitOf(id), unit)} → ${quantity(after, unitOf(id), unit)}`;
</script>

<main id="main" class="relative flex-1 overflow-y-auto p-2 sm:p-5">
	{#if !data.piece || !data.view}
		<Panel title="Put right"><p>No piece of this job has been started at the bench yet: there is nothing to put right.</p></Panel>
	{:else}
		<div class="grid max-w-[1120px] gap-5 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
			<Panel title="What would bring {data.piece.serial} back">
				{#snippet aside()}<PieceChoice pieces={data.pieces} chosen={data.piece!.id} />{/snippet}
				{#if out.length}
					<ul class="mb-3 text-sm">
						{#each out as f (f.id)}
							<li class={f.said ? SAID_LOOK[f.said] : ''}>
								{f.said ? `${SAID_SIGN[f.said]} ${VERDICT_WORDS[f.said]}` : ''}: {f.name}
								<span class="tab text-steel-800"
									>{quantity(f.value, f.unit, unit)}, {f.tolerance.lower === undefined ? 'at most' : '±'}
									{quantity(f.tolerance.upper, f.unit, unit)}</span
								>
							</li>
						{/each}
					</ul>
				{:else}
					<p class="text-steel-700">Nothing that was read is out.</p>
				{/if}
				{#if unread.length}<p class="mb-3 text-sm text-steel-600">
						{unread.map((f) => `${f.name}: ${f.missing}`).join('; ')}. What is not read cannot be put right.
						<a class="text-primary-700 underline" href="/jobs/{data.job.id}/measure?piece={data.piece.id}">Measure</a>
					</p>{/if}
				{#await data.ways}
					<p class="text-sm text-steel-600" role="status">The ways are being worked out.</p>
				{:then found}
					{#each found?.cautions ?? [] as c, i (i)}<div class="mb-3"><Notice kind="caution">{c}</Notice></div>{/each}
					<ul class="space-y-3">
						{#each found?.ways ?? [] as w (w.id)}
							{@const own = here(w)}
							<li class="border border-steel-300 p-3">
								<div class="flex flex-wrap items-baseline justify-between gap-2">
									<h3 class="text-[15px] font-semibold">{w.label}</h3>
									<span class="tab text-sm text-steel-700"
										>{w.gain === undefined ? '' : `${Math.round(100 * w.gain)} % of the way back; `}about {w.minutes} min; by {w.by === 'forecast'
											? 'the forecast’s model'
											: w.by}</span
									>
								</div>
								<p class="mt-1 text-sm">{w.how}</p>
								{#if w.ends.length}
									<table class="mt-2 w-full text-sm">
										<thead class="text-left text-[12px] text-steel-600"
											><tr
												><th class="font-normal">Feature</th><th class="text-right font-normal">now</th><th class="text-right font-normal">then</th
												><th></th></tr
											></thead
										>
										<tbody>
											{#each w.ends as e (e.feature)}
												{@const f = data.features.find((x) => x.id === e.feature)!}
												{@const then = verdictOf(f.tolerance, e.low, e.high)}
												<tr class="border-t border-steel-200"
													><td class="py-1 pr-2">{f.name}</td><td class="tab text-right whitespace-nowrap">{quantity(f.value, f.unit, unit)}</td><td
														class="tab pl-2 text-right whitespace-nowrap"
														>{quantity(e.value, f.unit, unit)}
														<span class="text-steel-600">± {quantity((e.high - e.low) / 2, f.unit, unit)}</span></td
													><td class="w-24 pl-2 text-right {SAID_LOOK[then]}">{SAID_SIGN[then]} {then}</td></tr
												>
											{/each}
										</tbody>
									</table>
								{/if}
								{#if own}<p class="mt-1 text-sm">
										In this shop {WAY_WORDS[w.kind].toLowerCase()} has given {own.share.mean.toFixed(2)} of what was foretold ({own.share.low.toFixed(
											2
										)} to {own.share.high.toFixed(2)}, {own.share.times}
										{own.share.times === 1 ? 'time' : 'times'}): {own.now.name} then
										<strong class="tab font-medium"
											>{quantity(own.end.value, own.now.unit, unit)} ± {quantity((own.end.high - own.end.low) / 2, own.now.unit, unit)}</strong
										>.
									</p>{/if}
								<p class="mt-1 text-[13px] text-steel-600">Risk: {w.risk}</p>
								{#if mayLog}<button
										type="button"
										class="mt-2 min-h-11 rounded-sm border border-steel-400 px-3 text-sm font-medium"
										onclick={() => (doing = w.id)}>Done: enter it</button
									>{/if}
								{#if doing === w.id}
									<div class="mt-2 border-t border-steel-300 pt-2">
										<LogIt
											piece={data.piece!.id}
											kinds={[]}
											at="corrected"
											said={said(w)}
											also={foretold(w)}
											view={data.view!}
											{unit}
											onlogged={logged}
											onleave={() => (doing = '')}
										/>
									</div>
								{/if}
							</li>
						{/each}
					</ul>
					{#if found?.ways.length}<p class="mt-3 text-[13px] text-steel-600">
							Or scrap it: what all this takes is to be held against a new piece. What is welded, pressed or ground on a pressure vessel, a food or a
							drinking-water duty is its code’s and its engineer’s to allow.
						</p>{/if}
				{:catch}
					<p class="text-sm text-steel-600">The ways could not be worked out for this piece.</p>
				{/await}
			</Panel>
			<Panel title="What was put right">
				{#if !data.given.length}<p class="text-sm text-steel-600">
						Nothing yet. Read a feature before and after: what it gave is kept here and in the shop’s logbook.
					</p>{/if}
				<ul class="text-sm">
					{#each data.given as g (g.clientId)}
						<li class="border-t border-steel-200 py-2 first:border-0">
							<p>
								<span class="font-medium">{WAY_WORDS[g.way]}</span>{g.joint
									? ` on ${data.joints?.find((j) => j.id === g.joint)?.name ?? g.joint}`
									: ''}{g.minutes === undefined ? '' : `, ${g.minutes} min`}
							</p>
							<p class="tab">{nameOf(g.feature)}: {gave(g.before, g.after, g.feature)}</p>
							{#if g.note}<p class="text-steel-600">{g.note}</p>{/if}
							<p class="text-steel-600">{new Date(g.at).toLocaleString()}</p>
						</li>
					{/each}
				</ul>
				{#if mayLog}<div class="mt-3"><LogIt piece={data.piece.id} kinds={['corrected']} view={data.view} {unit} onlogged={logged} /></div>
				{:else}<p class="mt-3 text-sm text-steel-600">
						{data.piece.state === 'handed-over' ? 'This piece is handed over: its log is closed.' : 'A welder or a planner enters what was done.'}
					</p>{/if}
			</Panel>
		</div>
	{/if}
</main>
