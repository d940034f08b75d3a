<script lang="ts">
	/** A scan of the whole piece laid on the drawing: how it has moved, beside the forecast, and what each feature is worth by it. */
	import { onDestroy } from 'svelte';
	import { MOMENT_WORDS, POSTURE_WORDS, POSTURES, READ_MOMENTS, type Posture, type ReadMoment } from '$core/document/words';
	import { VERDICT_WORDS, verdictOf, type Verdict } from '$core/features/verdict';
	import { evaluateReadings } from '$core/measure/readings';
	import { WARM_C } from '$core/weldout/handOver';
	import { meshOf } from '$core/mesh/shapeOf';
	import { bytesOfShape } from '$core/scan/kept';
	import type { Side } from '$core/scan/align';
	import type { FileUnit } from '$core/scan/cloud';
	import BenchView from '$lib/bench-view/BenchView.svelte';
	import { call, type Refusal } from '$lib/call';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { ScanClient } from '$lib/scan/client';
	import type { ScanAnswer } from '$lib/scan/protocol';
	import Choice from '$lib/ui/Choice.svelte';
	import DeviationScale from '$lib/ui/DeviationScale.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { quantity } from '$lib/units';
	import { uuid } from '$lib/uuid';
	import { Button, Input, Label } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	const client = new ScanClient();
	onDestroy(() => client.end());

	const SIDES: Record<Side, string> = {
		either: 'both faces, or find out',
		front: 'the front (the side the seams are welded from)',
		back: 'the back',
		middle: 'the middle of the sheet'
	};
	const UNITS: Record<FileUnit, string> = { mm: 'mm', in: 'inches', cm: 'cm', m: 'm' };
	const MAPS = { scanned: 'as scanned', forecast: 'as forecast', difference: 'scanned less forecast' } as const;

	let file = $state<File | undefined>();
	let fileUnit = $state<FileUnit>('mm');
	let side = $state<Side>('either');
	let part = $state('');
	let isOntoForecast = $state(false);
	let seenFrom = $state('closest');
	let moment = $state<ReadMoment>('unclamped');
	let lies = $state<Posture | undefined>();
	const posture = $derived(lies ?? data.plan?.posture ?? 'three-points');
	let instrument = $state('Scanner');
	let metalC = $state<number | undefined>();
	let progress = $state<number | undefined>();
	let message = $state('');
	let answer = $state.raw<ScanAnswer | undefined>();
	let map = $state<keyof typeof MAPS>('scanned');
	let left = $state<Record<string, boolean>>({});
	let kept = $state('');
	let refusal = $state<Refusal | undefined>();
	let keeping = $state(false);

	/** the piece on the desk is drawn alike: its maps can be laid side by side */
	const isDrawn = $derived(data.plan !== null && desk.geometry !== undefined && meshOf(desk.doc) === meshOf(data.plan));
	const forecastShape = $derived(isDrawn ? ((desk.deep?.doc === desk.doc ? desk.deep.shape : undefined) ?? desk.shapes?.steps.at(-1)) : undefined);
	/** seen as the scan is, once there is one */
	const beside = $derived(answer?.beside ?? forecastShape);
	const shape = $derived.by(() => {
		if (map === 'forecast') return beside;
		if (map === 'difference' && answer && beside) return answer.shape.map((v, i) => v - beside[i]);
		return answer?.shape;
	});
	const largestOf = (u: Float32Array | undefined) => {
		let most = 0;
		for (let i = 0; u && i < u.length; i += 3) most = Math.max(most, Math.hypot(u[i], u[i + 1], u[i + 2]));
		return most;
	};
	// one scale for all of them
	const largest = $derived(Math.max(0.05, largestOf(answer?.shape), largestOf(beside)));

	async function lay(way?: number) {
		if (!file || !data.plan) return;
		message = kept = '';
		refusal = undefined;
		answer = undefined;
		progress = 0;
		const r = await client.lay(
			$state.snapshot(data.plan) as typeof data.plan,
			{
				name: file.name,
				bytes: await file.arrayBuffer(),
				unit: fileUnit,
				side,
				parts: part ? [part] : [],
				onto: isOntoForecast && forecastShape ? Float32Array.from(forecastShape) : undefined,
				beside: forecastShape && Float32Array.from(forecastShape),
				isFromDatum: seenFrom === 'datum',
				way
			},
			(p) => (progress = p)
		);
		progress = undefined;
		if (!r) message = 'Stopped.';
		else if (!r.ok) message = r.message;
		else {
			answer = r.data;
			map = 'scanned';
		}
	}
	/** the three points by name, in their order */
	const datumWords = (plan: NonNullable<typeof data.plan>) =>
		[plan.datum!.origin, plan.datum!.axis, plan.datum!.plane].map((id) => plan.points.find((p) => p.id === id)!.name).join(', ');
	const rows = $derived(
		data.features.map(
			(f): (typeof data.features)[number] & { found?: { value: number; reading: number; uncertainty90: number; verdict: Verdict } } => {
				const found = answer?.features.find((x) => x.id === f.id);
				if (found?.value === undefined) return f;
				const reading = found.value + (f.context.nominal ?? 0);
				const worked = evaluateReadings(f.method, [reading], f.context);
				const verdict = verdictOf(f.tolerance, worked.value - worked.uncertainty90, worked.value + worked.uncertainty90);
				return { ...f, found: { value: worked.value, reading, uncertainty90: worked.uncertainty90, verdict } };
			}
		)
	);
	const readable = $derived(rows.flatMap((r) => (r.found && !left[r.id] ? [{ ...r, reading: r.found.reading }] : [])));
	/** one name a reading, so that a second press keeps nothing twice */
	const ids: Record<string, string> = {};
	/** how the whole piece lay: for its record */
	async function keepWhole(piece: string, a: ScanAnswer, { name, lastModified }: File): Promise<boolean> {
		const asked = new URLSearchParams({
			clientId: (ids[`${name}/${lastModified}/${moment}/${posture}/${a.way}/${a.isFromDatum}/${a.rms}`] ??= uuid()),
			moment,
			posture,
			file: name.slice(-120),
			instrument: instrument.trim().slice(0, 80),
			seen: a.isFromDatum ? 'datum' : 'closest',
			points: String(a.taken),
			scatterMm: String(a.scatter),
			...(metalC === undefined ? {} : { metalC: String(metalC) })
		});
		const r = await call('POST', `/api/pieces/${piece}/scans?${asked}`, undefined, new Blob([bytesOfShape(a.shape)]));
		if (!r.ok) refusal = r.refusal;
		return r.ok;
	}
	async function keep() {
		if (!data.piece || !answer || !file) return;
		keeping = true;
		refusal = undefined;
		let [count, known] = [0, 0];
		for (const row of readable) {
			const r = await call<{ measurement: unknown }>('POST', `/api/pieces/${data.piece.id}/measurements`, {
				clientId: (ids[`${file.name}/${file.lastModified}/${moment}/${posture}/${answer.way}/${row.id}/${row.reading}`] ??= uuid()),
				feature: row.id,
				method: row.method,
				moment,
				posture,
				instrument: `${instrument.trim()}: ${file.name}`.slice(0, 80),
				...(metalC === undefined ? {} : { metalC }),
				readings: [row.reading]
			});
			if (!r.ok) {
				refusal = r.refusal;
				break;
			}
			count++;
			if (!r.data.measurement) known++;
		}
		// the readings first: they are not lost where the map is not taken
		const isMapKept = !refusal && (await keepWhole(data.piece.id, answer, file));
		keeping = false;
		if (count)
			kept = `${count} ${count === 1 ? 'reading is' : 'readings are'} kept${count === known ? ', as before' : ''}${isMapKept ? ', and the map for the record' : ''}.`;
	}
</script>

<div class="flex min-h-0 flex-1 max-md:flex-col">
	<main id="main" class="flex min-w-0 flex-1 flex-col max-md:flex-none">
		{#if isDrawn}
			<div class="min-h-0 flex-1 max-md:h-60 max-md:flex-none">
				<BenchView {shape} exaggeration={10} colourScaleMm={shape ? largest : 0} show={{ tacks: false, runs: false, holds: false }} />
			</div>
			<div class="flex shrink-0 flex-wrap items-center gap-3 bg-white px-4 py-2 text-sm">
				{#if answer}
					<div role="group" aria-label="What is drawn" class="flex gap-1">
						{#each Object.entries(MAPS) as [id, name] (id)}
							<button
								type="button"
								class="rounded-sm border px-2 py-1 {map === id ? 'border-steel-800 bg-steel-800 text-white' : 'border-steel-400'}"
								aria-pressed={map === id}
								disabled={id !== 'scanned' && !forecastShape}
								onclick={() => (map = id as keyof typeof MAPS)}>{name}</button
							>
						{/each}
					</div>
					<DeviationScale largestMm={largest} {unit} />
				{:else}Drawn ten times as far as it moved, all maps on one scale.{/if}
			</div>
		{:else if data.plan}
			<p class="p-5 text-steel-700">
				The plan on the desk has another shape than the one this piece is made to, so there is no map; the figures are of the piece’s own plan.
			</p>
		{/if}
	</main>
	<aside class="relative w-[420px] shrink-0 space-y-0.5 overflow-y-auto bg-steel-100 max-md:w-full max-md:flex-1" aria-label="This scan">
		{#if !data.piece || !data.plan}
			<Panel title="A scan of the whole piece"
				><p>
					No piece of this job has been started at the bench yet, so there is nothing to lay a scan on. <a
						class="text-primary-700 underline"
						href="/jobs/{data.job.id}/weld-out">Go to the weld-out</a
					>.
				</p></Panel
			>
		{:else}
			<Panel title="A scan of {data.piece.serial}">
				<p class="text-sm text-steel-700">
					Points or a mesh of the whole piece: CSV, XYZ, PLY or STL, up to 1,000,000 points, in any place and any way round. <a
						class="text-primary-700 underline"
						href="/jobs/{data.job.id}/measure?piece={data.piece.id}">Back to readings</a
					>
				</p>
				<div class="mt-3 space-y-3">
					<div>
						<Label for="scan-file" class="mb-1 text-steel-700">File</Label>
						<input
							id="scan-file"
							type="file"
							accept=".csv,.xyz,.txt,.ply,.stl"
							class="block w-full text-sm"
							onchange={(e) => {
								file = e.currentTarget.files?.[0];
								answer = undefined;
								message = '';
							}}
						/>
					</div>
					<div class="grid grid-cols-2 gap-3">
						<Choice
							label="The file is in"
							value={fileUnit}
							items={Object.entries(UNITS).map(([value, name]) => ({ value, name }))}
							onchange={(v) => (fileUnit = v as FileUnit)}
						/>
						<Choice
							label="Laid on"
							value={part}
							items={[{ value: '', name: 'the whole piece' }, ...data.plan.parts.map((p) => ({ value: p.id, name: p.name }))]}
							onchange={(v) => (part = v)}
						/>
					</div>
					<Choice
						label="What the scanner saw"
						value={side}
						items={Object.entries(SIDES).map(([value, name]) => ({ value, name }))}
						onchange={(v) => (side = v as Side)}
					/>
					{#if data.plan.datum}
						<Choice
							label="Deviations are seen"
							value={seenFrom}
							items={[
								{ value: 'closest', name: 'with the piece as close to the drawing as it lies' },
								{ value: 'datum', name: `3-2-1 from ${datumWords(data.plan)}` }
							]}
							onchange={(v) => (seenFrom = v)}
						/>
					{/if}
					{#if forecastShape}<label class="flex items-center gap-2 text-sm"
							><input type="checkbox" bind:checked={isOntoForecast} class="accent-primary-600" />Lay it on the forecast’s shape, not on the drawing</label
						>{/if}
				</div>
				{#if message}<div class="mt-3"><Notice kind="caution">{message}</Notice></div>{/if}
				<div aria-live="polite" class="mt-3">
					{#if progress !== undefined}
						<p class="flex items-center gap-2 text-sm">
							<span>{Math.round(progress * 100)} %</span>
							<progress class="h-1.5 flex-1 accent-primary-600" max="1" value={progress} aria-label="Laying the scan"></progress>
							<button type="button" class="text-primary-700 underline" onclick={() => client.end()}>Stop</button>
						</p>
					{:else}<Button size="sm" class="min-h-11" disabled={!file} onclick={() => lay()}>Lay it on the piece</Button>{/if}
				</div>
			</Panel>
			{#if answer}
				<Panel title="How it fits">
					<p class="text-sm">
						{answer.taken.toLocaleString('en')} of {answer.points.toLocaleString('en')} points lie on the piece, {answer.left.toLocaleString('en')} were
						left out as too far off. After the piece’s own movement they scatter by {quantity(answer.scatter, 'mm', unit)}; {answer.seconds.toFixed(
							1
						)} s.
					</p>
					{#if !answer.isSettled}<div class="mt-2">
							<Notice kind="caution">It had not settled when the rounds were over: take it as a direction only.</Notice>
						</div>{/if}
					{#if answer.unsure.length}<div class="mt-2">
							<Notice kind="caution" title="Which face?"
								>Of {answer.unsure.join(', ')} one face only was seen, and it has moved by about half its thickness or more: the face that was seen can
								have been taken for the other. Say which one the scanner saw, scan both, or lay it on the forecast’s shape.</Notice
							>
						</div>{/if}
					{#if answer.unseen > 0.02}<p class="mt-1 text-sm text-straw-700">
							{Math.round(100 * answer.unseen)} % of the piece was not seen: drawn there as smoothly as it can go on.
						</p>{/if}
					{#if answer.others.length}
						<div class="mt-2">
							<Notice kind="caution" title="Another way round"
								>The piece fits {answer.others.length === 1 ? 'one other way' : `${answer.others.length} other ways`} hardly worse. If an end lies at the
								wrong end, take another:
								{#each answer.others as o, i (o.way)}<button type="button" class="ml-1 min-h-8 text-primary-700 underline" onclick={() => lay(o.way)}
										>way {i + 2}</button
									>{/each}</Notice
							>
						</div>
					{/if}
				</Panel>
				<Panel title="What each feature is worth">
					<ul class="text-sm">
						{#each rows as r (r.id)}
							<li class="border-t border-steel-200 py-1.5 first:border-0">
								{#if !r.found}
									<span>{r.name}</span>: <span class="text-steel-600">a place of it was not seen</span>
								{:else}
									<label class="flex items-start gap-2"
										><input
											type="checkbox"
											class="mt-1 accent-primary-600"
											checked={!left[r.id]}
											onchange={(e) => (left[r.id] = !e.currentTarget.checked)}
										/><span class="flex-1">{r.name}</span><span class="tab text-right whitespace-nowrap"
											>{quantity(r.found.value, r.unit, unit)} ± {quantity(r.found.uncertainty90, r.unit, unit)}<br /><span class="text-steel-600"
												>{VERDICT_WORDS[r.found.verdict]}</span
											></span
										></label
									>
								{/if}
							</li>
						{/each}
					</ul>
					<div class="mt-3 grid grid-cols-2 gap-3">
						<Choice
							label="Moment"
							value={moment}
							items={READ_MOMENTS.map((m) => ({ value: m, name: MOMENT_WORDS[m] }))}
							onchange={(v) => (moment = v as ReadMoment)}
						/>
						<Choice
							label="How it lay"
							value={posture}
							items={POSTURES.map((m) => ({ value: m, name: POSTURE_WORDS[m] }))}
							onchange={(v) => (lies = v as Posture)}
						/>
						<NumberField label="Metal, if known" unit="°C" value={metalC} min={-50} max={1500} optional onchange={(v) => (metalC = v)} />
						<div>
							<Label for="scan-instrument" class="mb-1 text-steel-700">Scanner</Label>
							<Input id="scan-instrument" size="sm" bind:value={instrument} maxlength={40} />
						</div>
					</div>
					{#if metalC !== undefined && metalC > WARM_C}<div class="mt-2">
							<Notice kind="caution" title="Warm">What is scanned hot is not what you get cold: these readings will be kept and flagged.</Notice>
						</div>{/if}
					{#if refusal}<div class="mt-2"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
					{#if kept}<p class="mt-2 text-sm text-sound-700" role="status">✓ {kept}</p>{/if}
					<Button
						class="mt-3 min-h-11"
						size="sm"
						disabled={!readable.length || keeping || !instrument.trim() || data.piece.state === 'handed-over'}
						onclick={keep}>Keep {readable.length} as readings</Button
					>
					{#if data.piece.state === 'handed-over'}<p class="mt-1 text-sm text-steel-600">This piece is handed over: its readings are closed.</p>{/if}
				</Panel>
			{/if}
		{/if}
	</aside>
</div>
