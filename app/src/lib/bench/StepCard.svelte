<script lang="ts">
	/** The step in hand: picture, title, what to do, on which length, with which settings. */
	import { pointing, type AtHand } from '$core/draw/svg';
	import { UP_WORDS, type Up } from '$core/layout/positions';
	import { seamLetters } from '$core/layout/seamNames';
	import { currentWords, rampWords } from '$core/weldout/currentWords';
	import { fillerOf } from '$core/weldout/fillerWords';
	import type { StepNow } from '$core/weldout/logbook';
	import type { Ahead } from '$core/hot/ahead';
	import { aheadWords } from '$core/weldout/aheadWords';
	import { movedWords, type Moved } from '$core/weldout/moves';
	import { stepLines } from '$core/weldout/stepWords';
	import { stepHelp } from '$core/weldout/stepHelp';
	import MetalRead from './MetalRead.svelte';
	import RunTape from '$lib/seam-tape/RunTape.svelte';
	import PiecePicture from '$lib/ui/PiecePicture.svelte';
	import { duration, length, quantity } from '$lib/units';
	import type { BenchPlanView } from './view';

	interface Props {
		now: StepNow;
		view: BenchPlanView;
		unit: 'mm' | 'in';
		/** the side of the piece that is up */
		lies: Up;
		/** s, of a wait */
		left?: number;
		/** the wait is worked out from what was really laid and when */
		isByHeat?: boolean;
		/** it falls to the limit by itself within four hours */
		isLimitReached?: boolean;
		/** s until it is cool enough to be measured */
		coolIn?: number;
		/** s until what holds it may come off; until it may be filled */
		unclampIn?: number;
		fillIn?: number;
		/** what this run moves, once it is known */
		moved?: readonly Moved[];
		/** its edges part ahead of the arc */
		ahead?: Ahead;
		measureHref: string;
		/** the metal was read: absent where whoever looks may not log */
		onmetal?: (metalC: number, instrument: string) => void;
	}
	let {
		now,
		view,
		unit,
		lies,
		left,
		isByHeat = false,
		isLimitReached = true,
		coolIn,
		unclampIn,
		fillIn,
		moved,
		ahead,
		measureHref,
		onmetal
	}: Props = $props();
	const step = $derived(now.step);
	const plan = $derived(view.plan);
	const settings = $derived(step.kind === 'run' ? plan.settings.find((s) => s.id === step.settings) : undefined);
	const joint = $derived('joint' in step ? plan.joints.find((j) => j.id === step.joint) : undefined);
	// a tack with filler takes what its seam's settings name, also where the run itself is fused
	const tackFiller = $derived(step.kind === 'tack' ? plan.settings.find((s) => s.id === joint?.settings)?.fillerGrade : undefined);
	/** a hold-down on a part has a picture of its own: no seam says where it goes */
	const spot = $derived(step.kind === 'hold' && !step.picture ? view.holds[step.holdDown] : undefined);
	const drawing = $derived(view.pictures[step.picture ?? spot?.picture ?? '']);
	const letters = $derived(seamLetters(plan.joints));
	/** what is still to be laid of a run */
	const stretch = $derived(step.kind === 'run' ? (now.rest?.[0] ?? [step.fromMm, step.toMm]) : undefined);
	const hand = $derived.by((): AtHand => {
		if (step.kind === 'run' && stretch) return { joint: step.joint, run: { fromMm: stretch[0], toMm: stretch[1] } };
		if (step.kind === 'tack' || step.kind === 'grind') return { joint: step.joint, marks: step.stations };
		const held = step.kind === 'hold' ? plan.holdDowns.find((h) => h.id === step.holdDown) : undefined;
		if (held && 'joint' in held) return { joint: held.joint, marks: 'stationMm' in held ? [held.stationMm] : [held.fromMm, held.toMm] };
		if (spot) return pointing(spot);
		return joint ? { joint: joint.id } : { letters: true };
	});
	const bare = (mm: number) => length(mm, unit, 1).replace(/ (mm|in)$/, '');
	const signed = (v: number, u: 'mm' | '°') => `${v > 0 ? '+' : ''}${quantity(v, u, unit)}`;
	const help = $derived([...stepHelp(step), ...(step.kind === 'run' && moved ? [movedWords(moved, signed)] : [])]);
	let isHelpOpen = $state(false);
</script>

<div class="grid gap-x-6 gap-y-2 md:grid-cols-[minmax(0,1fr)_auto]">
	<h1 class="min-w-0 text-[28px] leading-8 break-words md:text-[34px] md:leading-10">
		{#if joint}<span class="mr-2 inline-block border-2 border-steel-800 px-2 text-[28px] leading-9" title="the seam’s letter, as on the sheets"
				>{letters.get(joint.id)}</span
			>{/if}{step.title}
	</h1>
	{#if drawing}<div class="md:row-span-2 md:w-[420px] max-md:[&_svg]:h-32 max-md:[&_svg]:w-auto">
			<PiecePicture
				{drawing}
				{hand}
				label={joint ? `The piece as it lies, with seam ${letters.get(joint.id)} lit; the square is its zero end` : 'The piece as it lies'}
				width={420}
				height={240}
			/>
		</div>{/if}
	<!-- below the title also where no picture stands beside it -->
	<div class="min-w-0 md:col-start-1">
		{#if step.kind === 'tack'}
			<p class="text-xl text-steel-700">
				{step.stations.length} tacks of {length(step.lengthMm, unit, 0)}, {step.fusionOnly
					? 'fusion only'
					: `with filler${tackFiller ? ` ${tackFiller}` : ''}`}, in this order from the datum end:
			</p>
			<ol class="tab mt-3 flex flex-wrap gap-3 text-[30px] font-semibold">
				{#each step.stations as s, i (i)}<li class="border-2 border-steel-300 px-4 py-2">{bare(s)}</li>{/each}
			</ol>
			{#if joint}<div class="mt-4"><RunTape {joint} tacks={step.stations} {unit} /></div>{/if}
		{:else if step.kind === 'run' && stretch}
			{#if step.lies !== lies}<p class="mb-2 border-l-4 border-straw-600 bg-straw-100 px-3 py-2 text-xl">
					First lay the piece {UP_WORDS[step.lies]}: out of its turn, this run has no step of its own for it.
				</p>{/if}
			{#if ahead}<p class="mb-2 border-l-4 border-straw-600 bg-straw-100 px-3 py-2 text-xl">{aheadWords(ahead, unit)}</p>{/if}
			{#if now.rest}<p class="text-xl text-straw-700">The rest of this run:</p>{/if}
			<p class="tab text-[33px] leading-none font-semibold md:text-[56px]">
				{bare(stretch[0])} <span class="text-straw-600">→</span>
				{length(stretch[1], unit, 1)}
			</p>
			{#if joint}<div class="mt-4"><RunTape {joint} from={stretch[0]} to={stretch[1]} {unit} /></div>{/if}
			{#if settings}
				<dl class="mt-4 grid grid-cols-2 gap-x-6 gap-y-2 sm:flex sm:flex-wrap sm:gap-x-10">
					{#each [['Current', currentWords(settings)], ['Start and finish', rampWords(settings) ?? 'as the machine is set'], ['Speed', `${settings.speedMmPerS} mm/s`], ['Arc time', `${(Math.abs(stretch[1] - stretch[0]) / settings.speedMmPerS).toFixed(0)} s`], ['Filler', joint ? fillerOf(joint, settings) : '–'], ['Gas', `${settings.gasLPerMin} L/min`], ['Post-flow', settings.postFlowS === undefined ? '–' : `${settings.postFlowS} s`], ...(settings.source ? [['Machine', settings.source]] : [])] as [k, v] (k)}
						<div class="min-w-0">
							<dt class="text-base text-steel-600">{k}</dt>
							<dd class="tab text-[22px] leading-7 font-semibold md:text-[28px] md:leading-8">{v}</dd>
						</div>
					{/each}
				</dl>
			{/if}
			<p class="mt-3 text-lg text-steel-700">Metal at the start should be about {step.startC.toFixed(0)} °C.</p>
		{:else if step.kind === 'wait'}
			<p class="tab mt-2 text-[46px] leading-none font-semibold whitespace-nowrap md:text-[84px]" role="timer" aria-label="Time left">
				{left === undefined ? duration(step.seconds) : duration(left)}
			</p>
			{#if isByHeat && !isLimitReached}<p class="mt-2 border-l-4 border-straw-600 bg-straw-100 px-3 py-2 text-xl">
					By itself it does not fall to the limit within four hours: cool it, or ask the planner.
				</p>{/if}
			<p class="mt-3 text-xl">
				{left === 0
					? 'Time is up. Feel with a thermometer, not a hand.'
					: isByHeat
						? 'Worked out from the arcs as they were laid. A reading corrects it.'
						: 'An estimate from the heat put in: a contact thermometer decides.'}
			</p>
			{#if onmetal && step.id !== 'wait:purge'}<MetalRead
					{plan}
					step={step.id}
					instruments={view.shop.instruments.metalC ?? []}
					onread={onmetal}
				/>{/if}
		{:else if step.kind === 'measure'}
			{#if coolIn}<p class="mb-2 border-l-4 border-straw-600 bg-straw-100 px-3 py-2 text-xl">
					Still warm: about {duration(coolIn)} until what is read is what it will be.
				</p>{/if}
			{#if fillIn}<p class="mb-2 text-lg text-steel-700">Not filled with water before {duration(fillIn)} from now.</p>{/if}
			<p class="text-xl text-steel-700">
				{step.features.length === 1 ? 'One feature' : `${step.features.length} features`} to read now, then come back here:
			</p>
			<ul class="mt-2 list-disc space-y-1 pl-6 text-xl">
				{#each step.features as id (id)}<li>{plan.features.find((f) => f.id === id)?.name}</li>{/each}
			</ul>
			<a class="mt-4 inline-flex min-h-16 items-center rounded-sm border-2 border-primary-700 px-6 text-xl text-primary-800" href={measureHref}
				>Open Measure</a
			>
		{:else}
			{#if unclampIn}<p class="mb-2 border-l-4 border-straw-600 bg-straw-100 px-3 py-2 text-xl">
					Still hot: about {duration(unclampIn)} until a hand may stay on it. What comes off before then lets it spring further.
				</p>{/if}
			{#each stepLines(step, plan, (mm) => length(mm, unit, 1)) as line, i (i)}
				<p class="mt-1 {i === 0 && step.kind !== 'look' ? 'text-2xl' : 'text-xl text-steel-700'}">{line}</p>
			{:else}
				<p class="mt-1 text-xl text-steel-700">Look, then confirm.</p>
			{/each}
		{/if}
		{#if help.length}
			<details class="mt-3 text-lg" bind:open={isHelpOpen}>
				<summary class="flex min-h-14 cursor-pointer items-center text-primary-700 underline">What to look for</summary>
				<ul class="list-disc space-y-1 pl-6 text-steel-800">
					{#each help as line (line)}<li>{line}</li>{/each}
				</ul>
			</details>
		{/if}
	</div>
</div>
