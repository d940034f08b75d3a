<script lang="ts">
	import { isRefusal } from '$core/refusal/refusal';
	import { goto, invalidateAll } from '$app/navigation';
	import { page } from '$app/state';
	import { evaluateReadings, type Evaluated } from '$core/measure/readings';
	import { MOMENTS, MOMENT_WORDS, POSTURES, POSTURE_WORDS, type Moment, type Posture, PIECE_WORDS } from '$core/document/words';
	import { calibrationWords, instrumentWords, QUANTITY_UNIT } from '$core/registers/instruments';
	import { MM_PER_INCH } from '$core/units/length';
	import { untrack } from 'svelte';
	import { WARM_C } from '$core/weldout/handOver';
	import { call, type Refusal } from '$lib/call';
	import { ReadingDraft } from '$lib/measure/draft.svelte';
	import { deviceName, DeviceWatch } from '$lib/bench/devices.svelte';
	import { quantity } from '$lib/units';
	import { pointing } from '$core/draw/svg';
	import PiecePicture from '$lib/ui/PiecePicture.svelte';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Panel from '$lib/ui/Panel.svelte';
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
		const way = f.ways.find((w) => w.method === wayOf[f.id]) ?? f.ways[0];
		// half a reading of one way is none of another
		return { ...f, ...way, name: f.name, way: way.name, draftKey: way === f.ways[0] ? f.id : `${f.id}/${way.method}` };
	});
	const asked = page.url.searchParams.get('moment');
	const draft = $derived(new ReadingDraft(data.piece?.id ?? ''));
	$effect(() => {
		const d = draft;
		untrack(() => {
			d.begin();
			const moment = MOMENTS.find((m) => m === asked);
			if (moment) d.set({ moment });
		});
	});
	const moment = $derived<Moment>(draft.moment ?? 'unclamped');
	/** as the plan says, until somebody says otherwise */
	const posture = $derived<Posture>(draft.lies ?? data.posture);
	const instrument = $derived(draft.instrument ?? 'Straightedge and feeler gauges');
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
	const current = $derived(feature ? draft.cells(feature.draftKey, feature.labels.length) : []);
	const factor = $derived(feature?.readsIn === 'mm' && unit === 'in' ? MM_PER_INCH : 1);
	const numbers = $derived(current.map((c) => (c.trim() === '' ? NaN : Number(c.trim().replace(',', '.')) * factor)));
	const bad = $derived(current.findIndex((c, i) => c.trim() !== '' && !Number.isFinite(numbers[i])));
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
	function set(i: number, value: string) {
		if (!feature) return;
		draft.setCells(
			feature.draftKey,
			current.map((c, k) => (k === i ? value : c))
		);
	}
	/** a gauge that acts as a keyboard ends each reading with Enter: go on to the next cell */
	function enter(e: KeyboardEvent, i: number) {
		if (e.key !== 'Enter') return;
		e.preventDefault();
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
						if ((reading.unit === 'deg') !== (feature.readsIn === '°')) {
							heard = `${deviceName(device)} sent ${reading.unit === 'deg' ? 'degrees' : 'a length'}: this feature is read in ${feature.readsIn}.`;
							return;
						}
						set(at, String(Number((reading.value / factor).toFixed(4))));
						draft.set({ instrument: deviceName(device), instrumentId: undefined });
						heard = `${deviceName(device)}: ${feature.labels[at]}.`;
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
			await invalidateAll();
		}
	}
	async function withdraw(id: string) {
		const r = await call('PATCH', `/api/pieces/${data.piece!.id}/measurements/${id}`, { why });
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) {
			withdrawing = why = '';
			await invalidateAll();
		}
	}
	const nameOf = (id: string) => data.features.find((f) => f.id === id)?.name ?? id;
</script>

<main id="main" class="flex-1 overflow-y-auto p-2 sm:p-5">
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
			<div class="space-y-5">
				<Panel title="Take a reading">
					{#snippet aside()}
						<select
							class="tab rounded-sm py-1 text-sm"
							aria-label="Piece"
							value={data.piece!.id}
							onchange={(e) => goto(`?piece=${e.currentTarget.value}`)}
							>{#each data.pieces as p (p.id)}<option value={p.id}>{p.serial} · {PIECE_WORDS[p.state]}</option>{/each}</select
						>
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
							items={MOMENTS.map((m) => ({ value: m, name: MOMENT_WORDS[m] }))}
							onchange={(v) => draft.set({ moment: v as Moment })}
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
					{#if metalC !== undefined && metalC > WARM_C}<div class="mt-3">
							<Notice kind="caution" title="Warm">What is measured hot is not what you get cold. The reading will be kept and flagged.</Notice>
						</div>{/if}
					{#if feature}
						{#if feature.ways.length > 1}
							<div class="mt-3">
								<Choice
									label="How it is read"
									value={feature.method}
									items={feature.ways.map((w) => ({ value: w.method as string, name: w.name }))}
									onchange={(v) => (wayOf[feature.id] = v)}
								/>
							</div>
						{:else}<h3 class="mt-4 text-[15px]">{feature.way}</h3>{/if}
						<p class="text-[13px] text-steel-600">
							In {feature.readsIn === '°' ? 'degrees' : unit}{feature.context.nominal !== undefined
								? `; the drawing says ${quantity(feature.context.nominal, feature.unit, unit)}`
								: ''}. A gauge that types fills the cells in turn.
						</p>
						{#await data.art}
							<p class="mt-2 text-sm text-steel-600" role="status">The picture is being drawn.</p>
						{:then art}
							{@const spot = art?.features[feature.id]}
							{#if art && spot}
								<div class="mt-2">
									<PiecePicture
										drawing={art.pictures[spot.picture]}
										hand={pointing(spot, spot.labels.indexOf(String(at + 1)))}
										label="Where {feature.name} is read on the piece"
										width={520}
										height={300}
									/>
								</div>
							{/if}
						{:catch}
							<p class="mt-2 text-sm text-steel-600">No picture: this plan could not be drawn.</p>
						{/await}
						<div class="mt-2 grid gap-2" style="grid-template-columns: repeat({feature.columns}, minmax(0, 1fr))">
							{#each feature.labels as label, i (i)}
								<div>
									<Label for="cell-{i}" class="mb-0.5 text-[12px] text-steel-600">{label}</Label><input
										id="cell-{i}"
										type="text"
										inputmode="decimal"
										autocomplete="off"
										class="tab w-full rounded-sm border border-steel-400 px-2 py-1.5 text-lg {bad === i ? 'border-plum-600' : ''}"
										value={current[i]}
										aria-invalid={bad === i ? 'true' : undefined}
										onfocus={() => (at = i)}
										oninput={(e) => set(i, e.currentTarget.value)}
										onkeydown={(e) => enter(e, i)}
									/>
								</div>
							{/each}
						</div>
						{#if heard}<p class="mt-1 text-sm" role="status">{heard}</p>{/if}
						{#if bad >= 0}<p class="mt-1 text-sm text-plum-700">{feature.labels[bad]}: “{current[bad]}” is not a number.</p>{/if}
						<div class="mt-3 min-h-16">
							{#if preview}<p>
									<span class="tab text-[24px] font-semibold">{quantity(preview.value, preview.unit, unit)}</span>
									<span class="tab text-steel-600">± {quantity(preview.uncertainty90, preview.unit, unit)}</span>
								</p>
								<p class="text-sm text-steel-700">{preview.arithmetic}</p>{:else}<p class="text-sm text-steel-600">
									{worked.refused ?? 'Fill every cell: the arithmetic shows here before anything is kept.'}
								</p>{/if}
						</div>
						<Button size="sm" disabled={!preview || !mayMeasure || busy || !(tool?.name ?? instrument).trim()} onclick={keep}
							>Keep this reading</Button
						>
						{#if !mayMeasure}<p class="mt-1 text-sm text-steel-600">This piece is handed over: its readings are closed.</p>{/if}
					{/if}
				</Panel>
			</div>
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
	{/if}
</main>
