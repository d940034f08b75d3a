<script lang="ts">
	import { onDestroy } from 'svelte';
	import { refresh } from '$lib/refresh';
	import { VERDICT_WORDS } from '$core/features/verdict';
	import { PUT_RIGHT, putRightIn } from '$lib/fitup/putRightIn';
	import BenchView from '$lib/bench-view/BenchView.svelte';
	import { call, type Refusal } from '$lib/call';
	import Bench from '$lib/desk/Bench.svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { duration, quantity } from '$lib/units';
	import { needsHot } from '$core/hot/needed';
	import Compare from './Compare.svelte';
	import ExportPanel from './ExportPanel.svelte';
	import FilmControls from './FilmControls.svelte';
	import FilmCurves from './FilmCurves.svelte';
	import FullPanel from './FullPanel.svelte';
	import HeatPanel from './HeatPanel.svelte';
	import HotPanel from './HotPanel.svelte';
	import FinalShapePanel from './FinalShapePanel.svelte';
	import HistoryChart from '$lib/ui/HistoryChart.svelte';
	import DeviationScale from '$lib/ui/DeviationScale.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let stepChosen = $state<number | undefined>();
	let exaggeration = $state(10);
	let coloured = $state(true);
	let refusal = $state<Refusal | undefined>();
	let issuing = $state(false);
	let playing = $state<ReturnType<typeof setInterval> | undefined>();
	const plain = $derived(desk.deep && desk.deep.doc === desk.doc ? desk.deep : undefined);
	const deep = $derived(desk.hot && desk.hot.doc === desk.doc ? desk.hot : plain);
	const full = $derived(desk.full && desk.full.doc === desk.doc ? desk.full : undefined);
	/** what can be drawn, in order: the steps (linear, or those of the full depth), the final shape, the other one */
	const frames = $derived([
		...(desk.result?.steps ?? []).map((s, i) => ({
			id: s.id,
			kind: s.kind as string,
			label: s.label,
			shape: full?.steps[i] ?? desk.shapes?.steps[i]
		})),
		...(deep && !full ? [{ id: 'final-shape', kind: 'final', label: 'Final shape', shape: deep.shape }] : []),
		...((full ?? deep)?.other ? [{ id: 'other-shape', kind: 'final', label: 'The other shape', shape: (full ?? deep)!.other }] : [])
	]);
	/** a run pointed at in the table: what the piece did while it was laid */
	let pointed = $state<string | undefined>();
	const pointedShape = $derived.by(() => {
		const i = frames.findIndex((f) => f.id === pointed);
		const [now, before] = [frames[i]?.shape, frames[i - 1]?.shape];
		return now && before ? now.map((v, k) => v - before[k]) : undefined;
	});
	const last = $derived(Math.max(0, frames.length - 1));
	const fallback = $derived((full ?? deep)?.other ? last - 1 : last);
	const step = $derived(Math.min(stepChosen ?? fallback, last));
	const frame = $derived(frames[step]);
	const result = $derived(desk.shown);
	const feature = $derived(
		result?.features.find((f) => f.id === (desk.selection?.kind === 'feature' ? desk.selection.id : '')) ?? result?.features[0]
	);
	/** value by frame of the chosen feature: the linear steps keep their own, the shapes found add theirs */
	const quickFeature = $derived(desk.result?.features.find((f) => f.id === feature?.id));
	const history = $derived([
		...((full ? feature?.history : quickFeature?.history) ?? []),
		...(deep && !full && feature ? [feature.predicted] : []),
		...((full ?? deep)?.other && feature ? [feature.other ?? feature.predicted] : [])
	]);
	// the final shape follows by itself while this page is open and the plan rests
	$effect(() => {
		const doc = desk.doc;
		if (!desk.result || desk.stale || desk.forecasting || !doc.runs.length) return;
		const timer = setTimeout(() => void desk.askFinalShape(), 600);
		return () => clearTimeout(timer);
	});
	// and the arcs after it, where the plan is one of which the final shape says too little
	$effect(() => {
		if (
			!plain?.result.finalShape?.converged ||
			desk.stale ||
			desk.hotBusy ||
			desk.hotMessage ||
			desk.hot?.doc === desk.doc ||
			!needsHot(desk.doc).length
		)
			return;
		const timer = setTimeout(() => void desk.askHot(), 1500);
		return () => clearTimeout(timer);
	});
	const upToRun = $derived.by(() => {
		if (!frame || ['cold', 'unclamped', 'final'].includes(frame.kind)) return Infinity;
		return frame.kind === 'tacked' ? -1 : desk.doc.runs.findIndex((r) => r.id === frame.id);
	});
	let filming = $state(false);
	function largestOf(u: Float32Array | undefined): number {
		let m = 0;
		for (let i = 0; u && i < u.length; i += 3) m = Math.max(m, Math.hypot(u[i], u[i + 1], u[i + 2]));
		return m;
	}
	/** of what is shown; of all steps while a film is made of them */
	const largest = $derived(filming ? Math.max(0, ...frames.map((f) => largestOf(f.shape))) : largestOf(pointedShape ?? frame?.shape));
	const influence = $derived(
		[...(feature?.influence ?? [])]
			// what is shown as nothing moves nothing
			.filter((i) => Math.abs(i.value) >= 0.005)
			.sort((a, b) => Math.abs(b.value) - Math.abs(a.value))
			.slice(0, 8)
	);
	const stepName = (id: string) => {
		if (id === 'tacks') return 'Tacks';
		if (id.startsWith('release:')) return 'Taking the clamps off';
		return frames.find((s) => s.id === id)?.label ?? id;
	};
	/** each feature's way under the film; what only the final shape can tell has none by the quick steps */
	let curved = $state(false);
	const ways = $derived(
		(full ? (result?.features ?? []) : (desk.result?.features ?? []))
			.filter((f) => f.history.length > 1 && (full || f.verdict !== 'final shape'))
			.map((f) => ({ id: f.id, name: f.name, unit: f.unit, values: f.history, upper: f.tolerance.upper, lower: f.tolerance.lower }))
	);
	let bench = $state<BenchView>();
	/** ms a step */
	let pace = $state(350);
	function play() {
		if (playing) {
			clearInterval(playing);
			playing = undefined;
			return;
		}
		stepChosen = step >= last ? 0 : step;
		playing = setInterval(() => {
			stepChosen = Math.min(last, (stepChosen ?? 0) + 1);
			if (stepChosen >= last) {
				clearInterval(playing);
				playing = undefined;
			}
		}, pace);
	}
	onDestroy(() => clearInterval(playing));
	function stepKeys(e: KeyboardEvent) {
		if (e.target instanceof HTMLInputElement || e.target instanceof HTMLSelectElement || e.target instanceof HTMLTextAreaElement) return;
		if (e.key === ' ' && !(e.target instanceof HTMLButtonElement)) play();
		else if (e.key === ',') stepChosen = Math.max(0, step - 1);
		else if (e.key === '.') stepChosen = Math.min(last, step + 1);
		else return;
		e.preventDefault();
	}
	let mending = $state(false);
	async function issue() {
		issuing = true;
		if (desk.saving !== 'saved') await desk.save();
		const r = await call<{ revision: number; version: number; state: 'issued' }>('POST', `/api/jobs/${data.job.id}/issue`, {
			revision: desk.revision,
			version: desk.version
		});
		issuing = false;
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) {
			desk.issued(r.data);
			await refresh();
		}
	}
	/** what issuing refused, put right as near to the plan as may be; undo takes it back */
	function mend() {
		mending = true;
		setTimeout(() => {
			desk.change(PUT_RIGHT, putRightIn);
			refusal = undefined;
			mending = false;
		}, 30);
	}
	const widest = $derived(Math.max(1e-9, ...influence.map((i) => Math.abs(i.value))));
</script>

<svelte:window onkeydown={stepKeys} />

<Bench show={{ tacks: false, runs: true, holds: true }} tapes={false}>
	{#snippet view()}
		<div class="flex h-full flex-col">
			<div class="min-h-0 flex-1">
				<BenchView
					bind:this={bench}
					shape={pointedShape ?? frame?.shape}
					{exaggeration}
					colourScaleMm={coloured ? Math.max(0.05, largest) : 0}
					show={{ tacks: false, runs: true, holds: true }}
					{upToRun}
				/>
			</div>
			<div class="shrink-0 space-y-1.5 bg-white px-4 py-2 text-sm">
				<div class="flex flex-wrap items-center gap-3">
					<button type="button" class="w-16 rounded-sm border border-steel-400 px-2 py-1" onclick={play} disabled={!frames.length}
						>{playing ? 'Stop' : 'Play'}</button
					>
					<label class="sr-only" for="step">Step</label>
					<input
						id="step"
						type="range"
						min="0"
						max={last}
						value={step}
						class="min-w-24 flex-1 accent-primary-600"
						oninput={(e) => (stepChosen = Number(e.currentTarget.value))}
						aria-valuetext={frame?.label}
					/>
					<span class="w-64 max-w-full truncate font-medium">{pointedShape ? `Only ${stepName(pointed!)}` : (frame?.label ?? 'No forecast yet')}</span
					>
				</div>
				<div class="flex flex-wrap items-center gap-x-3 gap-y-1">
					<FilmControls
						{bench}
						labels={frames.map((f) => f.label)}
						name={`${data.job.number}-rev${desk.revision}`}
						{pace}
						onpace={(ms) => (pace = ms)}
						show={(i) => (stepChosen = i)}
						onbusy={(b) => (filming = b)}
					/>
					<label for="exaggeration">Exaggerated</label>
					<input
						id="exaggeration"
						type="range"
						min="1"
						max="60"
						bind:value={exaggeration}
						class="w-44 max-w-full min-w-20 flex-1 accent-primary-600 md:flex-none"
						aria-valuetext="{exaggeration} times"
					/>
					<span class="tab w-14">× {exaggeration}</span>
					<label class="flex items-center gap-1.5"
						><input type="checkbox" bind:checked={coloured} class="accent-primary-600" />Colour by deviation</label
					>
					{#if ways.length}<label class="flex items-center gap-1.5"
							><input type="checkbox" bind:checked={curved} class="accent-primary-600" />Curves</label
						>{/if}
					{#if coloured}
						<DeviationScale largestMm={largest} {unit} />
					{/if}
				</div>
				{#if curved}<FilmCurves features={ways} at={step} count={frames.length} {unit} onpick={(i) => (stepChosen = i)} />{/if}
			</div>
		</div>
	{/snippet}
	{#if result}
		{@const r = result}
		<Panel title="How far to trust this">
			<p class="text-sm"><strong>{r.method.name}.</strong> {r.method.words} <strong>{r.checked.words}</strong></p>
			<div class="mt-2 space-y-1">
				{#each r.warnings as w (w)}<Notice kind="caution">{w}</Notice>{/each}
			</div>
		</Panel>
		<FinalShapePanel />
		<HotPanel {unit} jobId={data.job.id} />
		{#if feature}
			<Panel title={feature.name}>
				<p class="text-sm">
					{#if feature.notFound}
						<span class="text-[18px] font-semibold">No shape was found</span>, so there is no number for it.<br />
					{:else if feature.verdict === 'final shape'}
						<span class="text-[18px] font-semibold">Waits for the final shape</span>: a panel is past its limit, and the quick method knows no waves.<br
						/>
					{:else}
						<span class="tab text-[22px] font-semibold">{quantity(feature.predicted, feature.unit, unit)}</span>
						<span class="tab">({quantity(feature.low, feature.unit, unit)} to {quantity(feature.high, feature.unit, unit)}, 90 %)</span><br />
					{/if}
					Limit {feature.tolerance.lower === undefined ? 'at most' : 'plus or minus'}
					{quantity(feature.tolerance.upper, feature.unit, unit)} by {feature.tolerance.source}:
					<strong>{VERDICT_WORDS[feature.verdict]}</strong>.
					{#if feature.nominal !== undefined}Drawing: {quantity(feature.nominal, feature.unit, unit)}.{/if}
					{#if feature.finalShape !== undefined && r.depth === 'hot'}The final shape without the arcs says {quantity(
							feature.finalShape,
							feature.unit,
							unit
						)}.{/if}
					{#if feature.quick !== undefined}The quick method alone says {quantity(feature.quick, feature.unit, unit)}.{/if}
					{#if feature.sag !== undefined && Math.abs(feature.sag) > 0.02 * Math.abs(feature.tolerance.upper)}<br />Of this
						{quantity(feature.sag, feature.unit, unit)} is the piece’s own weight as it lies (unwelded), {quantity(
							feature.predicted - feature.sag,
							feature.unit,
							unit
						)} the welds.{/if}
					{#if feature.springback !== undefined}<br />Springback when it is unclamped: {Math.abs(feature.springback) < 0.005
							? 'none that can be read'
							: `${feature.springback > 0 ? '+' : ''}${quantity(feature.springback, feature.unit, unit)}`} (by the {r.depth === 'full'
							? 'full'
							: 'quick'} method; {quantity(feature.moments.cold.predicted, feature.unit, unit)} while still held, cold).{/if}
					{#if feature.other !== undefined}In the other shape: {quantity(feature.other, feature.unit, unit)}.{/if}
				</p>
				{#if feature.caution}<p class="mt-1 text-[13px] text-straw-700">{feature.caution}</p>{/if}
				<div class="mt-2 h-40">
					<HistoryChart
						labels={frames.map((s) => s.label)}
						values={history}
						upper={feature.tolerance.upper}
						lower={feature.tolerance.lower}
						unit={feature.unit}
						at={step}
						onpick={(i) => (stepChosen = i)}
					/>
				</div>
				<h3 class="mt-2 text-[15px]">What moves it most</h3>
				<table class="w-full text-sm">
					<tbody>
						{#each influence as i (i.step)}
							<tr class="border-t border-steel-200"
								><td class="py-0.5"
									><button
										type="button"
										class="text-left hover:underline"
										title="Point at it to see what the piece did while it was laid"
										onmouseenter={() => (pointed = i.step)}
										onmouseleave={() => (pointed = undefined)}
										onfocus={() => (pointed = i.step)}
										onblur={() => (pointed = undefined)}
										onclick={() => {
											const k = frames.findIndex((s) => s.id === i.step);
											if (k >= 0) stepChosen = k;
										}}>{stepName(i.step)}</button
									></td
								><td class="w-20"
									><span class="block h-2 {i.value > 0 ? 'bg-straw-400' : 'bg-primary-400'}" style="width:{(100 * Math.abs(i.value)) / widest}%"
									></span></td
								><td class="tab w-24 text-right">{i.value > 0 ? '+' : ''}{quantity(i.value, feature.unit, unit)}</td></tr
							>
						{/each}
					</tbody>
				</table>
				{#if feature.bandParts?.length}
					<h3 class="mt-3 text-[15px]">What the band comes from</h3>
					<ul class="text-[13px]">
						{#each feature.bandParts as p (p.label)}
							<li class="flex justify-between gap-2 border-t border-steel-200 py-0.5">
								<span>{p.label}</span><span class="tab whitespace-nowrap"
									>{quantity(p.low, feature.unit, unit)} to +{quantity(p.high, feature.unit, unit)}</span
								>
							</li>
						{/each}
					</ul>
					{#if feature.errs !== undefined}<p class="mt-1 text-[13px] text-steel-600">
							The factors apart, {feature.errs.toFixed(2)} times as wide as the method says: so far have forecasts of this kind of feature erred in this
							shop.
						</p>{/if}
				{/if}
			</Panel>
		{/if}
		<HeatPanel />
		<Compare jobId={data.job.id} />
		<FullPanel />
		<Panel title="To the bench">
			{#if refusal}<div class="mb-2"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>
				{#if refusal.status === 422 && desk.mayEdit}<Button class="mb-2" size="sm" disabled={mending} onclick={mend}
						>{mending ? 'Putting it right…' : 'Put it right'}</Button
					>{/if}{/if}
			<p class="text-sm">
				{#if r.schedule}Arc {duration(r.schedule.arcS)}, weld-out about {duration(r.schedule.totalS)}, then {duration(r.schedule.coolToMeasureS)} to cool
					before measuring.{:else}Working out the heat…{/if}
			</p>
			{#if desk.state === 'issued'}<div class="mt-2">
					<Notice kind="done" title="Issued"
						>Revision {desk.revision} is frozen for the bench. The next change opens revision {desk.revision + 1}.</Notice
					>
				</div>
				<a class="mt-2 inline-block text-primary-700 underline" href="/jobs/{data.job.id}/weld-out">Go to the bench</a>
			{:else if desk.mayEdit}<Button class="mt-2" size="sm" disabled={issuing || !desk.doc.runs.length} onclick={issue}
					>Issue revision {desk.revision} to the bench</Button
				>{/if}
		</Panel>
		<ExportPanel job={data.job} result={r} shape={frame?.shape} label={frame?.label ?? 'Drawing'} />
		<details class="border-t-2 border-steel-700 bg-white px-4 py-3 text-sm">
			<summary class="cursor-pointer font-display text-[17px] font-semibold">How it was worked out</summary>
			<ul class="mt-2 list-disc pl-5 text-[13px]">
				<li>{r.size.freedoms} freedoms, {r.size.links} link rows, {r.size.megabytes.toFixed(0)} MB; triangles of {r.size.meshMm.toFixed(0)} mm.</li>
				<li>
					{(desk.forecastMs / 1000).toFixed(2)} s{r.reusedModel ? ', shape unchanged: the condensed model was used again' : ''}. {r.timings
						.map((t) => `${t.name} ${t.ms.toFixed(0)} ms`)
						.join('; ')}.
				</li>
				<li>Two routes to the same displacements differ by at most {r.consistencyMm.toExponential(1)} mm.</li>
				<li>Factors in force: {r.factors.map((f) => `${f.name} ${f.value.toFixed(2)} (${f.low.toFixed(2)} to ${f.high.toFixed(2)})`).join(', ')}.</li>
				{#if r.finalShape}<li>
						Final shape: {r.finalShape.iterations} rounds, {r.finalShape.posture}, largest force out of balance {r.finalShape.forceResidualN.toExponential(
							0
						)} N. Buckling factors of the welds’ pull: {r.finalShape.lowestFactors.map((f) => f.toFixed(2)).join(', ')}.
					</li>{/if}
				<li>
					Left out{r.depth === 'quick' ? ': buckling, contact, weight;' : ':'}
					{r.depth === 'hot' ? '' : 'what the arc does while it passes,'} sheet that is not flat to begin with. No measured weldment has been compared with
					this by its makers yet.
				</li>
				<li>
					Sources: arc energy EN 1011-1; metals at temperature EN 1993-1-2 and EN 1999-1-2; tendon force by strips (Okerblom 1958); shell triangles
					Batoz, Bathe, Ho 1980 and Felippa 2003 in a co-rotational frame (Felippa, Haugen 2005); buckling by subspace iteration (Bathe 1996).
				</li>
			</ul>
		</details>
	{:else}
		<Panel title="Forecast"
			><p class="text-sm text-steel-600">
				{desk.forecastMessage || 'The first forecast of a shape takes some seconds; edits after that follow at once.'}
			</p></Panel
		>
	{/if}
</Bench>
