<script lang="ts">
	/** The full depth as a task of the server's: started, watched, ended, taken up again after a reload. */
	import { onDestroy, onMount } from 'svelte';
	import type { Forecast } from '$core/forecast/forecast';
	import { call } from '$lib/call';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	interface Task {
		id: string;
		state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
		progress: number;
		message: string;
		attempts: number;
	}
	let { jobId }: { jobId: string } = $props();
	const desk = getDesk();
	const POLL_MS = 1000;
	let task = $state.raw<Task | undefined>();
	let of = $state.raw(desk.doc);
	let message = $state('');
	let timer: ReturnType<typeof setTimeout> | undefined;
	let gone = false;
	const mine = $derived(task && of === desk.doc ? task : undefined);
	const full = $derived(desk.full && desk.full.doc === desk.doc ? desk.full.result : undefined);

	const numbers = (text: string) => new Float32Array(Uint8Array.from(atob(text), (c) => c.charCodeAt(0)).buffer);
	async function follow() {
		if (!task || gone) return;
		if (task.state === 'done') {
			const doc = of;
			const r = await call<{ result: Forecast; steps: string[]; other?: string }>('GET', `/api/tasks/${task.id}/result`);
			if (r.ok)
				desk.full = {
					doc,
					result: r.data.result,
					steps: r.data.steps.map(numbers),
					other: r.data.other && numbers(r.data.other)
				} as typeof desk.full;
			else message = r.refusal.message;
			return;
		}
		if (task.state === 'failed' || task.state === 'cancelled') return;
		timer = setTimeout(async () => {
			const r = await call<{ task: Task }>('GET', `/api/tasks/${task!.id}`);
			if (r.ok) task = r.data.task;
			void follow();
		}, POLL_MS);
	}
	async function look() {
		const doc = desk.doc;
		const r = await call<{ task: Task | null; revision: number; version: number }>('GET', `/api/jobs/${jobId}/tasks`);
		if (!r.ok || gone || desk.saving !== 'saved' || r.data.version !== desk.version || r.data.revision !== desk.revision || !r.data.task) return;
		of = doc;
		task = r.data.task;
		void follow();
	}
	async function start() {
		message = '';
		if (desk.saving !== 'saved') await desk.save();
		const doc = desk.doc;
		const r = await call<{ task: Task }>('POST', `/api/jobs/${jobId}/tasks`, { revision: desk.revision, version: desk.version });
		if (!r.ok) {
			message = r.refusal.message;
			return;
		}
		clearTimeout(timer);
		of = doc;
		task = r.data.task;
		void follow();
	}
	async function stop() {
		const r = await call<{ task: Task }>('POST', `/api/tasks/${task!.id}/cancel`);
		if (r.ok) task = r.data.task;
	}
	onMount(() => void look());
	onDestroy(() => {
		gone = true;
		clearTimeout(timer);
	});
</script>

<Panel title="Full forecast">
	<div aria-live="polite" class="text-sm">
		{#if full}
			<p>
				Joined and balanced at every stage: {full.full?.solutions} shapes found. {full.full?.stopped ||
					'It went through to the end; the steps above are its own.'}
			</p>
		{:else if mine && (mine.state === 'queued' || mine.state === 'running')}
			<p class="flex items-center gap-2">
				<span>{mine.state === 'queued' ? 'Waiting for a worker' : `${Math.round(mine.progress * 100)} %`}</span>
				<progress class="h-1.5 flex-1 accent-primary-600" max="1" value={mine.progress} aria-label="Full forecast progress"></progress>
				<button type="button" class="text-primary-700 underline" onclick={stop}>Stop</button>
			</p>
			<p class="mt-1 text-[13px] text-steel-600">
				You may leave this page; it goes on{mine.attempts > 1 ? ` (taken up again, try ${mine.attempts})` : ''}.
			</p>
		{:else}
			<p>Non-linear from the first tack to the last run. Takes a minute or two on the server.</p>
			{#if mine?.message}<div class="mt-1"><Notice kind="caution">{mine.message}</Notice></div>{/if}
			{#if desk.mayEdit}<Button class="mt-2" size="sm" color="alternative" disabled={!desk.doc.runs.length} onclick={start}
					>Work it out in full</Button
				>{/if}
		{/if}
		{#if message}<div class="mt-1"><Notice kind="fault">{message}</Notice></div>{/if}
	</div>
</Panel>
