<script lang="ts">
	import type { PlanDocument } from '$core/document/schema';
	import { EXERCISE_IDS } from '$core/practice/ids';
	import { lessonWords, MOST, type Outcome } from '$core/practice/outcome';
	import type { Choices } from '$core/practice/tools';
	import { call, type Refusal } from '$lib/call';
	import { refresh } from '$lib/refresh';
	import { quantity } from '$lib/units';
	import NumberField from '$lib/ui/NumberField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Radio } from 'flowbite-svelte';
	import Moves from './Moves.svelte';
	import PracticePlan from './PracticePlan.svelte';

	let { data } = $props();
	const uid = $props.id();
	const e = $derived(data.exercise);
	const unit = $derived(data.person?.units ?? 'mm');
	const show = (v: number) => quantity(v, e.about.unit, unit);
	let way = $state('');
	let value = $state<number | undefined>();
	let choices = $state<Choices>({});
	let busy = $state(false);
	let refusal = $state<Refusal | undefined>();
	let done = $state.raw<{ outcome: Outcome; score: number; plans: PlanDocument[] } | undefined>();
	let shown = $state(0);
	const outcome = $derived(done?.outcome);
	async function weld() {
		busy = true;
		const guess = { ...(way === 'alike' ? {} : { way: Number(way) }), value };
		const r = await call<NonNullable<typeof done>>('POST', `/api/practice/${e.id}`, { guess, choices });
		busy = false;
		refusal = r.ok ? undefined : r.refusal;
		if (!r.ok) return;
		done = r.data;
		shown = 0;
		await refresh();
	}
	const rows = $derived(outcome ? [outcome.own, ...outcome.ways] : []);
	const limit = $derived(e.plan.features.find((f) => f.id === e.about.id)!.tolerance.upper);
	const named = (w: Outcome['least']) => (w === 'alike' ? 'no difference that a reading would tell' : `“${e.ways[w]}”`);
</script>

<main id="main" class="mx-auto max-w-[1180px] px-6 py-5 max-sm:px-3">
	<p class="text-sm"><a class="text-primary-700 underline" href="/practice">Practice bench</a></p>
	<h1 class="text-2xl">{EXERCISE_IDS.indexOf(e.id) + 1}. {e.title}</h1>
	<p class="mb-4 text-steel-700">
		{e.piece}
		{Math.round(e.seamMm)} mm of seam. Looked at: <strong class="font-medium">{e.about.name}</strong>, within {show(limit)}.
	</p>
	{#if refusal}<div class="mb-3"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
	<div class="grid grid-cols-1 gap-5 lg:grid-cols-2">
		<div class="space-y-4">
			<Panel title="1. Guess first">
				<fieldset>
					<legend class="mb-1 text-sm text-steel-700">Which way leaves least?</legend>
					{#each e.ways as name, i (i)}<div class="flex min-h-11 items-center">
							<Radio name="way-{uid}" value={String(i)} bind:group={way}>{name}</Radio>
						</div>{/each}
					<div class="flex min-h-11 items-center">
						<Radio name="way-{uid}" value="alike" bind:group={way}>No difference that a reading would tell</Radio>
					</div>
				</fieldset>
				<div class="mt-2 max-w-72">
					<NumberField
						label="“{e.ways[0]}” comes to"
						{value}
						unit={e.about.unit}
						min={-500}
						max={500}
						hint="from the drawing; minus is narrower, or closed"
						onchange={(v) => (value = v)}
					/>
				</div>
			</Panel>
			<Panel title="2. Plan it better">
				<PracticePlan tools={e.tools} tacks={e.tacks} tackOrders={e.tackOrders} orders={e.orders} bind:choices />
				<Button class="mt-3 min-h-14" disabled={busy || !way || value === undefined} onclick={weld}
					>{busy ? 'Every way is being welded…' : done ? 'Weld it again' : 'Weld it'}</Button
				>
				<!-- always a line: what comes and goes here would move the page under a finger -->
				<p class="mt-1 text-sm text-steel-600" role="status">
					{!way || value === undefined
						? 'A guess comes first: both of its lines.'
						: 'Each way is worked out to its final shape: half a minute, or more the first time.'}
				</p>
			</Panel>
		</div>
		<div class="space-y-4">
			<Panel title="3. See it move">
				{#if done}
					<fieldset class="mb-2 flex flex-wrap gap-2">
						<legend class="sr-only">Shown</legend>
						{#each rows as r, i (i)}<button
								type="button"
								class="min-h-11 rounded-sm border px-3 text-sm {shown === i ? 'border-steel-800 bg-steel-800 text-white' : 'border-steel-300'}"
								aria-pressed={shown === i}
								onclick={() => (shown = i)}>{r.name}</button
							>{/each}
					</fieldset>
				{/if}
				<Moves plan={done?.plans[shown] ?? e.plan} label={done ? rows[shown].name : e.title} />
			</Panel>
			{#if outcome}
				<Panel title="4. What came of it: {done!.score} of 100">
					<table class="w-full text-sm">
						<thead
							><tr class="text-left text-steel-600"
								><th class="py-1 font-medium">Way</th><th class="font-medium">{e.about.name}</th><th class="font-medium">Minutes</th><th
									class="font-medium"
									title="each feature by how far it lies off, squared, 1 at its limit">All features</th
								></tr
							></thead
						>
						<tbody>
							{#each rows as r, i (i)}<tr class="border-t border-steel-200 {i ? '' : 'bg-straw-50'}">
									<td class="py-1.5 pr-3">{r.name}</td><td class="tab pr-3">{show(r.values[outcome.about])}</td><td class="tab pr-3"
										>{r.minutes.toFixed(1)}</td
									><td class="tab">{r.cost.toFixed(2)}{r.cost <= outcome.best * 1.0001 ? ' ✓ best so far' : ''}</td></tr
								>{/each}
						</tbody>
					</table>
					<ul class="mt-3 space-y-1 text-sm">
						<li>Which leaves least: {named(outcome.least)}. {outcome.marks.which ? '✓' : '✕'} {outcome.marks.which} of {MOST.which}</li>
						<li>
							How far: you said {value === undefined ? '–' : show(value)}, it came {show(outcome.ways[0].values[outcome.about])}. {outcome.marks
								.howFar} of {MOST.howFar}
						</li>
						<li>Your plan against the best found, all features together: {Math.round(outcome.marks.plan)} of {MOST.plan}</li>
					</ul>
					<p class="mt-3 text-sm">
						<strong class="font-medium">The trade says:</strong>
						{e.trade} <span class="text-steel-600">(common practice, no source)</span>
					</p>
					<p class="mt-1 text-sm"><strong class="font-medium">Here:</strong> {lessonWords(outcome, e.expects, show)}</p>
					<p class="mt-1 text-sm"><strong class="font-medium">Why:</strong> {e.why}</p>
					{#if data.next}<p class="mt-3">
							<a class="text-primary-700 underline" href="/practice/{data.next.id}" data-sveltekit-reload>Next: {data.next.title}</a>
						</p>{/if}
				</Panel>
			{/if}
			{#if data.attempts.length}
				<Panel title="Your attempts">
					<ul class="text-sm">
						{#each data.attempts as a (a.createdAt.getTime())}<li class="flex justify-between border-t border-steel-200 py-1.5 first:border-t-0">
								<span>{a.createdAt.toLocaleString()}: {show(a.outcome.own.values[a.outcome.about])}</span><span class="tab">{a.score} of 100</span>
							</li>{/each}
					</ul>
				</Panel>
			{/if}
		</div>
	</div>
</main>
