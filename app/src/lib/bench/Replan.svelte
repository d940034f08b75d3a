<script lang="ts">
	/** Where the piece will end from here, and ways on that end better; one of them may be taken over. */
	import { onMount, untrack } from 'svelte';
	import { quantity } from '$lib/units';
	import { ReplanWatch } from './replan.svelte';

	interface Props {
		piece: string;
		unit: 'mm' | 'in';
		/** a planner, or a welder where the plan lets them */
		mayTake: boolean;
		ontaken(): void;
	}
	let { piece, unit, mayTake, ontaken }: Props = $props();
	// taken once: the panel is made anew for another piece
	const watch = untrack(() => new ReplanWatch(piece));
	onMount(() => {
		void watch.ask();
		return () => watch.end();
	});
	const found = $derived(watch.found);
	let chosen = $state('');
	const isInside = (f: { upper: number; lower?: number }, v: number) => v <= f.upper && v >= (f.lower ?? -Infinity);
	const bare = (v: number, of: 'mm' | '°') => quantity(v, of, unit).replace(/ (mm|in)$/, '');
	const big = 'min-h-16 rounded-sm px-5 text-lg font-semibold disabled:bg-steel-300';
	async function take() {
		if (await watch.take(chosen)) ontaken();
	}
</script>

<h2 class="text-2xl">From here on</h2>
{#if watch.message}<p class="mt-2 border-l-4 border-plum-600 bg-plum-100 px-3 py-2 text-lg" role="alert">{watch.message}</p>{/if}
{#if watch.isBusy}
	<div class="mt-2 flex flex-wrap items-center gap-3 text-lg" role="status">
		<span class="min-w-0 flex-1 truncate">{watch.phase}</span>
		<progress class="h-2 w-32 accent-primary-600" max="1" value={watch.task?.progress ?? 0} aria-label="Worked out"></progress>
		<button type="button" class="min-h-14 border-2 border-steel-400 px-4" onclick={() => watch.stop()}>Stop</button>
	</div>
{/if}
{#if found}
	<p class="mt-2 text-lg text-steel-700">
		{found.laid} runs lie as they lie. {watch.isBusy ? '' : found.words}
		{#if found.stopped}Stopped before all was tried.{/if}
		By the quick method; “shape” is by the final shape, which knows waves. What was read as tacked is carried to the end.
	</p>
	<ul class="mt-3 space-y-3">
		{#each found.ways as w (w.id)}
			<li class="border-2 p-3 {chosen === w.id ? 'border-primary-700 bg-primary-50' : 'border-steel-300 bg-white'}">
				<div class="flex flex-wrap items-center gap-3">
					<p class="min-w-0 flex-1 text-xl font-semibold">{w.label}</p>
					{#if w.id !== 'as-planned' && mayTake && !watch.isBusy}
						<button
							type="button"
							class="min-h-14 border-2 border-steel-500 px-4 text-lg"
							aria-pressed={chosen === w.id}
							onclick={() => (chosen = chosen === w.id ? '' : w.id)}>{chosen === w.id ? 'Chosen' : 'Choose'}</button
						>
					{/if}
				</div>
				<table class="mt-1 w-full text-base">
					<thead class="text-left text-sm text-steel-600"
						><tr
							><th class="font-normal">Feature, {unit} or °</th><th class="text-right font-normal">ends</th><th class="text-right font-normal"
								>shape</th
							></tr
						></thead
					>
					<tbody>
						{#each found.features as f, k (f.id)}
							{@const e = w.ends[k]}
							<tr class="border-t border-steel-200"
								><td class="py-1 pr-2">{f.name}{f.offset === undefined ? '' : ' (read)'}</td><td class="tab text-right whitespace-nowrap"
									>{isInside(f, e.predicted) ? '' : '✕ '}{bare(e.predicted, f.unit)}
									<span class="text-steel-600">± {bare((e.high - e.low) / 2, f.unit)}</span></td
								><td class="tab pl-2 text-right whitespace-nowrap">{w.final && !w.final.words ? bare(w.final.values[k], f.unit) : '–'}</td></tr
							>
						{/each}
					</tbody>
				</table>
			</li>
		{/each}
	</ul>
	{#if chosen}
		<div class="sticky bottom-0 mt-3 border-t-2 border-steel-700 bg-white py-2">
			<button type="button" class="{big} bg-primary-700 text-white" disabled={watch.isTaking} onclick={take}
				>Go on by: {found.ways.find((w) => w.id === chosen)?.label}</button
			>
			<p class="mt-1 text-base text-steel-600">For this piece alone; what lies stays as it lies. The plan of the job is not changed.</p>
		</div>
	{:else if !mayTake && found.ways.length > 1}
		<p class="mt-3 text-lg">In this job a planner takes another way over: show it to one.</p>
	{/if}
{/if}
