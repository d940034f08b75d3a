<script lang="ts">
	/** What a trial means for the plans: one of its ways put into those of open jobs in the same sheet. */
	import { call, type Refusal } from '$lib/call';
	import { refresh } from '$lib/refresh';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { Button } from 'flowbite-svelte';

	interface Props {
		trial: string;
		ways: string[];
		/** `planned`: the way that the job's plan has already, or -1 */
		jobs: { id: string; name: string; planned: number }[];
		mayPlan: boolean;
	}
	let { trial, ways, jobs, mayPlan }: Props = $props();
	let way = $state('0');
	let busy = $state(false);
	let refusal = $state<Refusal | undefined>();
	let done = $state<{ job: string; name: string; revision: number } | undefined>();
	async function adopt(job: Props['jobs'][number]) {
		busy = true;
		const r = await call<{ revision: number }>('POST', `/api/trials/${trial}/adopt`, { job: job.id, way: Number(way) });
		busy = false;
		refusal = r.ok ? undefined : r.refusal;
		done = r.ok ? { job: job.id, name: job.name, revision: r.data.revision } : undefined;
		if (r.ok) await refresh();
	}
</script>

{#if refusal}<div class="mb-2"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
{#if done}<div class="mb-2">
		<Notice kind="done"
			>“{done.name}” is planned so now, as draft revision {done.revision}.
			<a class="underline" href="/jobs/{done.job}/forecast">Look at its forecast, and issue it</a>.</Notice
		>
	</div>{/if}
{#if !jobs.length}
	<p class="text-sm text-steel-600">No open job is of this metal and sheet.</p>
{:else}
	{#if mayPlan}<div class="mb-2 max-w-72">
			<Choice label="To be welded so" value={way} items={ways.map((name, i) => ({ value: String(i), name }))} onchange={(v) => (way = v)} />
		</div>{/if}
	<ul class="text-sm">
		{#each jobs as j (j.id)}
			<li class="flex flex-wrap items-center gap-x-3 border-t border-steel-200 py-1 first:border-t-0">
				<a class="min-w-0 flex-1 text-primary-700 underline" href="/jobs/{j.id}/job">{j.name}</a>
				<span class="text-steel-600">{j.planned < 0 ? 'planned otherwise, or not alike all over' : `planned: ${ways[j.planned].toLowerCase()}`}</span>
				{#if mayPlan && j.planned !== Number(way)}<Button
						size="sm"
						color="alternative"
						class="min-h-11"
						disabled={busy}
						aria-label="Put “{ways[Number(way)]}” into the plan of {j.name}"
						onclick={() => adopt(j)}>Put it into this plan</Button
					>{/if}
			</li>
		{/each}
	</ul>
	<p class="mt-1 text-[12px] text-steel-600">Every seam of the job is changed alike. Nothing goes to the bench before its plan is issued again.</p>
{/if}
