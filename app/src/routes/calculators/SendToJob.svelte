<script lang="ts">
	/** A result put into the notes of a job, where the bench and the traveller show it. */
	import { call } from '$lib/call';
	import Choice from '$lib/ui/Choice.svelte';
	import { Button } from 'flowbite-svelte';

	/** what was worked out, in a line */
	let { words }: { words: string } = $props();
	interface JobLine {
		id: string;
		number: number;
		name: string;
	}
	let jobs = $state.raw<JobLine[] | undefined>();
	let job = $state('');
	let said = $state('');
	let isSending = $state(false);
	/** notes of a job hold so much */
	const MOST = 2000;

	async function open() {
		const r = await call<{ jobs: JobLine[] }>('GET', '/api/jobs');
		jobs = r.ok ? r.data.jobs : [];
		job = jobs[0]?.id ?? '';
		said = r.ok ? '' : r.refusal.message;
	}
	async function send() {
		isSending = true;
		const now = await call<{ job: { version: number; notes: string | null } }>('GET', `/api/jobs/${job}`);
		if (!now.ok) said = now.refusal.message;
		else {
			const notes = [now.data.job.notes, words].filter(Boolean).join('\n');
			if (notes.length > MOST) said = `The notes of this job are full (${MOST} signs): shorten them on its Job page.`;
			else {
				const r = await call('PATCH', `/api/jobs/${job}`, { version: now.data.job.version, notes });
				said = r.ok ? `It stands in the notes of “${jobs?.find((j) => j.id === job)?.name}”, at the bench and on its traveller.` : r.refusal.message;
			}
		}
		isSending = false;
	}
</script>

{#if !jobs}
	<button type="button" class="mt-2 min-h-10 border border-steel-400 px-4" onclick={open}>Send it into a job</button>
{:else if jobs.length}
	<div class="mt-3 max-w-sm space-y-2">
		<Choice
			label="Into the notes of"
			value={job}
			items={jobs.map((j) => ({ value: j.id, name: `${j.number} ${j.name}` }))}
			onchange={(v) => (job = v)}
		/>
		<p class="text-sm text-steel-600">“{words}”</p>
		<Button size="sm" class="min-h-10" disabled={isSending} onclick={send}>Put it there</Button>
	</div>
{:else}<p class="mt-2 text-sm">There is no job yet.</p>{/if}
<p class="mt-1 text-sm" role="status">{said}</p>
