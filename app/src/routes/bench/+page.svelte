<script lang="ts">
	import { refresh } from '$lib/refresh';
	import { followBench } from '$lib/desk/follow';
	import { SIGNER_WORDS } from '$core/document/words';
	import { duration } from '$lib/units';
	import { onMount } from 'svelte';

	let { data } = $props();
	let clock = $state(Date.now());
	/** ends of waits by the heat, as they are worked out, by piece and step */
	let byHeat = $state<Record<string, number | null>>({});
	$effect(() => {
		for (const p of data.pieces) void p.heatUntil?.then((ms) => (byHeat[`${p.id}/${p.stepId}`] = ms));
	});
	onMount(() => {
		const tick = setInterval(() => (clock = Date.now()), 1000);
		let due: ReturnType<typeof setTimeout> | undefined;
		// a burst of taps is one look
		const look = () => (due ??= setTimeout(() => ((due = undefined), void refresh('sarta:board')), 300));
		const unfollow = followBench(undefined, look);
		return () => {
			clearInterval(tick);
			clearTimeout(due);
			unfollow();
		};
	});
	const ago = (ms: number) => (ms < 60_000 ? 'just now' : `${duration(Math.floor(ms / 60_000) * 60).replace(/ 00 s$/, '')} ago`);
</script>

<svelte:head><title>At the bench · Sarta</title></svelte:head>

<main id="main" class="mx-auto max-w-[1600px] px-6 py-5">
	<div class="mb-4 flex flex-wrap items-baseline justify-between gap-3">
		<h1 class="text-3xl">At the bench</h1>
		<p class="text-steel-600">
			{data.pieces.length + data.more} begun and not handed over · <a class="text-primary-700 underline" href="/tablets">Tablets at the bench</a> ·
			<a class="text-primary-700 underline" href="/devices">Devices</a>
		</p>
	</div>
	{#if !data.pieces.length}
		<p class="border-t-2 border-steel-700 bg-white p-6 text-xl">
			Nothing is under the torch. A piece comes here when it is started at <a class="text-primary-700 underline" href="/jobs">its job’s bench</a>.
		</p>
	{/if}
	<ul class="grid gap-4 md:grid-cols-2 xl:grid-cols-3" aria-live="polite">
		{#each data.pieces as p (p.id)}
			{@const until = byHeat[`${p.id}/${p.stepId}`] ?? p.waitUntil}
			{@const wait = p.waitUntil === null || until === null ? undefined : (until - clock) / 1000}
			<li
				class="flex flex-col border-t-4 bg-white p-4 {p.problems.length
					? 'border-plum-600'
					: wait !== undefined
						? 'border-straw-600'
						: 'border-primary-700'}"
			>
				<div class="flex items-baseline justify-between gap-3">
					<a class="tab text-2xl font-semibold text-primary-800 underline" href="/jobs/{p.jobId}/weld-out?piece={p.id}">{p.serial}</a>
					<span class="truncate text-steel-600">{p.job}</span>
				</div>
				<p class="mt-2 text-xl leading-7 font-medium">
					{#if p.state === 'welded'}Welded: to be measured and handed over
					{:else if p.isPaused}Paused at: {p.step ?? 'the end'}
					{:else}{p.step ?? 'Every step is behind it: to be finished'}{/if}
				</p>
				{#if wait !== undefined && !p.isPaused}
					<p class="tab mt-1 text-2xl text-straw-700">{wait > 0 ? `waits ${duration(wait)}` : 'the wait is over'}</p>
				{/if}
				{#if p.signs}<p class="mt-2 border-l-4 border-straw-600 bg-straw-100 px-3 py-1 text-lg">Waits to be signed by {SIGNER_WORDS[p.signs]}</p>{/if}
				{#if wait !== undefined && wait > 0 && !p.isPaused}
					{@const fits = data.pieces.filter((x) => x.id !== p.id && x.workS !== null && x.workS <= wait && !x.isPaused && !x.problems.length)}
					{#if fits.length}
						<p class="mt-2 text-steel-700">
							Fits in the wait:
							{#each fits.slice(0, 2) as x, i (x.id)}{i ? '; ' : ''}<a class="text-primary-700 underline" href="/jobs/{x.jobId}/weld-out?piece={x.id}"
									>{x.serial}: {x.step}</a
								>{/each}
						</p>
					{/if}
				{/if}
				{#each p.problems as x, i (i)}
					<p class="mt-2 border-l-4 border-plum-600 bg-plum-100 px-3 py-1">
						<strong>Problem:</strong>
						{x.note} <span class="text-steel-600">({x.person})</span>
					</p>
				{/each}
				{#if p.left.length}<p class="mt-2 text-steel-700">Left for later: {p.left.join(', ')}</p>{/if}
				<div class="mt-auto pt-3">
					<progress class="h-2 w-full accent-primary-600" max={p.of} value={p.behind} aria-label="Steps behind {p.serial}"></progress>
					<p class="flex justify-between text-sm text-steel-600">
						<span>{p.behind} of {p.of} steps</span><span>{p.person}, {ago(clock - p.lastAt)}</span>
					</p>
				</div>
			</li>
		{/each}
	</ul>
	{#if data.more}
		<p class="mt-4 text-lg">
			{data.more} more were not touched for longer.
			{#if data.isAll}Hand over or archive what is done.{:else}<a class="text-primary-700 underline" href="/bench?all">Show all</a>{/if}
		</p>
	{/if}
</main>
