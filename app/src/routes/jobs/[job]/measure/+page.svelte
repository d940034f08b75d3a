<script lang="ts">
	import { isRefusal } from '$core/refusal/refusal';
	import { refresh } from '$lib/refresh';
	import { page } from '$app/state';
	import { coldValue } from '$core/features/warm';
	import { evaluateReadings, type Evaluated } from '$core/measure/readings';
	import { MOMENT_WORDS, POSTURES, POSTURE_WORDS, READ_MOMENTS, type Posture, type ReadMoment } from '$core/document/words';
	import { METHOD_KINDS, ORDINARY, type Method } from '$core/measure/methods';
	import { readsIn } from '$core/measure/methods/method';
	import { unlikely } from '$core/measure/unlikely';
	import { calibrationWords, instrumentWords, QUANTITY_UNIT } from '$core/registers/instruments';
	import { MM_PER_INCH } from '$core/units/length';
	import { untrack } from 'svelte';
	import { WARM_C } from '$core/weldout/handOver';
	import { call, type Refusal } from '$lib/call';
	import { ReadingDraft } from '$lib/measure/draft.svelte';
	import { cellsOf, readCell, usualCount } from '$lib/measure/cells';
	import FeatureState from '$lib/measure/FeatureState.svelte';
	import UntilCold from '$lib/measure/UntilCold.svelte';
	import ReadingCells from '$lib/measure/ReadingCells.svelte';
	import { deviceName, DeviceWatch } from '$lib/bench/devices.svelte';
	import { quantity } from '$lib/units';
	import { pointing } from '$core/draw/svg';
	import PiecePicture from '$lib/ui/PiecePicture.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import PieceChoice from '$lib/ui/PieceChoice.svelte';
	import TakePhotograph from '$lib/ui/TakePhotograph.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayMeasure = $derived(data.piece?.state !== 'handed-over');
	const isInspector = $derived(data.person?.roles.includes('inspector') ?? false);
	let chosen = $state('');
	/** another way than the usual one, by feature */
	let wayOf = $state<Record<string, string>>({});
	const feature = $derived.by(() => {
		const f = data.features.find((x) => x.id === chosen) ?? data.features[0];
		if (!f) return undefined;
		const method: Method = f.ways.find((w) => w === wayOf[f.id]) ?? f.ways[0];
		// half a reading of one way is none of another
		return { ...f, method, readsIn: readsIn(METHOD_KINDS[method]), draftKey: method === f.ways[0] ? f.id : `${f.id}/${method}` };
	});
	const asked = page.url.searchParams.get('moment');
	const draft = $derived(new ReadingDraft(data.piece?.id ?? ''));
	$effect(() => {
		const d = draft;
		untrack(() => {
			d.begin();
			const moment = READ_MOMENTS.find((m) => m === asked);
			if (moment) d.set({ moment });
		});
	});
	const moment = $derived<ReadMoment>(draft.moment ?? 'unclamped');
	/** as the plan says, until somebody says otherwise */
	const posture = $derived<Posture>(draft.lies ?? data.posture);
	const instrument = $derived(draft.instrument ?? (feature ? ORDINARY[feature.method] : ''));
	const today = new Date().toISOString();
	/** what of the register reads this feature; the one in hand, where it is one of these */
	const tools = $derived(data.instruments.filter((i) => QUANTITY_UNIT[i.reads] === feature?.readsIn));
	const tool = $derived(tools.find((i) => i.id === draft.instrumentId));
	const metalC = $derived(draft.metalC);
	/** the cell in hand: its place is lit on the picture */
	let at = $state(0);
	let refusal = $state<Refusal | undefined>();
	let withdrawing = $state('');
	let why = $state('');
	const current = $derived(
		feature ? draft.cells(feature.draftKey, usualCount(feature.method, feature.context), Boolean(METHOD_KINDS[feature.method].chosen)) : []
	);
	const cells = $derived(feature && cellsOf(feature.method, feature.context, current.length, unit));
	const factorOf = (i: number) => (cells?.units[i] === 'mm' && unit === 'in' ? MM_PER_INCH : 1);
	const readings = $derived(current.map((c, i) => (c.trim() === '' ? undefined : readCell(c, cells?.units[i] ?? 'mm', unit))));
	const numbers = $derived(readings.map((r) => (r && 'value' in r ? r.value : NaN)));
	const bad = $derived(readings.findIndex((r) => r && 'wrong' in r));
	const wrong = $derived.by(() => {
		const r = readings[bad];
		return r && 'wrong' in r ? r.wrong : '';
	});
	const worked = $derived.by((): { value?: Evaluated; refused?: string } => {
		if (!feature || numbers.some((n) => !Number.isFinite(n))) return {};
		try {
			return { value: evaluateReadings(feature.method, numbers, feature.context, tool?.uncertainty90) };
		} catch (e) {
			if (!isRefusal(e)) throw e;
			return { refused: e.message };
		}
	});
	const preview = $derived(worked.value);
	/** the drawing's own value of what is read in this way */
	const drawn = $derived(feature?.method === 'pi-tape' ? feature.context.outsideMm : feature?.context.nominal);
	const isWarm = $derived(metalC !== undefined && metalC > WARM_C);
	/** of a length, what it will be when the metal is as cold as the workshop */
	const cold = $derived(preview && isWarm ? coldValue(preview.value, feature?.growth, metalC!, data.ambientC) : undefined);
	/** readings that look like a slip: asked about once, and kept when they are said to be so */
	const doubts = $derived(feature && worked.value ? unlikely(feature.method, numbers, feature.context) : []);
	let sure = $state('');
	function set(i: number, value: string) {
		if (!feature) return;
		draft.setCells(
			feature.draftKey,
			current.map((c, k) => (k === i ? value : c))
		);
	}
	/** a gauge that acts as a keyboard ends each reading with Enter: go on to the next cell */
	function enter(i: number) {
		const next = document.getElementById(`cell-${i + 1}`);
		if (next) next.focus();
		else void keep();
	}
	/** what a gauge that sends has filled in, said */
	let heard = $state('');
	const watch = $derived.by(() => {
		const piece = data.piece?.id ?? '';
		return untrack(
			() =>
				new DeviceWatch(piece, data.devicesAfter ?? 0, {
					onvalue(reading, device) {
						if (device.kind !== 'gauge' || reading.value === undefined || !feature) return;
						const asks = cells?.units[at] ?? feature.readsIn;
						if ((reading.unit === 'deg') !== (asks === '°')) {
							heard = `${deviceName(device)} sent ${reading.unit === 'deg' ? 'degrees' : 'a length'}: here it is read in ${asks}.`;
							return;
						}
						set(at, String(Number((reading.value / factorOf(at)).toFixed(4))));
						draft.set({ instrument: deviceName(device), instrumentId: undefined });
						heard = `${deviceName(device)}: ${cells?.labels[at]}.`;
						document.getElementById(`cell-${at + 1}`)?.focus();
					}
				})
		);
	});
	$effect(() => {
		const w = watch;
		return data.piece && mayMeasure ? untrack(() => w.begin()) : undefined;
	});
	let busy = $state(false);
	async function keep() {
		if (!feature || !preview || !data.piece || busy) return;
		const asked = doubts.map((d) => d.words).join(' ');
		if (asked && sure !== asked) return void (sure = asked);
		// the one that is sent: by the time it is answered another may be in hand
		const [sent, key] = [draft, feature.draftKey];
		const reading = {
			feature: feature.id,
			method: feature.method,
			moment,
			posture,
			instrument: tool?.name ?? instrument,
			...(tool ? { instrumentId: tool.id } : {}),
			...(metalC === undefined ? {} : { metalC }),
			readings: numbers
		};
		busy = true;
		const r = await call('POST', `/api/pieces/${data.piece.id}/measurements`, { clientId: sent.nameOf(reading), ...reading });
		busy = false;
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) {
			sent.taken(key);
			sure = '';
			await refresh();
		}
	}
	async function withdraw(id: string) {
		const r = await call('PATCH', `/api/pieces/${data.piece!.id}/measurements/${id}`, { why });
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) {
			withdrawing = why = '';
			await refresh();
		}
	}
	/** The places of a feature, numbered where the way in hand reads at those very places, the one in hand lit. */
	function numbered(spot: Parameters<typeof pointing>[0]) {
		const isSame = spot.labels.filter(Boolean).length === current.length;
		return isSame ? pointing(spot, spot.labels.indexOf(String(at + 1))) : pointing({ ...spot, labels: spot.labels.map(() => '') });
	}
	const nameOf = (id: string) => data.features.find((f) => f.id === id)?.name ?? id;
</script>

<main id="main" class="relative flex-1 overflow-y-auto p-2 sm:p-5">
	{#if !data.piece || !data.revision}
		<Panel title="Measure"
			><p>
				No piece of this job has been started at the bench yet, so there is nothing to measure. <a
					class="text-primary-700 underline"
					href="/jobs/{data.job.id}/weld-out">Go to the weld-out</a
				>.
			</p></Panel
		>
	{:else}
		<div class="grid max-w-[1120px] gap-5 lg:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
			<div class="min-w-0 space-y-5">
				<Panel title="Take a reading">
					{#snippet aside()}
						<a class="text-sm text-primary-700 underline" href="/jobs/{data.job.id}/measure/scan?piece={data.piece!.id}">A scan of it all</a>
						<PieceChoice pieces={data.pieces} chosen={data.piece!.id} />
					{/snippet}
					{#if refusal}<div class="mb-3"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
					<div class="grid grid-cols-2 gap-3">
						<Choice
							label="Feature"
							value={feature?.id ?? ''}
							items={data.features.map((f) => ({ value: f.id, name: f.name }))}
							onchange={(v) => (chosen = v)}
						/>
						<Choice
							label="Moment"
							value={moment}
							items={READ_MOMENTS.map((m) => ({ value: m, name: MOMENT_WORDS[m] }))}
							onchange={(v) => draft.set({ moment: v as ReadMoment })}
						/>
						<Choice
							label="How it lies"
							value={posture}
							items={POSTURES.map((m) => ({ value: m, name: POSTURE_WORDS[m] }))}
							onchange={(v) => draft.set({ lies: v as Posture })}
						/>
						<NumberField label="Metal, if known" unit="°C" value={metalC} min={-50} max={1500} optional onchange={(v) => draft.set({ metalC: v })} />
						{#if tools.length}
							<Choice
								label="Instrument of the register"
								value={tool?.id ?? ''}
								items={[{ value: '', name: 'none of these' }, ...tools.map((i) => ({ value: i.id, name: instrumentWords(i.name, i.dueOn, today) }))]}
								onchange={(v) => draft.set({ instrumentId: v || undefined })}
							/>
						{/if}
						<div class={tools.length ? '' : 'col-span-2'}>
							<Label for="instrument" class="mb-1 text-steel-700">Instrument</Label><Input
								id="instrument"
								size="sm"
								value={tool?.name ?? instrument}
								disabled={Boolean(tool)}
								oninput={(e: Event) => draft.set({ instrument: (e.currentTarget as HTMLInputElement).value })}
								maxlength={80}
							/>
						</div>
					</div>
					{#if tool && calibrationWords(today, tool.dueOn)}<div class="mt-3">
							<Notice kind="caution" title="{tool.name}: {calibrationWords(today, tool.dueOn)}"
								>The reading is kept, and this is said beside it for good. Better: take another instrument.</Notice
							>
						</div>{/if}
					{#if isWarm}<div class="mt-3">
							<Notice kind="caution" title="Warm">What is measured hot is not what you get cold. The reading will be kept and flagged.</Notice>
						</div>{/if}
					<UntilCold coolAt={data.coolAt} {isWarm} />
					{#if feature}
						{#if feature.ways.length > 1}
							<div class="mt-3">
								<Choice
									label="How it is read"
									value={feature.method}
									items={feature.ways.map((w) => ({ value: w as string, name: METHOD_KINDS[w].name }))}
									onchange={(v) => (wayOf[feature.id] = v)}
								/>
							</div>
						{:else}<h3 class="mt-4 text-[15px]">{METHOD_KINDS[feature.method].name}</h3>{/if}
						<p class="text-[13px] text-steel-600">
							In {feature.readsIn === '°' ? 'degrees' : unit}{drawn === undefined ? '' : `; the drawing says ${quantity(drawn, feature.unit, unit)}`}.
							A gauge that types fills the cells in turn.
						</p>
						{#await data.art}
							<p class="mt-2 text-sm text-steel-600" role="status">The picture is being drawn.</p>
						{:then art}
							{@const spot = art?.features[feature.id]}
							{#if art && spot}
								<div class="mt-2">
									<PiecePicture
										drawing={art.pictures[spot.picture]}
										hand={numbered(spot)}
										label="Where {feature.name} is read on the piece"
										width={520}
										height={300}
									/>
								</div>
							{/if}
						{:catch}
							<p class="mt-2 text-sm text-steel-600">No picture: this plan could not be drawn.</p>
						{/await}
						{#if cells}<ReadingCells
								{cells}
								text={current}
								{bad}
								onset={set}
								onall={(values) => draft.setCells(feature.draftKey, values)}
								onenter={enter}
								onat={(i) => (at = i)}
							/>{/if}
						{#if heard}<p class="mt-1 text-sm" role="status">{heard}</p>{/if}
						{#if bad >= 0}<p class="mt-1 text-sm text-plum-700">{cells?.labels[bad]}: {wrong}</p>{/if}
						<div class="mt-3 min-h-16">
							{#if preview}<p>
									<span class="tab text-[24px] font-semibold">{quantity(preview.value, preview.unit, unit)}</span>
									<span class="tab text-steel-600">± {quantity(preview.uncertainty90, preview.unit, unit)}</span>
								</p>
								<p class="text-sm text-steel-700">{preview.arithmetic}</p>
								{#if cold}<p class="text-sm text-straw-700">
										Cold it would be about <strong class="tab">{quantity(cold.value, 'mm', unit)}</strong>: the warmth alone makes it {quantity(
											cold.longerMm,
											'mm',
											unit
										)} longer (± {quantity(cold.spread90, 'mm', unit)}, for it is not as warm all along). What is kept is what was read.
									</p>{:else if isWarm}<p class="text-sm text-straw-700">
										What it will be cold cannot be told from this: read it again then.
									</p>{/if}{:else}<p class="text-sm text-steel-600">
									{worked.refused ?? 'Fill every cell: the arithmetic shows here before anything is kept.'}
								</p>{/if}
						</div>
						{#each doubts as d (d.at)}<p class="mb-1 text-sm text-straw-700">? {d.words}</p>{/each}
						<Button size="sm" class="min-h-11" disabled={!preview || !mayMeasure || busy || !(tool?.name ?? instrument).trim()} onclick={keep}
							>{doubts.length && sure ? 'It is as read: keep it' : 'Keep this reading'}</Button
						>
						{#if !mayMeasure}<p class="mt-1 text-sm text-steel-600">This piece is handed over: its readings are closed.</p>{/if}
					{/if}
				</Panel>
			</div>
			<div class="space-y-5">
				{#if feature}
					<FeatureState
						{feature}
						readings={data.measurements.filter((m) => m.feature === feature.id && !m.withdrawnAt)}
						judged={data.judged.find((j) => j.feature === feature.id)}
						paths={data.paths}
						{unit}
						putRightHref="/jobs/{data.job.id}/put-right?piece={data.piece.id}"
					/>
				{/if}
				<Panel title="Readings of {data.piece.serial}">
					{#if !data.measurements.length}<p class="text-steel-600">
							None yet. Take one as tacked, one cold and one unclamped where you can: the difference is the springback.
						</p>{/if}
					<ul>
						{#each data.measurements as m (m.id)}
							<li class="border-t border-steel-200 py-2 text-sm first:border-0 {m.withdrawnAt ? 'opacity-70' : ''}">
								<div class="flex items-baseline justify-between gap-2">
									<span class="font-medium">{nameOf(m.feature)}, {MOMENT_WORDS[m.moment]}</span><span
										class="tab text-base font-semibold {m.withdrawnAt ? 'line-through' : ''}">{quantity(m.value, m.unit as 'mm' | '°', unit)}</span
									>
								</div>
								<p class="text-steel-600">{m.arithmetic}</p>
								<p class="text-steel-600">
									{m.person}, {new Date(m.measuredAt).toLocaleString()}; {instrumentWords(m.instrument, m.instrumentDueOn, m.measuredAt)}; {POSTURE_WORDS[
										m.posture
									]}{#if m.metalC !== null && m.metalC > WARM_C}; <strong class="text-straw-700">warm, {m.metalC} °C</strong>{/if}
								</p>
								{#if m.withdrawnAt}<p class="text-plum-700">Withdrawn: {m.withdrawnWhy}</p>
								{:else if withdrawing === m.id}
									<div class="mt-1 flex gap-2">
										<label class="sr-only" for="why-{m.id}">Why is it withdrawn?</label><Input
											id="why-{m.id}"
											size="sm"
											placeholder="Why?"
											bind:value={why}
											maxlength={300}
										/><Button size="xs" disabled={!why.trim()} onclick={() => withdraw(m.id)}>Withdraw</Button>
									</div>
								{:else if mayMeasure && (!m.byInspector || isInspector)}{#if data.piece}<TakePhotograph
											of={{ pieceId: data.piece.id, about: m.clientId, note: `${nameOf(m.feature)}, ${MOMENT_WORDS[m.moment]}` }}
										/>{/if}
									<button type="button" class="text-primary-700 underline" onclick={() => (withdrawing = m.id)}>Withdraw</button>{/if}
							</li>
						{/each}
					</ul>
				</Panel>
			</div>
		</div>
	{/if}
</main>
