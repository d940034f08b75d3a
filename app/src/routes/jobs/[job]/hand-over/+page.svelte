<script lang="ts">
	import { LOOKED } from '$core/weldout/happenings';
	import { PIECE_WORDS } from '$core/document/words';
	import { refresh } from '$lib/refresh';
	import { call, type Refusal } from '$lib/call';
	import { quantity } from '$lib/units';
	import { uuid } from '$lib/uuid';
	import { SAID_LOOK, SAID_SIGN } from '$lib/measure/said';
	import LogIt from '$lib/measure/LogIt.svelte';
	import { DECIDED_WORDS, TINTS, SURFACE_WORDS, type Decided } from '$core/weldout/afterwards';
	import Photographs from '$lib/ui/Photographs.svelte';
	import TakePhotograph from '$lib/ui/TakePhotograph.svelte';
	import WaitingPhotographs from '$lib/ui/WaitingPhotographs.svelte';
	import { photographQueue } from '$lib/desk/photograph-queue.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import PieceChoice from '$lib/ui/PieceChoice.svelte';
	import { Button, Label, Radio, Textarea } from 'flowbite-svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const maySign = $derived(data.person?.roles.some((r) => r === 'inspector' || r === 'admin') ?? false);
	const isOpen = $derived(data.piece?.state !== 'handed-over');
	let accepted = $state('yes');
	let statement = $state('');
	const accepts = $derived(
		data.outside.length ? 'Seen and measured; accepted as recorded, by the concession named.' : 'Seen and measured; meets the drawing as recorded.'
	);
	/** what is signed unless other words are written */
	const words = $derived(statement.trim() || (accepted === 'yes' ? accepts : ''));
	let concession = $state('');
	let refusal = $state<Refusal | undefined>();
	let busy = $state(false);
	const isBlocked = $derived(busy || !words || (accepted === 'yes' && (data.missing.length > 0 || (data.outside.length > 0 && !concession.trim()))));
	async function sign() {
		busy = true;
		const r = await call('POST', `/api/pieces/${data.piece!.id}/sign`, {
			accepted: accepted === 'yes',
			statement: words,
			...(accepted === 'yes' && data.outside.length ? { concession: concession.trim() } : {})
		});
		busy = false;
		refusal = r.ok ? undefined : r.refusal;
		await refresh();
	}
	/** what became of each open problem, as it is being written */
	let closures = $state<Record<string, string>>({});
	let decided = $state<Record<string, Decided | ''>>({});
	const mayConcede = $derived(data.person?.roles.some((r) => r !== 'welder') ?? false);
	/** one id a problem: pressing twice closes once */
	const ids: Record<string, string> = {};
	async function close(problem: string) {
		const note = closures[problem]?.trim();
		const what = decided[problem];
		if (!note || !what) return;
		const r = await call<{ refused: { message: string }[] }>('POST', `/api/pieces/${data.piece!.id}/events`, {
			events: [
				{
					clientId: (ids[problem] ??= uuid()),
					kind: 'problem-closed',
					about: problem,
					note,
					data: { decided: what },
					happenedAt: new Date().toISOString()
				}
			]
		});
		const told = r.ok ? r.data.refused[0]?.message : undefined;
		refusal = r.ok ? (told ? { status: 422, message: told, faults: [] } : undefined) : r.refusal;
		if (r.ok && !told) delete closures[problem];
		await refresh();
	}
	/** a non-conformance that is being written */
	let wrong = $state('');
	let wrongId = uuid();
	async function open() {
		const note = wrong.trim();
		if (!note) return;
		const r = await call<{ refused: { message: string }[] }>('POST', `/api/pieces/${data.piece!.id}/events`, {
			events: [{ clientId: wrongId, kind: 'step-problem', note, happenedAt: new Date().toISOString() }]
		});
		const told = r.ok ? r.data.refused[0]?.message : undefined;
		refusal = r.ok ? (told ? { status: 422, message: told, faults: [] } : undefined) : r.refusal;
		if (r.ok && !told) {
			wrong = '';
			wrongId = uuid();
		}
		await refresh();
	}
	// one that has arrived belongs to the record
	let seen = photographQueue.arrived;
	$effect(() => {
		if (photographQueue.arrived === seen) return;
		seen = photographQueue.arrived;
		void refresh();
	});
	/** with its unit once, behind the band */
	const bare = (v: number, of: 'mm' | '°') => quantity(v, of, unit).replace(/( (mm|in)|°)$/, '');
	const time = (d: Date | string) => new Date(d).toLocaleString();
</script>

<main id="main" class="relative flex-1 overflow-y-auto p-2 sm:p-5">
	{#if !data.piece}<Panel title="Hand-over"><p>This job has no pieces.</p></Panel>{:else}
		<div class="grid max-w-[1120px] grid-cols-[minmax(0,1fr)] gap-5 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
			<Panel title="Record of {data.piece.serial}">
				{#snippet aside()}<PieceChoice pieces={data.pieces} chosen={data.piece!.id} />{/snippet}
				{#if !data.results.length}<p class="text-steel-600">Not started at the bench yet.</p>{/if}
				<table class="w-full text-sm">
					<tbody>
						{#each data.results as r (r.id)}
							<tr class="border-t border-steel-200 first:border-0"
								><td class="py-1.5">{r.name}</td><td class="tab pl-2 text-right sm:whitespace-nowrap"
									>{#if r.value === undefined}{r.missing}{:else}{bare(r.value, r.unit)}
										<span class="text-steel-600">± {quantity(r.uncertainty90, r.unit, unit)}</span>{/if}</td
								><td class="tab pl-2 text-right text-steel-600 sm:whitespace-nowrap"
									>{r.tolerance.lower === undefined ? 'at most ' : '± '}{quantity(r.tolerance.upper, r.unit, unit)}</td
								><td class="pl-2 text-right sm:w-28 {r.said === undefined ? 'text-steel-600' : SAID_LOOK[r.said]}"
									>{r.said === undefined ? '–' : `${SAID_SIGN[r.said]} ${r.said}`}</td
								></tr
							>
						{/each}
					</tbody>
				</table>
				{#if data.unsure.length}
					<p class="mt-2 border-l-4 border-straw-600 bg-straw-50 px-3 py-2 text-sm">
						{data.unsure.join(', ')}: nearer to the limit than it was read.
						{data.decision === 'guard-band'
							? 'This job asks for proof: read it better, or give the reason for a concession.'
							: 'In this job a reading counts as it was read; read it better where it matters.'}
					</p>
				{/if}
				{#if data.problems.length}<h3 class="mt-4 text-[15px]">Problems logged at the bench</h3>
					<ul class="text-sm">
						{#each data.problems as p (p.id)}
							<li class="border-t border-steel-200 py-2 first:border-0">
								<p><span class="font-medium">{p.step}:</span> {p.note} <span class="text-steel-600">({p.person}, {time(p.happenedAt)})</span></p>
								{#if p.closure}<p class="text-sound-700">
										✓ Closed{p.closure.words ? `, ${p.closure.words}` : ''}: {p.closure.note}
										<span class="text-steel-600">({p.closure.person}, {time(p.closure.happenedAt)})</span>
									</p>
								{:else if isOpen}
									<div class="mt-1 flex items-end gap-2">
										<div class="flex-1">
											<Label for="close-{p.id}" class="mb-0.5 text-[12px] text-plum-700">Still open. What became of it?</Label><input
												id="close-{p.id}"
												class="w-full rounded-sm border border-steel-400 px-2 py-1"
												maxlength="2000"
												value={closures[p.id] ?? ''}
												oninput={(e) => (closures[p.id] = e.currentTarget.value)}
											/>
										</div>
										<select
											class="rounded-sm border border-steel-400 py-1 text-sm"
											aria-label="What was decided"
											value={decided[p.id] ?? ''}
											onchange={(e) => (decided[p.id] = e.currentTarget.value as Decided)}
											><option value="">Decided…</option>{#each Object.entries(DECIDED_WORDS) as [id, words] (id)}<option
													value={id}
													disabled={id === 'as-is' && !mayConcede}>{words}</option
												>{/each}</select
										>
										<Button size="xs" disabled={!closures[p.id]?.trim() || !decided[p.id]} onclick={() => close(p.id)}>Close it</Button>
										<TakePhotograph of={{ pieceId: data.piece.id, about: p.id, step: p.stepId }} />
									</div>
								{:else}<p class="text-plum-700">Left open.</p>{/if}
							</li>
						{/each}
					</ul>{/if}
				{#if data.revision && isOpen}
					<div class="mt-3 flex items-end gap-2 text-sm">
						<div class="flex-1">
							<Label for="wrong" class="mb-0.5 text-[12px] text-steel-600">Non-conformance: what is not as it must be?</Label><input
								id="wrong"
								class="w-full rounded-sm border border-steel-400 px-2 py-1"
								maxlength="2000"
								bind:value={wrong}
							/>
						</div>
						<Button size="xs" color="light" disabled={!wrong.trim()} onclick={open}>Open it</Button>
					</div>
				{/if}
				{#if data.view}
					<h3 class="mt-4 mb-1 text-[15px]">Looked at, tested, put right</h3>
					<ul class="text-sm">
						{#each data.looked as l (l.id)}<li class="border-t border-steel-200 py-1.5 first:border-0">
								{l.words}{l.note ? `: ${l.note}` : ''} <span class="text-steel-600">({l.person}, {time(l.happenedAt)})</span>
							</li>{:else}<li class="text-steel-600">Nothing entered: surface, leak test, corrections.</li>{/each}
					</ul>
					{#if isOpen}
						<div class="mt-2">
							<LogIt piece={data.piece.id} kinds={LOOKED} view={data.view} {unit} onlogged={() => refresh()} />
						</div>
						<details class="mt-2 text-sm">
							<summary class="cursor-pointer text-primary-700">What the colour beside a weld says</summary>
							<ul class="mt-1 space-y-1">
								{#each TINTS as t (t.kind)}<li class="flex gap-2">
										<span class="mt-0.5 inline-block h-4 w-8 shrink-0 border border-steel-400" style="background: {t.colour}" aria-hidden="true"
										></span><span><strong>{SURFACE_WORDS[t.kind]}</strong>, about {t.fromC} to {t.toC} °C in air: {t.todo}</span>
									</li>{/each}
							</ul>
							<p class="mt-1 text-steel-600">
								Common practice, no source: the colour hangs on time, gas and the light it is seen in. Cleaning by the product’s own sheet.
							</p>
						</details>
					{/if}
					{#if data.rework.minutes}<p class="mt-2 text-sm">
							Rework so far: <span class="tab">{data.rework.minutes} min</span>{#if data.rework.cost !== null}, <span class="tab"
									>{data.rework.cost.toFixed(2)}</span
								> at what the quote says an hour costs{/if}.
						</p>{/if}
					<p class="mt-2 text-sm"><a class="text-primary-700 underline" href="/jobs/{data.job.id}/put-right?piece={data.piece.id}">Put right</a></p>
				{/if}
				{#if data.photographs.length}<h3 class="mt-4 mb-2 text-[15px]">Photographs</h3>
					<Photographs
						photographs={data.photographs.map((p) => {
							const href = `/api/pieces/${data.piece!.id}/photographs/${p.clientId}`;
							return { ...p, href, small: `${href}?small` };
						})}
					/>{/if}
				<div class="text-sm"><WaitingPhotographs piece={data.piece.id} /></div>
				{#if data.revision && isOpen}<p class="mt-3 text-sm">
						<TakePhotograph of={{ pieceId: data.piece.id, note: 'At hand-over' }} words="Add a photograph" />
					</p>{/if}
				{#if data.revision}<p class="mt-4">
						<a class="text-primary-700 underline" href="/api/pieces/{data.piece.id}/record.pdf" target="_blank" rel="noopener">The record (PDF)</a>,
						<a class="text-primary-700 underline" href="/api/pieces/{data.piece.id}/record.pdf?short" target="_blank" rel="noopener">on one page</a>,
						<a class="text-primary-700 underline" href="/api/pieces/{data.piece.id}/readings.csv">readings (CSV)</a>,
						<a class="text-primary-700 underline" href="/api/pieces/{data.piece.id}/as-run.csv">as issued and as run (CSV)</a>,
						<a class="text-primary-700 underline" href="/api/jobs/{data.job.id}/record">all of it (JSON)</a>
					</p>{/if}
			</Panel>
			<Panel title="Signature">
				{#if refusal}<div class="mb-3"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
				{#if data.signature}
					<Notice kind="done" title={data.signature.accepted ? 'Accepted' : 'Rejected'}
						>“{data.signature.statement}”{data.signature.concession ? ` Concession: ${data.signature.concession.replace(/\.$/, '')}.` : ''} Signed by {data
							.signature.person}, {time(data.signature.signedAt)}, against revision {data.signature.revision}.</Notice
					>
				{:else if !data.revision}
					<p class="text-sm text-steel-600">The piece is “{PIECE_WORDS[data.piece.state]}”. It is signed when its work is done.</p>
				{:else}
					{#if data.missing.length}
						<div class="mb-3">
							<Notice kind="caution" title="Not to be accepted yet">
								<ul class="list-disc pl-5">
									{#each data.missing as m, i (i)}<li>{m}.</li>{/each}
								</ul>
							</Notice>
						</div>
					{/if}
					{#await data.readWarm then names}
						{#if names?.length}
							<div class="mb-3">
								<Notice kind="caution" title="Read while still warm by the heat clock"
									>{names.join(', ')}: nobody said how warm the metal was. Read {names.length === 1 ? 'it' : 'them'} again cold, or put a thermometer to
									it and type what it says with the reading.</Notice
								>
							</div>
						{/if}
					{/await}
					{#if !maySign}
						<p class="text-sm text-steel-600">An inspector signs here.</p>
					{:else}
						<div class="space-y-3">
							<fieldset class="flex gap-6">
								<legend class="sr-only">Verdict</legend><Radio name="verdict" value="yes" bind:group={accepted}>Accepted</Radio><Radio
									name="verdict"
									value="no"
									bind:group={accepted}>Rejected</Radio
								>
							</fieldset>
							{#if accepted === 'yes' && data.outside.length}
								<div>
									<Label for="concession" class="mb-1 text-plum-700"
										>{data.decision === 'guard-band' ? 'Outside its limits, or not proved inside' : 'Outside its limits'}: {data.outside.join(', ')}.
										Reason for the concession</Label
									><Textarea id="concession" rows={2} class="w-full" maxlength={600} bind:value={concession} />
								</div>
							{/if}
							<div>
								<Label for="statement" class="mb-1 text-steel-700">{accepted === 'yes' ? 'Statement' : 'Why it is rejected'}</Label><Textarea
									id="statement"
									rows={3}
									class="w-full"
									maxlength={600}
									placeholder={accepted === 'yes' ? accepts : ''}
									bind:value={statement}
								/>
							</div>
							<p class="text-[13px] text-steel-600">Signing as {data.person?.name}. It closes the piece: no more readings, no more steps.</p>
							<Button onclick={sign} disabled={isBlocked}>Sign</Button>
						</div>
					{/if}
				{/if}
				<p class="mt-4 text-[13px] text-steel-600">
					Leak tests with water, vented and supported, never compressed air on a thin tank. Pressure vessels, boilers, food and drinking-water duty:
					code, licensed engineer and inspector decide, not this tool.
				</p>
			</Panel>
		</div>
	{/if}
</main>
