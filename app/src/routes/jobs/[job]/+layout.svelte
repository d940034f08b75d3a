<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { afterNavigate, beforeNavigate } from '$app/navigation';
	import { refresh } from '$lib/refresh';
	import { page } from '$app/state';
	import { contextOf } from '$core/learn/context';
	import { PlanDesk, setDesk } from '$lib/desk/plan-desk.svelte';
	import ConflictPanel from '$lib/desk/ConflictPanel.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import StageRail from '$lib/ui/StageRail.svelte';

	let { data, children } = $props();
	// one desk for all stages of this job; another job is another page load of this layout (keyed below by its id)
	// svelte-ignore state_referenced_locally
	const desk = new PlanDesk(data.job.id, data.plan, data.factors, data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	setDesk(desk);
	// the factors in force may change under an open page: adopted on Learn, or another material or process chosen
	const factorKey = $derived(JSON.stringify(contextOf(desk.doc)));
	let readFor = untrack(() => factorKey);
	$effect(() => {
		if (desk.saving !== 'saved' || factorKey === readFor) return;
		readFor = factorKey;
		void refresh('sarta:job');
	});
	$effect(() => {
		const { factors } = data;
		untrack(() => desk.useFactors(factors));
	});
	onMount(() => {
		desk.begin();
		return () => desk.end();
	});
	beforeNavigate(({ to, willUnload, cancel }) => {
		if (willUnload && desk.saving !== 'saved') cancel();
		// the layout's state belongs to one job
		else if (to?.params?.job && to.params.job !== desk.jobId && !willUnload) {
			cancel();
			window.location.href = to.url.href;
		}
	});
	// what was refused was said where it was tried
	afterNavigate(() => (desk.faults = []));
	const stage = $derived(page.url.pathname.split('/')[3] ?? 'job');
	const facts = $derived({
		plan: desk.doc,
		issued: desk.state === 'issued' || data.revisions.some((r) => r.state === 'issued'),
		started: data.pieces.some((p) => p.state !== 'waiting'),
		welded: data.pieces.some((p) => p.state === 'welded' || p.state === 'handed-over'),
		measured: data.pieces.some((p) => p.readings > 0),
		signed: data.pieces.some((p) => p.state === 'handed-over')
	});
	const query = $derived(page.url.searchParams.get('piece') ? `?piece=${page.url.searchParams.get('piece')}` : '');
	const savingWords = { saved: 'All saved', waiting: 'Saving soon', saving: 'Saving…', refused: 'Not saved' } as const;
	function keys(e: KeyboardEvent) {
		// a field has its own undo; a box to tick or a slider has none
		const typing = (e.target as HTMLElement).closest('input:not([type=checkbox], [type=radio], [type=range]), textarea, select');
		if (typing || !(e.ctrlKey || e.metaKey)) return;
		if (e.key.toLowerCase() === 'z') {
			e.preventDefault();
			if (e.shiftKey) desk.redo();
			else desk.undo();
		} else if (e.key.toLowerCase() === 'y') {
			e.preventDefault();
			desk.redo();
		}
	}
</script>

<svelte:window onkeydown={keys} />
<svelte:head><title>{data.job.name} · Sarta</title></svelte:head>
{#if stage === 'weld-out'}
	{@render children()}
{:else}
	<div class="flex h-[calc(100vh-48px)]">
		<StageRail job={data.job.id} current={stage} {facts} {query} />
		<div class="flex min-w-0 flex-1 flex-col">
			<div class="flex h-11 shrink-0 items-center gap-4 border-b border-steel-300 bg-steel-50 px-4 text-sm">
				<span class="truncate font-display text-[17px] font-semibold">{data.job.number} {data.job.name}</span>
				<span class="whitespace-nowrap text-steel-600 max-sm:sr-only">rev {desk.revision}, {desk.state}</span>
				<span class="ml-auto whitespace-nowrap text-steel-600 max-sm:sr-only" role="status"
					>{desk.mayEdit ? savingWords[desk.saving] : 'Looking only: planners change plans'}</span
				>
				{#if desk.mayEdit}
					<button
						type="button"
						class="rounded-sm border border-steel-400 bg-white px-2.5 py-1 disabled:opacity-40"
						disabled={!desk.undoLabel}
						title={desk.undoLabel ? `Undo ${desk.undoLabel} (Ctrl+Z)` : 'Nothing to undo'}
						onclick={() => desk.undo()}>Undo</button
					>
					<button
						type="button"
						class="rounded-sm border border-steel-400 bg-white px-2.5 py-1 disabled:opacity-40"
						disabled={!desk.redoLabel}
						title={desk.redoLabel ? `Redo ${desk.redoLabel} (Ctrl+Shift+Z)` : 'Nothing to redo'}
						onclick={() => desk.redo()}>Redo</button
					>
				{/if}
			</div>
			{#if desk.theirs || desk.faults.length || desk.notes.length || desk.refusal}
				<div class="shrink-0 space-y-1 px-4 py-2">
					{#if desk.theirs}<ConflictPanel {desk} />{/if}
					{#if desk.refusal}<Notice kind="fault" faults={desk.refusal.faults}>{desk.refusal.message}</Notice>{/if}
					{#if desk.faults.length}<Notice kind="fault" title="That change was not made" faults={desk.faults} />{/if}
					{#each desk.notes as note (note)}<Notice kind="note">{note}</Notice>{/each}
				</div>
			{/if}
			{@render children()}
		</div>
	</div>
{/if}
