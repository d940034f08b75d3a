<script lang="ts">
	/** A whole plan proposed beside the one there is: each decision a card, taken or left, and what they come to together. */
	import { onDestroy, onMount } from 'svelte';
	import { decided } from '$core/propose/decision';
	import { FLAVOURS, FLAVOUR_WORDS } from '$core/propose/flavour';
	import type { Proposal, SoFar } from '$core/propose/propose';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { goalsBody, keepGoals, keptGoals } from '$lib/order/goals';
	import GoalsPanel from '$lib/order/GoalsPanel.svelte';
	import { TaskOf } from '$lib/order/taskOf.svelte';
	import DecisionCard from '$lib/propose/DecisionCard.svelte';
	import ProposedFeatures from '$lib/propose/ProposedFeatures.svelte';
	import { Reweighed } from '$lib/propose/reweighed.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const uid = $props.id();
	const desk = getDesk();
	const unit = $derived(data.person?.units ?? 'mm');
	let goals = $state(keptGoals(desk.jobId));
	let done = $state('');
	const task = new TaskOf<SoFar, Proposal>(desk, 'proposal');
	onMount(() => void task.look());
	onDestroy(() => task.end());
	function start() {
		keepGoals(desk.jobId, $state.snapshot(goals));
		done = '';
		void task.start({ goals: goalsBody($state.snapshot(goals)) });
	}

	const proposal = $derived(task.result);
	let stop = $state(1);
	/** ids taken by hand, where they are not the slider's */
	let byHand = $state.raw<string[] | undefined>();
	const taken = $derived(byHand ?? proposal?.flavours[FLAVOURS[stop]].take ?? []);
	/** the slider's own sets have been through the final shape */
	const flavour = $derived(
		// two of them may be the same set
		[FLAVOURS[stop], ...FLAVOURS].find((f) => {
			const own = proposal?.flavours[f].take;
			return own && own.length === taken.length && own.every((id) => taken.includes(id));
		})
	);
	const chosen = $derived(proposal?.cards.filter((c) => taken.includes(c.id)) ?? []);
	const then = $derived(decided(desk.doc, chosen));
	const reweighed = new Reweighed((plan) => desk.compareWith(plan));
	$effect(() => {
		if (proposal && !flavour) reweighed.ask(then);
	});
	function toggle(id: string, on: boolean) {
		byHand = on ? [...taken, id] : taken.filter((x) => x !== id);
		done = '';
	}
	function adopt() {
		const ok = desk.change('the proposal', (d) => void Object.assign(d, structuredClone($state.snapshot(then))));
		done = ok ? `Taken over: ${chosen.length} decision${chosen.length === 1 ? '' : 's'}. Undo brings the plan back as it was.` : '';
	}
	const minutes = $derived(chosen.reduce((sum, c) => sum + c.gain.minutes, 0));
</script>

<div class="flex min-h-0 flex-1">
	<main id="main" class="relative min-w-0 flex-1 overflow-y-auto bg-white px-5 py-4">
		<h1 class="text-[21px]">Propose a plan</h1>
		<p class="max-w-[76ch] text-sm text-steel-700">
			Settings, root, hold-downs, presets, tacks, order and cooling, each by its own advisor and all of them forecast together to the final shape.
			Half a minute for a plate, some minutes for a tank with a lid. Nothing of the plan is changed before you take it over.
		</p>
		{#if desk.mayEdit && !task.isBusy}<Button class="mt-3 min-h-11" onclick={start} disabled={!desk.doc.features.length}
				>{proposal ? 'Propose again' : 'Propose'}</Button
			>{/if}
		{#if desk.mayEdit && desk.doc.features.length}
			<details class="mt-2 max-w-[76ch] text-sm">
				<summary class="inline-flex min-h-8 cursor-pointer items-center text-primary-700 underline">What counts, and how much</summary>
				<div class="mt-1 bg-steel-50"><GoalsPanel bind:goals order={false} /></div>
			</details>
		{/if}
		{#if !desk.mayEdit && !proposal}<p class="mt-3 text-sm">Nothing has been proposed for this plan yet: a planner asks for it.</p>{/if}
		{#if !desk.doc.features.length}<p class="mt-2 text-sm text-steel-700">Nothing must come true yet: name a feature on the Job page first.</p>{/if}
		<div class="mt-2 space-y-2" aria-live="polite">
			{#if task.isBusy}
				<p class="flex flex-wrap items-center gap-3 text-sm">
					<span>{task.task?.state === 'queued' ? 'Waiting for a worker' : (task.task?.partial?.phase ?? 'Starting')}</span>
					<progress class="h-2 w-48 accent-primary-600" max="1" value={task.task?.progress ?? 0} aria-label="Progress"></progress>
					<button type="button" class="text-primary-700 underline" onclick={() => task.stop()}>Stop, and show what there is</button>
				</p>
				<ul class="list-disc pl-5 text-sm text-steel-700">
					{#each task.task?.partial?.decided ?? [] as words (words)}<li>{words}</li>{/each}
				</ul>
			{/if}
			{#if task.message}<Notice kind="fault">{task.message}</Notice>{/if}
			{#if task.task?.state === 'failed'}<Notice kind="fault">{task.task.message}</Notice>{/if}
			{#if done}<Notice kind="done">{done}</Notice>{/if}
			{#if proposal && !task.isCurrent && !done}<Notice kind="caution"
					>This proposal is of an older state of the plan: propose again before you take it over.</Notice
				>{/if}
		</div>

		{#if proposal}
			<p class="mt-3 max-w-[76ch] font-medium">{proposal.words}</p>
			{#each proposal.unmet as u (u)}<div class="mt-2 max-w-[76ch]"><Notice kind="caution">{u}</Notice></div>{/each}
			{#if proposal.cards.length}
				<div class="mt-4 grid grid-cols-1 gap-5 lg:grid-cols-2">
					<section aria-labelledby="cards-{uid}">
						<h2 id="cards-{uid}" class="text-[17px]">Decisions</h2>
						<div class="mt-2 max-w-96">
							<label class="block text-sm text-steel-700" for="flavour-{uid}"
								>Between quickest and truest: <strong class="font-medium">{flavour ? FLAVOUR_WORDS[flavour].toLowerCase() : 'your own choice'}</strong
								></label
							>
							<input
								id="flavour-{uid}"
								type="range"
								class="h-11 w-full accent-primary-600"
								min="0"
								max="2"
								step="1"
								aria-valuetext={FLAVOUR_WORDS[FLAVOURS[stop]]}
								value={stop}
								oninput={(e) => {
									stop = Number(e.currentTarget.value);
									byHand = undefined;
									done = '';
								}}
							/>
							<div class="-mt-2 flex justify-between text-[12px] text-steel-600" aria-hidden="true">
								{#each FLAVOURS as f (f)}<span>{FLAVOUR_WORDS[f]}</span>{/each}
							</div>
						</div>
						<ul class="mt-3 space-y-2">
							{#each proposal.cards as card (card.id)}<li>
									<DecisionCard {card} {unit} taken={taken.includes(card.id)} disabled={!desk.mayEdit} onchange={(on) => toggle(card.id, on)} />
								</li>{/each}
						</ul>
					</section>
					<section aria-labelledby="values-{uid}">
						<h2 id="values-{uid}" class="text-[17px]">What they come to</h2>
						<ProposedFeatures
							{proposal}
							{unit}
							column={flavour && proposal.flavours[flavour].column}
							difference={flavour ? undefined : reweighed.features}
							isBusy={reweighed.isBusy}
							message={reweighed.message}
							minutes={flavour ? proposal.flavours[flavour].column.minutes : proposal.now.minutes + minutes}
						/>
						{#if desk.mayEdit}<Button class="mt-3 min-h-11" disabled={!chosen.length || !task.isCurrent} onclick={adopt}
								>Take over {chosen.length === proposal.cards.length ? 'all of it' : `${chosen.length} of ${proposal.cards.length}`}</Button
							>{/if}
						<p class="mt-2 text-[13px] text-steel-600">
							A proposal is a forecast and no procedure: your welding coordinator, your codes and a coupon come first.
						</p>
					</section>
				</div>
			{/if}
		{/if}
	</main>
</div>
