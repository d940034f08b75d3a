<script lang="ts">
	import { call, type Refusal } from '$lib/call';
	import { refresh } from '$lib/refresh';
	import { quantity } from '$lib/units';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import Photographs from '$lib/ui/Photographs.svelte';
	import { Button, Label, Textarea } from 'flowbite-svelte';
	import TrialForPlans from './TrialForPlans.svelte';
	import TrialResult from './TrialResult.svelte';

	let { data } = $props();
	const uid = $props.id();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayPlan = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	const trial = $derived(data.trial);
	const isDone = (p: { state: string }) => p.state === 'welded' || p.state === 'handed-over';
	/** the first, in the order that chance made, that is not welded; and what is welded and not read */
	const next = $derived(data.pieces.find((p) => !isDone(p)));
	const unread = $derived(data.pieces.filter((p) => isDone(p) && !Object.keys(p.values).length));
	const outOfTurn = $derived.by(() => {
		const at = data.pieces.flatMap((p) => (p.weldedAt === undefined ? [] : [p.weldedAt]));
		return at.some((t, i) => i > 0 && t < at[i - 1]);
	});
	const photographs = $derived(
		data.pieces.flatMap((p) =>
			p.photographs.map((f) => {
				const href = `/api/pieces/${p.id}/photographs/${f.clientId}`;
				return { ...f, title: `${p.serial}, ${trial.ways[p.way].name}: ${f.title}`, href, small: `${href}?small` };
			})
		)
	);
	let conclusion = $state('');
	let busy = $state(false);
	let refusal = $state<Refusal | undefined>();
	async function conclude() {
		busy = true;
		const r = await call('POST', `/api/trials/${trial.id}/conclude`, { conclusion: conclusion.trim() });
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await refresh();
		busy = false;
	}
	const says = (p: (typeof data.pieces)[number]) =>
		p.out
			? `left out: ${p.out}`
			: [
					isDone(p) ? (Object.keys(p.values).length ? 'read' : 'welded, to be read cold') : p.state === 'in-hand' ? 'at the bench' : 'waiting',
					...(p.surface.length ? [p.surface.join(', ').toLowerCase()] : []),
					...(p.minutes ? [`${p.minutes} min of putting right`] : []),
					...p.notes
				].join('; ');
</script>

<main id="main" class="mx-auto max-w-[980px] space-y-4 px-6 py-5 max-sm:px-3">
	<div>
		<p class="text-sm print:hidden"><a class="text-primary-700 underline" href="/trials">Trials</a></p>
		<h1 class="text-2xl">{trial.name}</h1>
		<p class="text-steel-700">
			{trial.coupon}: {trial.ways.map((w) => w.name).join(' against ')}. They differ in {trial.differs} and in nothing else. A difference of {quantity(
				trial.matters,
				trial.unit,
				unit
			)} in “{trial.feature}” would matter. Made by {trial.person}, {trial.createdAt.toLocaleDateString()}.
		</p>
	</div>
	{#if refusal}<Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice>{/if}

	<Panel title="What it says so far">
		{#await data.results}
			<p class="text-sm text-steel-600" role="status">
				Readings are being compared; what the forecast expects of each way takes a while the first time.
			</p>
		{:then { rows, silent }}
			{#if silent.length}<div class="mb-3">
					<Notice kind="caution">No forecast could be made of every way, so nothing is said of what was expected. {silent.join('. ')}.</Notice>
				</div>{/if}
			{#each rows as r, i (r.feature)}<TrialResult result={r} ways={trial.ways.map((w) => w.name)} matters={i ? 0 : trial.matters} {unit} />{/each}
			<p class="mt-3 text-[12px] text-steel-600">
				Bands hold 90 %. Round by round where every round has both (Student), else each with a scatter of its own (Welch); chance is for all pairs of
				ways looked at (Bonferroni). <a class="text-primary-700 underline print:hidden" href="/api/trials/{trial.id}/readings.csv" download
					>Every reading (CSV)</a
				>
			</p>
		{:catch}<Notice kind="fault">The readings could not be compared: reload the page.</Notice>{/await}
	</Panel>

	<Panel title="Coupons, in the order they are welded">
		{#if next}
			<p class="text-sm">
				Chance made this order, one of each way in every round: keep to it, then a day that gets warmer takes from all ways alike. Same sheet, same
				hand, same instrument.
			</p>
			<Button class="mt-2 mb-3 min-h-14 w-full sm:w-auto print:hidden" href="/jobs/{trial.ways[next.way].job}/weld-out?piece={next.id}"
				>{next.state === 'waiting' ? 'Weld' : 'Go on with'} {next.serial}: {trial.ways[next.way].name}</Button
			>
		{/if}
		{#if unread.length}<p class="mb-2 text-sm">
				To be read: {#each unread as p, i (p.id)}{i ? ', ' : ''}<a
						class="text-primary-700 underline"
						href="/coupons/{trial.ways[p.way].job}?piece={p.id}">{p.serial}</a
					>{/each}.
			</p>{/if}
		{#if outOfTurn}<div class="mb-2">
				<Notice kind="caution">Not all were welded in this order: what went on through the day may lie in the difference.</Notice>
			</div>{/if}
		<div class="overflow-x-auto">
			<table class="w-full text-sm">
				<thead
					><tr class="text-left text-steel-600"
						><th class="py-1 pr-3 font-medium">Round</th><th class="pr-3 font-medium">Piece</th><th class="pr-3 font-medium">Way</th><th
							class="pr-3 font-medium">Stands</th
						><th class="font-medium"><span class="sr-only">Open</span></th></tr
					></thead
				>
				<tbody>
					{#each data.pieces as p (p.id)}
						<tr class="border-t border-steel-200">
							<td class="tab py-1.5 pr-3">{p.round + 1}</td>
							<td class="tab pr-3">{p.serial}</td>
							<td class="pr-3">{trial.ways[p.way].name}</td>
							<td class="pr-3 {p.out ? 'text-straw-800' : ''}">{says(p)}</td>
							<td class="text-right print:hidden"
								><a class="inline-flex min-h-11 items-center text-primary-700 underline" href="/coupons/{trial.ways[p.way].job}?piece={p.id}"
									>Open<span class="sr-only"> {p.serial}</span></a
								></td
							>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	</Panel>

	{#if photographs.length}
		<Panel title="Photographs"><Photographs {photographs} /></Panel>
	{/if}

	<Panel title="What it means for the plans">
		{#await data.jobs}<p class="text-sm text-steel-600" role="status">Open jobs are being looked through.</p>
		{:then jobs}<TrialForPlans trial={trial.id} ways={trial.ways.map((w) => w.name)} {jobs} {mayPlan} />
		{:catch}<Notice kind="fault">The open jobs could not be looked through: reload the page.</Notice>{/await}
	</Panel>

	<Panel title="What the shop takes from it">
		{#if trial.conclusion}
			<p class="whitespace-pre-line">{trial.conclusion}</p>
			<p class="mt-1 text-[13px] text-steel-600">{trial.concluder}, {trial.concludedAt?.toLocaleDateString()}</p>
		{:else if mayPlan}
			<form
				class="print:hidden"
				onsubmit={(e) => {
					e.preventDefault();
					void conclude();
				}}
			>
				<Label for="c-{uid}" class="mb-1 text-steel-700">In your own words; kept as it is, once</Label>
				<Textarea id="c-{uid}" rows={3} maxlength={2000} class="w-full" bind:value={conclusion} />
				<Button type="submit" size="sm" class="mt-2 min-h-11" disabled={busy || !conclusion.trim()}>Conclude the trial</Button>
			</form>
		{:else}<p class="text-sm text-steel-600">Not concluded yet.</p>{/if}
	</Panel>
</main>
