<script lang="ts">
	import { pointing, type AtHand } from '$core/draw/svg';
	import { seamLetters } from '$core/layout/seamNames';
	import PiecePicture from '$lib/ui/PiecePicture.svelte';
	import { stepLines } from '$core/weldout/stepWords';
	import { currentWords, rampWords } from '$core/weldout/currentWords';
	import { fillerOf } from '$core/weldout/fillerWords';
	import { EVENT_WORDS, PIECE_WORDS } from '$core/document/words';
	import { onMount, untrack } from 'svelte';
	import { goto, invalidate } from '$app/navigation';
	import { BenchLog } from '$lib/desk/bench-log.svelte';
	import type { LogEvent } from '$lib/desk/bench-queue.svelte';
	import { duration, length } from '$lib/units';
	import RunTape from '$lib/seam-tape/RunTape.svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayWork = $derived(data.person?.roles.some((r) => r !== 'inspector') ?? false);
	const log = $derived.by(
		() => new BenchLog(data.piece?.id ?? '', data.events.map((e) => ({ ...e, happenedAt: new Date(e.happenedAt).toISOString() })) as LogEvent[])
	);
	let now = $state(Date.now());
	onMount(() => {
		const t = setInterval(() => (now = Date.now()), 500);
		return () => clearInterval(t);
	});
	$effect(() => {
		const l = log;
		untrack(() => l.begin());
		return () => l.end();
	});
	const started = $derived(log.all.some((e) => e.kind === 'started'));
	const finished = $derived(log.all.some((e) => e.kind === 'finished'));
	const paused = $derived([...log.all].reverse().find((e) => e.kind === 'paused' || e.kind === 'resumed')?.kind === 'paused');
	/** a step is behind us when it is done, or logged as a problem and passed */
	const done = $derived(new Set(log.all.filter((e) => e.kind === 'step-done' || e.kind === 'step-problem').map((e) => e.step)));
	const at = $derived(data.steps.findIndex((s) => !done.has(s.id)));
	const step = $derived(at < 0 ? undefined : data.steps[at]);
	const waitStart = $derived(step?.kind === 'wait' ? log.all.find((e) => e.kind === 'wait-started' && e.step === step.id) : undefined);
	const left = $derived(
		step?.kind === 'wait' && waitStart ? Math.max(0, step.seconds - (now - new Date(waitStart.happenedAt).getTime()) / 1000) : undefined
	);
	// a wait begins by itself when its turn comes: the clock is in the log, so a reload or another tablet goes on with it
	$effect(() => {
		const id = step?.id;
		if (step?.kind === 'wait' && id && started && !finished && !paused && mayWork && !waitStart) untrack(() => log.add('wait-started', id));
	});
	let note = $state('');
	/** other words for what was not taken, by event */
	let corrected = $state<Record<string, string>>({});
	let noting = $state<'problem' | 'note' | undefined>();
	const settings = $derived(step?.kind === 'run' ? data.plan?.settings.find((s) => s.id === step.settings) : undefined);
	// a tack with filler takes what its seam's settings name, also where the run itself is fused
	const tackFiller = $derived(step?.kind === 'tack' ? data.plan?.settings.find((s) => s.id === joint?.settings)?.fillerGrade : undefined);
	/** a hold-down on a part has a picture of its own: no seam says where it goes */
	const spot = $derived(step?.kind === 'hold' && !step.picture ? data.holds[step.holdDown] : undefined);
	const drawing = $derived(data.pictures[step?.picture ?? spot?.picture ?? '']);
	const letters = $derived(seamLetters(data.plan?.joints ?? []));
	/** what the picture lights up of this step */
	const hand = $derived.by((): AtHand => {
		if (step?.kind === 'run') return { joint: step.joint, run: { fromMm: step.fromMm, toMm: step.toMm } };
		if (step?.kind === 'tack' || step?.kind === 'grind') return { joint: step.joint, marks: step.stations };
		const held = step?.kind === 'hold' ? data.plan?.holdDowns.find((h) => h.id === step.holdDown) : undefined;
		if (held && 'joint' in held) return { joint: held.joint, marks: 'stationMm' in held ? [held.stationMm] : [held.fromMm, held.toMm] };
		if (spot) return pointing(spot);
		return joint ? { joint: joint.id } : { letters: true };
	});
	const joint = $derived(step && 'joint' in step ? data.plan?.joints.find((j) => j.id === step.joint) : undefined);
	const finishedSteps = $derived(data.steps.filter((s) => done.has(s.id)).length);

	function next() {
		if (step) log.add('step-done', step.id);
	}
	function keepNote() {
		const text = note.trim();
		if (!text || !step) return;
		if (noting === 'problem') log.add('step-problem', step.id, text);
		else log.add('note', step.id, text);
		note = '';
		noting = undefined;
	}
	async function start() {
		log.add('started');
	}
	async function finish() {
		await log.add('finished');
		await log.send();
		await invalidate('sarta:job');
	}
	const big = 'min-h-[64px] rounded-sm px-6 text-[20px] font-semibold';
</script>

<main id="main" class="flex h-[calc(100vh-48px)] flex-col bg-white">
	<div class="flex min-h-14 flex-wrap items-center gap-x-4 gap-y-1 border-b-2 border-steel-700 bg-steel-50 px-5 py-1">
		<a
			class="flex min-h-14 items-center pr-2 text-primary-700 underline"
			href="/jobs/{data.job.id}/forecast{data.piece ? `?piece=${data.piece.id}` : ''}">Plan</a
		>
		<div class="min-w-0 flex-1 basis-56">
			<div class="truncate font-display text-lg leading-6 font-semibold">{data.job.number} {data.job.name}</div>
			<div class="text-sm text-steel-600">Weld-out{data.revision ? `, revision ${data.revision}` : ''}</div>
		</div>
		{#if data.pieces.length > 1 || data.piece}
			<label class="text-sm" for="piece">Piece</label>
			<select
				id="piece"
				class="tab min-h-14 min-w-0 flex-1 rounded-sm border-steel-400 text-lg sm:flex-none"
				value={data.piece?.id}
				onchange={(e) => goto(`?piece=${e.currentTarget.value}`)}
			>
				{#each data.pieces as p (p.id)}<option value={p.id}
						>{p.serial} · {PIECE_WORDS[p.id === data.piece?.id && started && p.state === 'waiting' ? 'in-hand' : p.state]}</option
					>{/each}
			</select>
		{/if}
		{#if started && !finished && mayWork}
			<button type="button" class="min-h-14 rounded-sm border-2 border-steel-500 px-5 text-lg" onclick={() => log.add(paused ? 'resumed' : 'paused')}
				>{paused ? 'Go on' : 'Pause'}</button
			>
		{/if}
	</div>
	{#if log.message}<p class="bg-straw-100 px-5 py-2" role="alert">{log.message}</p>{/if}
	{#each log.refused as r (r.clientId)}
		<div class="bg-plum-50 border-b border-plum-600 px-5 py-2" role="alert">
			<p>
				<strong>Not taken into the log:</strong>
				{EVENT_WORDS[r.tap.kind]}{r.tap.step ? ` at ${data.steps.find((s) => s.id === r.tap.step)?.title ?? r.tap.step}` : ''}. {r.message}.
			</p>
			<div class="mt-1 flex flex-wrap gap-2">
				{#if r.tap.note !== undefined && r.tap.note !== null}
					<input
						class="min-h-14 min-w-64 flex-1 rounded-sm border border-steel-400 px-3 text-lg"
						aria-label="What it should say"
						maxlength={2000}
						value={r.tap.note}
						onchange={(e) => (corrected[r.clientId] = e.currentTarget.value)}
					/>
				{/if}
				<button
					type="button"
					class="min-h-14 rounded-sm border-2 border-steel-500 px-5 text-lg"
					onclick={() => log.correct(r.clientId, (corrected[r.clientId] ?? r.tap.note ?? '').trim())}>Send again</button
				>
				<button type="button" class="min-h-14 rounded-sm border-2 border-steel-500 px-5 text-lg" onclick={() => log.leaveOut(r.clientId)}
					>Leave it out</button
				>
			</div>
		</div>
	{/each}
	{#if !data.revision}
		<div class="grid flex-1 place-items-center p-8 text-center">
			<div>
				<p class="text-2xl">Nothing has been issued to the bench yet.</p>
				<p class="mt-2 text-lg text-steel-600">A planner issues a revision at the end of the Forecast stage. Then its steps appear here.</p>
				<a class="mt-4 inline-block text-lg text-primary-700 underline" href="/jobs/{data.job.id}/forecast">To the forecast</a>
			</div>
		</div>
	{:else if !started}
		<div class="grid flex-1 place-items-center p-8">
			<div class="max-w-2xl">
				<p class="text-3xl font-semibold">Piece {data.piece?.serial}</p>
				<p class="mt-2 text-xl">
					{data.steps.length} steps: {data.steps.filter((s) => s.kind === 'check').length} checks, {data.steps.filter((s) => s.kind === 'tack')
						.length} rounds of tacks, {data.steps.filter((s) => s.kind === 'run').length} runs, {data.steps.filter((s) => s.kind === 'wait').length} waits.
				</p>
				<ul class="mt-4 list-disc space-y-1 pl-6 text-lg text-steel-800">
					<li>Fume extraction on: stainless fume carries hexavalent chromium and nickel.</li>
					<li>No bare skin to the arc. Hot metal stays hot long after it has lost its colour.</li>
					<li>Argon displaces air: never lean into a purged vessel.</li>
				</ul>
				{#if mayWork}<button type="button" class="{big} mt-6 bg-primary-700 text-white" onclick={start}>Start this piece</button>{:else}<p
						class="mt-6 text-lg"
					>
						Welders and planners start pieces.
					</p>{/if}
			</div>
		</div>
	{:else if finished}
		<div class="grid flex-1 place-items-center p-8 text-center">
			<div>
				<p class="text-3xl font-semibold">Piece {data.piece?.serial} is finished at the bench</p>
				<p class="mt-2 text-xl text-steel-600">
					{log.all.filter((e) => e.kind === 'step-problem').length} problems logged, {log.all.filter((e) => e.kind === 'note').length} notes.
				</p>
				<p class="mt-6 flex justify-center gap-6 text-xl">
					<a class="flex min-h-14 items-center text-primary-700 underline" href="/jobs/{data.job.id}/measure?piece={data.piece?.id}">Measure it</a><a
						class="flex min-h-14 items-center text-primary-700 underline"
						href="/jobs/{data.job.id}/hand-over?piece={data.piece?.id}">Hand it over</a
					>
				</p>
			</div>
		</div>
	{:else if paused}
		<div class="grid flex-1 place-items-center p-8 text-center">
			<div>
				<p class="text-3xl font-semibold">Paused</p>
				<p class="mt-2 text-xl text-steel-600">At step {at + 1} of {data.steps.length}. Any device that signs in can go on from here.</p>
				{#if mayWork}<button type="button" class="{big} mt-6 bg-primary-700 text-white" onclick={() => log.add('resumed')}>Go on</button>{/if}
			</div>
		</div>
	{:else if step}
		<div class="flex items-center gap-3 px-5 pt-3 text-lg text-steel-700">
			<span class="tab">Step {at + 1} of {data.steps.length}</span><progress
				class="h-2 flex-1 accent-primary-600"
				max={data.steps.length}
				value={finishedSteps}
				aria-label="Steps done"
			></progress>
		</div>
		<div class="min-h-0 flex-1 overflow-y-auto px-5 py-4" aria-live="polite">
			<div class="flex flex-wrap items-start justify-between gap-x-6 gap-y-2">
				<h1 class="min-w-0 flex-1 basis-72 text-[34px] leading-10">
					{#if joint}<span class="mr-2 inline-block border-2 border-steel-800 px-2 text-[28px] leading-9" title="the seam’s letter, as on the sheets"
							>{letters.get(joint.id)}</span
						>{/if}{step.title}
				</h1>
				{#if drawing}<PiecePicture
						{drawing}
						{hand}
						label={joint ? `The piece as it lies, with seam ${letters.get(joint.id)} lit; the square is its zero end` : 'The piece as it lies'}
						width={420}
						height={240}
					/>{/if}
			</div>
			{#if step.kind === 'tack'}
				<p class="mt-2 text-xl text-steel-700">
					{step.stations.length} tacks of {length(step.lengthMm, unit, 0)}, {step.fusionOnly
						? 'fusion only'
						: `with filler${tackFiller ? ` ${tackFiller}` : ''}`}, in this order from the datum end:
				</p>
				<ol class="tab mt-4 flex flex-wrap gap-3 text-[30px] font-semibold">
					{#each step.stations as s, i (i)}<li class="border-2 border-steel-300 px-4 py-2">{length(s, unit, 1).replace(/ (mm|in)$/, '')}</li>{/each}
				</ol>
				{#if joint}<div class="mt-6"><RunTape {joint} tacks={step.stations} {unit} /></div>{/if}
			{:else if step.kind === 'run'}
				<p class="tab mt-3 text-[56px] leading-none font-semibold">
					{length(step.fromMm, unit, 1).replace(/ (mm|in)$/, '')} <span class="text-straw-600">→</span>
					{length(step.toMm, unit, 1)}
				</p>
				{#if joint}<div class="mt-5"><RunTape {joint} from={step.fromMm} to={step.toMm} {unit} /></div>{/if}
				{#if settings}
					<dl class="mt-5 flex flex-wrap gap-x-10 gap-y-3">
						{#each [['Current', currentWords(settings)], ['Start and finish', rampWords(settings) ?? 'as the machine is set'], ['Speed', `${settings.speedMmPerS} mm/s`], ['Arc time', `${(Math.abs(step.toMm - step.fromMm) / settings.speedMmPerS).toFixed(0)} s`], ['Filler', joint ? fillerOf(joint, settings) : '–'], ['Gas', `${settings.gasLPerMin} L/min`], ['Post-flow', settings.postFlowS === undefined ? '–' : `${settings.postFlowS} s`]] as [k, v] (k)}
							<div>
								<dt class="text-base text-steel-600">{k}</dt>
								<dd class="tab text-[28px] leading-8 font-semibold">{v}</dd>
							</div>
						{/each}
					</dl>
				{/if}
				<p class="mt-4 text-lg text-steel-700">Metal at the start should be about {step.startC.toFixed(0)} °C.</p>
			{:else if step.kind === 'wait'}
				<p class="tab mt-4 text-[84px] leading-none font-semibold" role="timer" aria-label="Time left">
					{left === undefined ? duration(step.seconds) : duration(left)}
				</p>
				<p class="mt-3 text-xl">
					{left === 0 ? 'Time is up. Feel with a thermometer, not a hand.' : 'An estimate from the heat put in: a contact thermometer decides.'}
				</p>
			{:else if step.kind === 'measure'}
				<p class="mt-2 text-xl text-steel-700">
					{step.features.length === 1 ? 'One feature' : `${step.features.length} features`} to read now, then come back here:
				</p>
				<ul class="mt-2 list-disc space-y-1 pl-6 text-xl">
					{#each step.features as id (id)}<li>{data.plan?.features.find((f) => f.id === id)?.name}</li>{/each}
				</ul>
				<a
					class="mt-4 inline-flex min-h-16 items-center rounded-sm border-2 border-primary-700 px-6 text-xl text-primary-800"
					href="/jobs/{data.job.id}/measure?piece={data.piece?.id}&moment={step.moment}">Open Measure</a
				>
			{:else}
				{#each data.plan ? stepLines(step, data.plan, (mm) => length(mm, unit, 1)) : [] as line, i (i)}
					<p class="mt-2 {i === 0 && step.kind !== 'look' ? 'text-2xl' : 'text-xl text-steel-700'}">{line}</p>
				{:else}
					<p class="mt-2 text-xl text-steel-700">Look, then confirm.</p>
				{/each}
			{/if}
			{#if noting}
				<div class="mt-6 max-w-3xl border-2 border-steel-400 p-4">
					<label class="block text-lg font-medium" for="note"
						>{noting === 'problem' ? 'What went wrong? The step is passed and the problem stays in the log.' : 'Note for this step'}</label
					>
					<textarea id="note" class="mt-2 w-full rounded-sm text-lg" rows="3" maxlength="2000" bind:value={note}></textarea>
					<div class="mt-2 flex gap-3">
						<button type="button" class="{big} bg-steel-800 text-white" onclick={keepNote} disabled={!note.trim()}>Log it</button><button
							type="button"
							class="{big} border-2 border-steel-400"
							onclick={() => (noting = undefined)}>Leave it</button
						>
					</div>
				</div>
			{/if}
		</div>
		{#if mayWork}
			<div class="grid grid-cols-[2fr_1fr_1fr] gap-3 border-t-2 border-steel-700 bg-steel-50 p-4">
				<button type="button" class="{big} bg-primary-700 text-white" onclick={next}
					>{step.kind === 'wait' && left !== 0 ? 'Cool enough, go on' : 'Done'}</button
				>
				<button type="button" class="{big} border-2 border-plum-600 text-plum-700" onclick={() => (noting = 'problem')}>Problem</button>
				<button type="button" class="{big} border-2 border-steel-400" onclick={() => (noting = 'note')}>Note</button>
			</div>
		{/if}
	{:else}
		<div class="grid flex-1 place-items-center p-8 text-center">
			<div>
				<p class="text-3xl font-semibold">Every step is behind you</p>
				<p class="mt-2 text-xl text-steel-600">
					{log.all.filter((e) => e.kind === 'step-problem').length} problems logged. Finishing closes the steps; readings can still be taken.
				</p>
				{#if mayWork}<button type="button" class="{big} mt-6 bg-primary-700 text-white" onclick={finish}>Finish this piece</button>{/if}
			</div>
		</div>
	{/if}
</main>
