<script lang="ts">
	/** The inverse question: what must be held, or set out of true, so that it comes out right. */
	import { onDestroy, onMount } from 'svelte';
	import { exceedance } from '$core/search/cost';
	import { applyChange, type HoldAdvice, type PlanChange } from '$core/search/levers';
	import type { PresetAdvice } from '$core/search/presets';
	import { unitOf } from '$core/features';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { goalsBody, keepGoals, keptGoals } from '$lib/order/goals';
	import GoalsPanel from '$lib/order/GoalsPanel.svelte';
	import OrderTabs from '$lib/order/OrderTabs.svelte';
	import { TaskOf } from '$lib/order/taskOf.svelte';
	import { quantity } from '$lib/units';
	import Notice from '$lib/ui/Notice.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let goals = $state(keptGoals(desk.jobId));
	let done = $state('');
	const holds = new TaskOf<{ phase: string }, HoldAdvice>(desk, 'hold-advice');
	const presets = new TaskOf<{ phase: string }, PresetAdvice>(desk, 'presets');
	onMount(() => {
		void holds.look();
		void presets.look();
	});
	onDestroy(() => {
		holds.end();
		presets.end();
	});
	function start(task: { start(ask: object): Promise<void> }) {
		keepGoals(desk.jobId, $state.snapshot(goals));
		done = '';
		void task.start({ goals: goalsBody($state.snapshot(goals)) });
	}
	function adopt(change: PlanChange, label: string) {
		const ok = desk.change(label, (d) => {
			const next = structuredClone(applyChange(d, $state.snapshot(change) as PlanChange));
			Object.assign(d, next);
		});
		done = ok ? `Taken over: ${label}. Undo brings the plan back as it was.` : '';
	}
	const feature = (id: string) => desk.doc.features.find((f) => f.id === id);
	const shown = (id: string, v: number) => {
		const f = feature(id);
		return f ? quantity(v, unitOf(f), unit) : v.toFixed(2);
	};
	const isOut = (id: string, v: number) => {
		const f = feature(id);
		return f ? Math.abs(exceedance(f, v)) > 1 : false;
	};
</script>

{#snippet values(features: { id: string; name: string }[], columns: { label: string; values: number[] }[])}
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div class="mt-2 overflow-x-auto" role="region" aria-label="Features with and without the change" tabindex="0">
		<table class="border-collapse text-sm">
			<thead>
				<tr class="border-b-2 border-steel-700 text-right">
					<th scope="col" class="py-1 pr-4 text-left">Feature</th>
					{#each columns as c (c.label)}<th scope="col" class="max-w-36 px-3 py-1 align-bottom font-medium">{c.label}</th>{/each}
				</tr>
			</thead>
			<tbody>
				{#each features as f, k (f.id)}
					<tr class="border-b border-steel-200">
						<th scope="row" class="py-1 pr-4 text-left font-normal">{f.name}</th>
						{#each columns as c (c.label)}<td class="tab px-3 py-1 text-right {isOut(f.id, c.values[k]) ? 'font-semibold text-plum-700' : ''}"
								>{isOut(f.id, c.values[k]) ? '✕ ' : ''}{shown(f.id, c.values[k])}</td
							>{/each}
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{/snippet}
{#snippet status(task: TaskOf<{ phase: string }, unknown>)}
	<div class="mt-2 space-y-2" aria-live="polite">
		{#if task.isBusy}
			<p class="flex items-center gap-3 text-sm">
				<span>{task.task?.state === 'queued' ? 'Waiting for a worker' : (task.task?.partial?.phase ?? 'Starting')}</span>
				<progress class="h-2 w-48 accent-primary-600" max="1" value={task.task?.progress ?? 0} aria-label="Progress"></progress>
				<button type="button" class="text-primary-700 underline" onclick={() => task.stop()}>Stop</button>
			</p>
		{/if}
		{#if task.message}<Notice kind="fault">{task.message}</Notice>{/if}
		{#if task.task?.state === 'failed'}<Notice kind="fault">{task.task.message}</Notice>{/if}
		{#if task.result && !task.isCurrent}<Notice kind="caution">This answer is of an older state of the plan.</Notice>{/if}
	</div>
{/snippet}

<OrderTabs jobId={desk.jobId} />
<div class="relative flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
	<main id="main" class="relative min-w-0 flex-1 bg-white max-md:flex-none md:overflow-y-auto">
		{#if done}<div class="px-4 pt-3"><Notice kind="done">{done}</Notice></div>{/if}
		<section class="px-4 py-3" aria-labelledby="holds-title">
			<h2 id="holds-title" class="text-[17px]">What to hold</h2>
			<p class="max-w-[76ch] text-sm text-steel-700">
				The smallest set found of bars, clamps, stiffeners and lower heat that brings every feature inside its limit. All candidates stand in one
				mesh, so its quick values differ a little from the strip's.
			</p>
			{#if desk.mayEdit && !holds.isBusy}<Button class="mt-2" size="sm" onclick={() => start(holds)}
					>{holds.result ? 'Look again' : 'Look for hold-downs'}</Button
				>{/if}
			{@render status(holds as TaskOf<{ phase: string }, unknown>)}
			{#if holds.result}
				{@const r = holds.result}
				<p class="mt-2 max-w-[76ch] text-sm font-medium">{r.words}</p>
				{#if r.steps.length}
					<ol class="mt-2 max-w-[76ch] list-decimal space-y-1.5 pl-5 text-sm">
						{#each r.steps as s, i (s.lever.id)}
							<li>
								{s.lever.label}
								<span class="text-steel-600">(alone, what counts falls by {s.lever.gain.toFixed(2)})</span>
								{#if desk.mayEdit && holds.isCurrent}<button
										type="button"
										class="ml-1 text-primary-700 underline"
										onclick={() => adopt(s.lever.change, s.lever.label.toLowerCase())}>Take over step {i + 1} alone</button
									>{/if}
							</li>
						{/each}
					</ol>
					{@render values(r.features, [
						{ label: 'As planned', values: r.before },
						...(r.final
							? [
									{ label: 'With all, quick', values: r.steps[r.steps.length - 1].values },
									{ label: 'As planned, final shape', values: r.final.before },
									{ label: 'With all, final shape', values: r.final.after }
								]
							: r.steps.map((s, i) => ({ label: `With step ${i + 1} alone`, values: s.values })))
					])}
					{#if r.final?.words}<p class="mt-1 text-sm text-plum-700">{r.final.words}</p>{/if}
					{#if desk.mayEdit && holds.isCurrent && (r.change.holdDowns?.length || r.change.currentFactor)}<Button
							class="mt-3"
							size="sm"
							onclick={() => adopt(r.change, 'the whole set of hold-downs')}>Take over the whole set</Button
						>{/if}
				{/if}
			{/if}
		</section>
		<section class="border-t-2 border-steel-700 px-4 py-3" aria-labelledby="presets-title">
			<h2 id="presets-title" class="text-[17px]">What to set out of true</h2>
			<p class="max-w-[76ch] text-sm text-steel-700">Over-angles of the joints, as small as do it, so that the piece pulls true.</p>
			{#if desk.mayEdit && !presets.isBusy}<Button class="mt-2" size="sm" onclick={() => start(presets)}
					>{presets.result ? 'Solve again' : 'Solve for presets'}</Button
				>{/if}
			{@render status(presets as TaskOf<{ phase: string }, unknown>)}
			{#if presets.result}
				{@const r = presets.result}
				<p class="mt-2 max-w-[76ch] text-sm font-medium">{r.words}</p>
				{#if r.joints.length}
					<ul class="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-sm">
						{#each r.joints as j (j.joint)}<li>
								{j.name}: <span class="tab font-semibold">{j.toDeg.toFixed(2)}°</span>{j.fromDeg ? ` (now ${j.fromDeg.toFixed(2)}°)` : ''}
							</li>{/each}
					</ul>
					{@render values(r.features, [
						{ label: 'As planned', values: r.before },
						{ label: 'With presets, quick', values: r.after },
						...(r.final
							? [
									{ label: 'As planned, final shape', values: r.final.before },
									{ label: 'With presets, final shape', values: r.final.after }
								]
							: [])
					])}
					{#if desk.mayEdit && presets.isCurrent}<Button class="mt-3" size="sm" onclick={() => adopt(r.change, 'the presets')}
							>Take over the presets</Button
						>{/if}
				{/if}
			{/if}
		</section>
		<p class="px-4 pb-4 text-[13px] text-steel-600">
			A preset is only as good as the angle forecast behind it: pull a coupon first. Clamps on a tank that is also purged need a way out for the gas.
		</p>
	</main>
	<aside class="relative w-[372px] shrink-0 space-y-0.5 bg-steel-100 max-md:w-full md:overflow-y-auto" aria-label="Goals">
		<GoalsPanel bind:goals order={false} />
	</aside>
</div>
