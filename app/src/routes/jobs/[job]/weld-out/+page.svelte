<script lang="ts">
	import { EVENT_WORDS, PIECE_WORDS, type EventKind } from '$core/document/words';
	import { waitIsOver } from '$core/weldout/cooling';
	import { dataWords, type EventData } from '$core/weldout/happenings';
	import type { Ahead } from '$core/hot/ahead';
	import { call } from '$lib/call';
	import type { Moved } from '$core/weldout/moves';
	import { whereItStands, type LogLine } from '$core/weldout/logbook';
	import { onMount, untrack } from 'svelte';
	import { goto } from '$app/navigation';
	import { refresh } from '$lib/refresh';
	import { BenchDevice } from '$lib/bench/device.svelte';
	import { HeatWatch } from '$lib/bench/heat.svelte';
	import type { HeatQuestion } from '$lib/bench/heat.worker';
	import { arcOut } from '$core/weldout/arcOut';
	import { deviceName, DeviceWatch, STALE_MS } from '$lib/bench/devices.svelte';
	import DeviceStrip from '$lib/bench/DeviceStrip.svelte';
	import Otherwise from '$lib/bench/Otherwise.svelte';
	import StepCard from '$lib/bench/StepCard.svelte';
	import Replan from '$lib/bench/Replan.svelte';
	import SignForm from '$lib/bench/SignForm.svelte';
	import StepPhotographs from '$lib/bench/StepPhotographs.svelte';
	import { shopNow } from '$lib/desk/clock';
	import { BenchLog } from '$lib/desk/bench-log.svelte';
	import type { LogEvent } from '$lib/desk/bench-queue.svelte';
	import { length } from '$lib/units';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayWork = $derived(data.person?.roles.some((r) => r !== 'inspector') ?? false);
	const log = $derived.by(
		() => new BenchLog(data.piece?.id ?? '', data.events.map((e) => ({ ...e, happenedAt: new Date(e.happenedAt).toISOString() })) as LogEvent[])
	);
	const device = new BenchDevice();
	let clock = $state(shopNow());
	onMount(() => {
		const t = setInterval(() => (clock = shopNow()), 500);
		const end = device.begin();
		return () => {
			clearInterval(t);
			end();
		};
	});
	/** This page and what it has loaded, so that it opens again with the server gone. */
	async function keepForOffline() {
		if (!('serviceWorker' in navigator)) return;
		const { active } = await navigator.serviceWorker.ready;
		const loaded = () => performance.getEntriesByType('resource').map((r) => r.name);
		active?.postMessage({ keep: [location.href, ...loaded()] });
		// the heat's own script comes a little later
		setTimeout(() => active?.postMessage({ keep: loaded() }), 5000);
	}
	// each piece's page has an address of its own; planned on, it holds other steps
	$effect(() => {
		void data.variant;
		if (data.piece?.id) void keepForOffline();
	});
	$effect(() => {
		const l = log;
		untrack(() => l.begin());
		return () => l.end();
	});
	const lines = $derived(log.all.map((e): LogLine & { person?: string } => ({ ...e, at: new Date(e.happenedAt).getTime() })));
	const at = $derived(whereItStands(data.steps, lines));
	const now = $derived(at.current);
	const step = $derived(now?.step);
	const number = $derived(step ? data.steps.indexOf(step) + 1 : data.steps.length);
	const behind = $derived(at.steps.filter((s) => s.state !== 'open').length);
	const left = $derived(at.steps.filter((s) => s.state === 'open' && s.isSkipped));
	/** what comes when this one is done */
	const after = $derived(
		step
			? whereItStands(data.steps, [...lines, { clientId: '-', kind: step.kind === 'sign' ? 'hold-signed' : 'step-done', step: step.id, at: 0 }])
					.current?.step.title
			: undefined
	);
	const waitStart = $derived(step?.kind === 'wait' ? at.lines.find((e) => e.kind === 'wait-started' && e.step === step.id) : undefined);
	const heat = new HeatWatch();
	$effect(() => {
		const plan = data.view?.plan;
		return plan ? untrack(() => heat.begin(plan)) : undefined;
	});
	/** the run that is waited for, or in hand */
	const nextRun = $derived(step?.kind === 'run' ? step.run : step?.kind === 'wait' ? step.before : undefined);
	// a tap changes the heat, the clock does not: asked again with the lines only
	$effect(() => {
		const question = {
			steps: data.steps,
			lines: at.lines.map(({ clientId, kind, step, about, data, at }) => ({ clientId, kind, step, about, data, at })),
			next: nextRun
		};
		untrack(() => heat.ask($state.snapshot(question) as HeatQuestion));
	});
	const until = $derived(step?.kind === 'wait' ? waitIsOver(step, data.steps, heat.answer, waitStart?.at) : undefined);
	const seconds = $derived(until === undefined ? undefined : Math.max(0, (until - clock) / 1000));
	/** said where it matters: how long until it may be measured */
	const coolIn = $derived(heat.answer?.coolAt === undefined ? undefined : Math.max(0, (heat.answer.coolAt - clock) / 1000));
	/** until what holds it may come off, and until it may be filled, s */
	const unclampIn = $derived(heat.answer?.unclampAt === undefined ? undefined : Math.max(0, (heat.answer.unclampAt - clock) / 1000));
	const fillIn = $derived(heat.answer?.fillAt === undefined ? undefined : Math.max(0, (heat.answer.fillAt - clock) / 1000));
	// a wait begins by itself when its turn comes: the clock is in the log, so a reload or another tablet goes on with it
	$effect(() => {
		const id = step?.id;
		if (step?.kind === 'wait' && id && at.isStarted && !at.isFinished && !at.isPaused && mayWork && !waitStart)
			untrack(() => log.add('wait-started', id));
	});
	/** the wait that was seen running down: one that was over before it came calls nobody */
	let running = '';
	$effect(() => {
		if (seconds === undefined || !step) return;
		if (seconds > 0) running = step.id;
		else if (running === step.id) {
			running = '';
			device.call();
		}
	});
	const isStarted = $derived(at.isStarted);
	// once a step, whatever else is logged at it
	$effect(() => {
		if (step && isStarted) device.say(step.title);
	});
	/** other words for what was not taken, by event */
	let corrected = $state<Record<string, string>>({});
	let open = $state<'otherwise' | 'back' | 'replan' | undefined>();
	const wordsOf = (line: LogLine) =>
		[
			EVENT_WORDS[line.kind],
			data.steps.find((s) => s.id === line.step)?.title,
			line.data && data.view ? dataWords(line.data, data.view.plan, (mm, digits = 1) => length(mm, unit, digits)) : '',
			line.note
		]
			.filter(Boolean)
			.join(': ');

	function add(kind: EventKind, id: string | undefined, more: { note?: string; data?: EventData } = {}) {
		void log.add(kind, id, more);
	}
	const metalRead = (metalC: number, instrument: string) =>
		add('happened', step?.id, { data: { what: 'metal', metalC, ...(instrument ? { instrument } : {}) } });
	let middle = $state<HTMLElement>();
	// what is new begins at its top
	$effect(() => {
		void [step?.id, open];
		middle?.scrollTo(0, 0);
	});
	/** a foot switch that bounces presses twice within this */
	const BOUNCE_MS = 400;
	let lastDone = 0;
	/** @param isBounce the second press of a double one, meant for the first */
	function next(isBounce: boolean) {
		if (!step || isBounce || step.kind === 'sign') return;
		lastDone = Date.now();
		open = undefined;
		// of a run that lies in part, what is left
		const rest = now?.rest?.[0];
		if (rest) add('laid', step.id, { data: { fromMm: rest[0], toMm: rest[1] } });
		else add('step-done', step.id);
	}
	/** what an arc was taken for */
	let arcSaid = $state('');
	const watch = $derived.by(() => {
		const piece = data.piece?.id ?? '';
		return untrack(
			() =>
				new DeviceWatch(piece, data.devicesAfter, {
					onpress: () => isWorking && !open && next(Date.now() - lastDone < BOUNCE_MS),
					onarc(arc, from) {
						const out = isWorking && now && data.view ? arcOut(arc, now, data.view.plan, deviceName(from)) : undefined;
						if (!out || !step) return;
						arcSaid = out.said;
						const { id } = step;
						for (const { kind, ...more } of out.taps) void log.add(kind, id, more);
						if (out.taps.length) lastDone = Date.now();
					},
					onmissed(arcs, from) {
						const went = arcs === 1 ? 'an arc went out' : `${arcs} arcs went out`;
						if (isWorking)
							arcSaid = `${deviceName(from)}: ${went} while this page was not looked at, and nothing was logged for it. Log by hand what it was.`;
					}
				})
		);
	});
	$effect(() => {
		const w = watch;
		return data.piece ? untrack(() => w.begin()) : undefined;
	});
	/** a probe at the piece says it by itself */
	const isProbed = $derived(clock - (watch.newest.probe?.heardAt ?? 0) < STALE_MS);
	const oxygen = $derived.by(() => {
		const o = watch.newest.oxygen;
		return o && clock - o.heardAt < STALE_MS ? { pct: o.reading.oxygenPct!, instrument: deviceName(o.device) } : undefined;
	});
	function takeBack() {
		if (at.last) void log.add('undone', at.last.step ?? undefined, { about: at.last.clientId });
		open = undefined;
	}
	const isPlanner = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	const mayTake = $derived(isPlanner || data.view?.plan.replanBy === 'welder');
	/** something lies, and something is left */
	const mayReplan = $derived(
		at.steps.some((s) => s.step.kind === 'run' && s.laid.length) && at.steps.some((s) => s.step.kind === 'run' && s.state === 'open')
	);
	/** the piece goes on by a plan of its own: steps and pictures are another plan's */
	async function takenOver() {
		await refresh('sarta:bench');
		open = undefined;
	}
	// taken over on another device
	const plans = $derived(lines.filter((e) => e.kind === 'replanned').length);
	let seenPlans = -1;
	$effect(() => {
		const now = plans;
		if (seenPlans >= 0 && now > seenPlans) void refresh('sarta:bench');
		seenPlans = now;
	});
	async function finish() {
		await log.add('finished');
		await log.send();
		// with the server gone there is nothing to ask, and the page would be lost
		if (!log.unsent.length) await refresh('sarta:job');
	}
	let moved = $state.raw<Record<string, Moved[]>>({});
	$effect(() => {
		const asked = data.moved as Promise<Record<string, Moved[]>> | undefined;
		void asked?.then((m) => (moved = m));
	});
	/** asked for once a plan, when the page is there: nothing waits for it, and without the server the bench goes on */
	let ahead = $state.raw<Record<string, Ahead>>({});
	$effect(() => {
		const piece = data.piece?.id;
		if (!piece || data.revision === null) return;
		void call<Record<string, Ahead>>('GET', `/api/jobs/${data.job.id}/ahead?piece=${piece}`).then((r) => r.ok && (ahead = r.data));
	});
	const isWorking = $derived(Boolean(step) && at.isStarted && !at.isFinished && !at.isPaused && mayWork);
	/** any switch that types one of these goes on, or asks to take back */
	function key(e: KeyboardEvent) {
		const target = e.target as HTMLElement;
		if (e.ctrlKey || e.metaKey || e.altKey || target.closest('input, textarea, select')) return;
		const isOnControl = target.closest('button, a, summary') !== null;
		// a key held down is one press
		if (e.repeat) return void (isOnControl && e.preventDefault());
		if (e.key === 'Escape') open = undefined;
		else if (!isWorking) return;
		else if (e.key === 'ArrowLeft' || e.key === 'PageUp') open = at.last ? 'back' : undefined;
		else if (e.key === 'ArrowDown') open = 'otherwise';
		else if (open === 'back' && e.key === 'Enter' && !isOnControl) takeBack();
		else if (!open && (e.key === 'ArrowRight' || e.key === 'PageDown' || (!isOnControl && (e.key === ' ' || e.key === 'Enter'))))
			next(Date.now() - lastDone < BOUNCE_MS);
		else return;
		e.preventDefault();
	}
	const big = 'min-h-16 rounded-sm px-3 text-[18px] font-semibold sm:px-6 sm:text-[20px]';
	const small = 'min-h-14 rounded-sm border-2 border-steel-500 px-3 text-lg sm:px-4';
	const toggles = $derived([
		['Dark', device.isDark, () => device.change({ isDark: !device.isDark })],
		['Sound', !device.isMuted, () => device.change({ isMuted: !device.isMuted })],
		['Speech', device.speaks, () => device.change({ speaks: !device.speaks })]
	] as const);
</script>

<svelte:window onkeydown={key} />

<main id="main" class="flex h-[calc(100dvh-48px)] flex-col bg-white {device.isDark ? 'booth' : ''}">
	<div class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b-2 border-steel-700 bg-steel-50 px-3 py-1 sm:px-5">
		<a
			class="flex min-h-14 items-center pr-2 text-primary-700 underline"
			href="/jobs/{data.job.id}/forecast{data.piece ? `?piece=${data.piece.id}` : ''}">Plan</a
		>
		<div class="min-w-0 flex-1 basis-40">
			<div class="truncate font-display text-lg leading-6 font-semibold">{data.job.number} {data.job.name}</div>
			<div class="truncate text-sm text-steel-600">
				Weld-out{data.revision ? `, revision ${data.revision}` : ''}{data.variant ? `.${data.variant}, of this piece alone` : ''}
			</div>
		</div>
		{#if data.piece}
			<label class="sr-only" for="piece">Piece</label>
			<select
				id="piece"
				class="tab min-h-14 min-w-0 flex-1 basis-36 rounded-sm border-steel-400 text-lg sm:flex-none"
				value={data.piece?.id}
				onchange={(e) => goto(`?piece=${e.currentTarget.value}`)}
			>
				{#each data.pieces as p (p.id)}<option value={p.id}
						>{p.serial} · {PIECE_WORDS[p.id === data.piece?.id && at.isStarted && p.state === 'waiting' ? 'in-hand' : p.state]}</option
					>{/each}
			</select>
		{/if}
		<details class="relative">
			<summary class="flex cursor-pointer list-none items-center {small}">More</summary>
			<div class="absolute right-0 z-10 mt-1 grid w-60 gap-2 border-2 border-steel-700 bg-white p-3 max-sm:fixed max-sm:inset-x-3 max-sm:w-auto">
				{#each toggles as [word, isOn, change] (word)}
					<button type="button" class="{small} flex items-center justify-between" aria-pressed={isOn} onclick={change}
						>{word}<span class="font-semibold">{isOn ? 'on' : 'off'}</span></button
					>
				{/each}
				{#if data.revision}
					{#each [['run-sheet', 'Run sheet on paper'], ['traveller', 'Traveller on paper']] as [sheet, word] (sheet)}
						<a class="{small} flex items-center" href="/api/jobs/{data.job.id}/{sheet}.pdf?piece={data.piece?.id}" target="_blank" rel="noopener"
							>{word}</a
						>
					{/each}
				{/if}
				{#if data.job.notes}<p class="border-l-4 border-straw-600 bg-straw-50 px-3 py-2 whitespace-pre-line">{data.job.notes}</p>{/if}
				<p class="text-sm text-steel-600">{device.isAwake ? 'The screen stays awake.' : 'This browser lets the screen sleep: set it to stay on.'}</p>
			</div>
		</details>
		{#if at.isStarted && !at.isFinished && mayWork}
			<button type="button" class={small} onclick={() => add(at.isPaused ? 'resumed' : 'paused', undefined)}>{at.isPaused ? 'Go on' : 'Pause'}</button
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
	{:else if !at.isStarted}
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
				{#if data.job.notes}<p class="mt-4 border-l-4 border-straw-600 bg-straw-50 px-3 py-2 text-lg whitespace-pre-line">{data.job.notes}</p>{/if}
				{#if mayWork}<button type="button" class="{big} mt-6 bg-primary-700 text-white" onclick={() => add('started', undefined)}
						>Start this piece</button
					>{:else}<p class="mt-6 text-lg">Welders and planners start pieces.</p>{/if}
			</div>
		</div>
	{:else if at.isFinished}
		<div class="grid flex-1 place-items-center p-8 text-center">
			<div>
				<p class="text-3xl font-semibold">Piece {data.piece?.serial} is finished at the bench</p>
				<p class="mt-2 text-xl text-steel-600">
					{at.lines.filter((e) => e.kind === 'step-problem').length} problems logged, {at.lines.filter(
						(e) => e.kind === 'note' || e.kind === 'happened'
					).length} notes and things otherwise.
				</p>
				<p class="mt-6 flex flex-wrap justify-center gap-6 text-xl">
					{#if data.job.coupon}<a class="flex min-h-14 items-center text-primary-700 underline" href="/coupons/{data.job.id}">Back to the coupon</a
						>{/if}<a class="flex min-h-14 items-center text-primary-700 underline" href="/jobs/{data.job.id}/measure?piece={data.piece?.id}"
						>Measure it</a
					><a class="flex min-h-14 items-center text-primary-700 underline" href="/jobs/{data.job.id}/hand-over?piece={data.piece?.id}"
						>Hand it over</a
					>
				</p>
				{#if mayWork && data.piece?.state !== 'handed-over' && at.last?.kind === 'finished'}<button
						type="button"
						class="{small} mt-6"
						onclick={takeBack}>Not finished yet: take it back</button
					>{/if}
			</div>
		</div>
	{:else if at.isPaused}
		<div class="grid flex-1 place-items-center p-8 text-center">
			<div>
				<p class="text-3xl font-semibold">Paused</p>
				<p class="mt-2 text-xl text-steel-600">At step {number} of {data.steps.length}. Any device that signs in can go on from here.</p>
				{#if mayWork}<button type="button" class="{big} mt-6 bg-primary-700 text-white" onclick={() => add('resumed', undefined)}>Go on</button>{/if}
			</div>
		</div>
	{:else if step && now && data.view}
		<div class="flex items-center gap-3 px-3 pt-2 text-lg text-steel-700 sm:px-5">
			<span class="tab whitespace-nowrap">Step {number} of {data.steps.length}</span><progress
				class="h-2 min-w-8 flex-1 accent-primary-600"
				max={data.steps.length}
				value={behind}
				aria-label="Steps done"
			></progress>
			{#if left.length}<span class="whitespace-nowrap">{left.length} left for later</span>{/if}
		</div>
		<div class="relative min-h-0 flex-1 overflow-x-hidden overflow-y-auto px-3 py-3 sm:px-5" aria-live="polite" bind:this={middle}>
			{#if open === 'otherwise'}
				<Otherwise
					{now}
					steps={at.steps}
					view={data.view}
					piece={data.piece?.id ?? ''}
					{unit}
					onlog={add}
					onleave={() => (open = undefined)}
					onreplan={mayReplan ? () => (open = 'replan') : undefined}
				/>
			{:else if open === 'replan' && data.piece}
				<Replan piece={data.piece.id} {unit} {mayTake} ontaken={takenOver} />
			{:else if open === 'back' && at.last}
				<h2 class="text-2xl">Take this back?</h2>
				<p class="mt-2 text-xl">{wordsOf(at.last)}</p>
				<p class="mt-1 text-lg text-steel-600">It stays in the log, with a line that takes it back.</p>
				<div class="mt-4 flex gap-3">
					<button type="button" class="{big} bg-steel-800 text-white" onclick={takeBack} {@attach (b) => b.focus()}>Take it back</button>
					<button type="button" class="{big} border-2 border-steel-400" onclick={() => (open = undefined)}>Leave it</button>
				</div>
			{:else}
				<StepCard
					{now}
					view={data.view}
					{unit}
					lies={at.lies}
					unclampIn={step.kind === 'hold' && !step.on ? unclampIn : undefined}
					fillIn={data.view.mayBeFilled && step.kind === 'measure' && step.moment !== 'as-tacked' ? fillIn : undefined}
					moved={step.kind === 'run' ? moved[step.run] : undefined}
					ahead={step.kind === 'run' ? ahead[step.run] : undefined}
					left={seconds}
					isByHeat={step.kind === 'wait' && step.id !== 'wait:purge' && heat.answer !== undefined}
					isLimitReached={heat.answer?.isLimitReached ?? true}
					coolIn={step.kind === 'measure' && step.moment !== 'as-tacked' ? coolIn : undefined}
					onmetal={mayWork && !isProbed ? metalRead : undefined}
					measureHref="/jobs/{data.job.id}/measure?piece={data.piece?.id}{step.kind === 'measure' ? `&moment=${step.moment}` : ''}"
				/>
				{#if step.kind === 'sign'}{#key step.id}<SignForm
							{step}
							piece={data.piece?.id ?? ''}
							view={data.view}
							{unit}
							person={data.person}
							{oxygen}
							onlog={add}
						/>{/key}{/if}
				{#if data.piece}<StepPhotographs piece={data.piece.id} step={step.id} />{/if}
			{/if}
		</div>
		{#if watch.devices.length && !open}<DeviceStrip
				{watch}
				{clock}
				said={arcSaid}
				mayLog={mayWork && (step.kind === 'wait' || step.kind === 'measure' || step.kind === 'run')}
				onclear={() => (arcSaid = '')}
				onmetal={metalRead}
			/>{/if}
		{#if after && !open}<p class="truncate border-t border-steel-300 px-3 py-1 text-lg text-steel-700 sm:px-5">Next: {after}</p>{/if}
		{#if mayWork}
			<div class="grid grid-cols-[2fr_1fr_1fr] gap-2 border-t-2 border-steel-700 bg-steel-50 p-3 sm:gap-3 sm:p-4">
				{#if open}<button type="button" class="{big} border-2 border-steel-700 bg-white" onclick={() => (open = undefined)}>Back to the step</button>
				{:else if step.kind === 'sign'}<p class="self-center text-lg font-semibold">Locked until it is signed</p>
				{:else}<button type="button" class="{big} bg-primary-700 text-white" onclick={(e) => next(e.detail > 1)}
						>{step.kind === 'wait' && seconds !== 0 ? 'Cool enough, go on' : 'Done'}</button
					>{/if}
				<button
					type="button"
					class="{big} border-2 border-plum-600 text-plum-700"
					aria-pressed={open === 'otherwise'}
					onclick={() => (open = open === 'otherwise' ? undefined : 'otherwise')}>Otherwise</button
				>
				<button
					type="button"
					class="{big} border-2 border-steel-400 disabled:text-steel-400"
					disabled={!at.last}
					onclick={() => (open = open === 'back' ? undefined : 'back')}>Take back</button
				>
			</div>
		{/if}
	{:else}
		<div class="grid flex-1 place-items-center p-8 text-center">
			<div>
				<p class="text-3xl font-semibold">Every step is behind you</p>
				<p class="mt-2 text-xl text-steel-600">
					{at.lines.filter((e) => e.kind === 'step-problem').length} problems logged. Finishing closes the steps; readings can still be taken.
				</p>
				{#if mayWork}<button type="button" class="{big} mt-6 bg-primary-700 text-white" onclick={finish}>Finish this piece</button>{/if}
			</div>
		</div>
	{/if}
</main>
