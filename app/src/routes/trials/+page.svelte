<script lang="ts">
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import NewTrial from './NewTrial.svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayPlan = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
</script>

<main id="main" class="mx-auto max-w-[1180px] px-6 py-6 max-sm:px-3">
	<div class="mb-1 flex flex-wrap items-baseline justify-between gap-3">
		<h1 class="text-2xl">Trials</h1>
		<p>
			<a class="text-primary-700 underline" href="/coupons">Coupons</a>,
			<a class="text-primary-700 underline" href="/learned">what the shop has learned</a>
		</p>
	</div>
	<p class="mb-4 max-w-3xl text-steel-700">
		The same coupon two, three or four ways that differ in one thing, welded in an order that chance makes. A trial says how large the difference is,
		how sure that is, and whether the forecast expected it.
	</p>
	<div class="grid grid-cols-1 gap-5 lg:grid-cols-[1.6fr_1fr]">
		{#if mayPlan}<NewTrial grades={data.grades} jobs={data.jobs} {unit} />{:else}<Panel title="A new trial"
				><Notice kind="caution">A planner makes a trial; weld and read it from its page.</Notice></Panel
			>{/if}
		<Panel title="Trials so far">
			{#if !data.trials.length}<p class="text-sm text-steel-600">None yet.</p>{/if}
			<ul class="text-sm">
				{#each data.trials as t (t.id)}
					<li class="border-t border-steel-200 py-2 first:border-t-0">
						<a class="text-primary-700 underline" href="/trials/{t.id}">{t.name}</a>
						<p class="text-[13px] text-steel-600">{t.ways.join(' against ')}; {t.pieces} coupons; {t.isConcluded ? 'concluded' : 'open'}</p>
					</li>
				{/each}
			</ul>
		</Panel>
	</div>
</main>
