<script lang="ts">
	/** The full depth as a task of the server's: started, watched, ended, taken up again after a reload. */
	import { onDestroy, onMount } from 'svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';
	import { FullTask } from './fullTask.svelte';

	const desk = getDesk();
	const asked = new FullTask(desk);
	const mine = $derived(asked.of === desk.doc ? asked.task : undefined);
	const full = $derived(desk.full && desk.full.doc === desk.doc ? desk.full.result : undefined);
	onMount(() => void asked.look());
	onDestroy(() => asked.end());
</script>

<Panel title="Full forecast">
	<div aria-live="polite" class="text-sm">
		{#if full}
			<p>
				Joined and balanced at every stage: {full.full?.solutions} shapes found. {full.full?.stopped ||
					'It went through to the end; the steps above are its own.'}
			</p>
		{:else if mine && asked.isBusy}
			<p class="flex items-center gap-2">
				<span>{mine.state === 'queued' ? 'Waiting for a worker' : `${Math.round(mine.progress * 100)} %`}</span>
				<progress class="h-1.5 flex-1 accent-primary-600" max="1" value={mine.progress} aria-label="Full forecast progress"></progress>
				<button type="button" class="text-primary-700 underline" onclick={() => asked.stop()}>Stop</button>
			</p>
			<p class="mt-1 text-[13px] text-steel-600">
				You may leave this page; it goes on{mine.attempts > 1 ? ` (taken up again, try ${mine.attempts})` : ''}.
			</p>
		{:else}
			<p>Non-linear from the first tack to the last run. Takes a minute or two on the server.</p>
			{#if mine?.message}<div class="mt-1"><Notice kind="caution">{mine.message}</Notice></div>{/if}
			{#if desk.mayEdit}<Button class="mt-2" size="sm" color="alternative" disabled={!desk.doc.runs.length} onclick={() => asked.start()}
					>Work it out in full</Button
				>{/if}
		{/if}
		{#if asked.message}<div class="mt-1"><Notice kind="fault">{asked.message}</Notice></div>{/if}
	</div>
</Panel>
