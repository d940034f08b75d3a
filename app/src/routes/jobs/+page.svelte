<script lang="ts">
	import { onMount } from 'svelte';
	import { goto } from '$app/navigation';
	import { refresh } from '$lib/refresh';
	import { page } from '$app/state';
	import { FAMILY_WORDS } from '$core/families';
	import type { FamilyKind } from '$core/document/words';
	import { JOB_FILE_LIMIT, RECORD_LIMIT } from '$core/formats/limits';
	import { call, type Refusal } from '$lib/call';
	import { isOverdue, noneOfWork, ofWork, WORK_ITEMS, workOf, type Work } from '$lib/jobs/work';
	import { length } from '$lib/units';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import SortHead from '$lib/ui/SortHead.svelte';
	import { Sorting } from '$lib/ui/sorting.svelte';
	import FirstHour from './FirstHour.svelte';
	import ImportShape from './ImportShape.svelte';
	import NewJob from './NewJob.svelte';
	import { Button, Input, Modal } from 'flowbite-svelte';

	let { data } = $props();
	const unit = $derived(data.person?.units ?? 'mm');
	const mayPlan = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	const archived = $derived(page.url.searchParams.has('archived'));
	let search = $state(page.url.searchParams.get('search') ?? '');
	let making = $state(false);
	let bringing = $state(false);
	let refusal = $state<Refusal | undefined>();
	let fileInput = $state<HTMLInputElement>();
	let timer: ReturnType<typeof setTimeout> | undefined;

	const work = $derived(workOf(page.url.searchParams.get('work')));
	function address(words: string, old: boolean, of: Work = work) {
		const q = [words ? `search=${encodeURIComponent(words)}` : '', old ? 'archived' : '', of === 'all' ? '' : `work=${of}`].filter(Boolean).join('&');
		return q ? `/jobs?${q}` : '/jobs';
	}
	function find() {
		clearTimeout(timer);
		timer = setTimeout(() => goto(address(search, archived), { keepFocus: true, replaceState: true }), 200);
	}
	async function archive(id: string, on: boolean) {
		const now = await call<{ job: { version: number } }>('GET', `/api/jobs/${id}`);
		if (!now.ok) return void (refusal = now.refusal);
		const r = await call('PATCH', `/api/jobs/${id}`, { version: now.data.job.version, archived: on });
		refusal = r.ok ? undefined : r.refusal;
		await refresh();
	}
	async function duplicate(id: string, name: string) {
		const r = await call<{ job: { id: string } }>('POST', `/api/jobs/${id}/duplicate`, { name: `${name} (copy)`.slice(0, 120) });
		if (r.ok) await goto(`/jobs/${r.data.job.id}/job`);
		else refusal = r.refusal;
	}
	async function importFile(file: File | undefined) {
		if (!file) return;
		const isRecord = file.name.endsWith('.sarta-record.json');
		const limit = isRecord ? RECORD_LIMIT : JOB_FILE_LIMIT;
		if (file.size > limit) {
			refusal = {
				status: 400,
				message: 'The file was not taken',
				faults: [{ field: 'file', value: `${(file.size / 1e6).toFixed(1)} MB`, allowed: `at most ${limit / 1e6} MB` }]
			};
			return;
		}
		const r = await call<{ job: { id: string } }>('POST', `/api/jobs/import${isRecord ? '?record' : ''}`, undefined, await file.text());
		if (r.ok) await goto(`/jobs/${r.data.job.id}/job`);
		else refusal = { ...r.refusal, message: `${file.name} was refused whole; nothing was changed. ${r.refusal.message}` };
	}
	/** by person: what one has left another may want */
	const LEFT = $derived(`sarta-first-hour-left-${data.person?.id ?? ''}`);
	let isLed = $state(false);
	onMount(() => {
		isLed = localStorage.getItem(LEFT) === null;
	});
	function lead(on: boolean) {
		isLed = on;
		if (on) localStorage.removeItem(LEFT);
		else localStorage.setItem(LEFT, 'yes');
	}
	type Job = (typeof data.jobs)[number];
	const BY: Record<string, (j: Job) => string | number | null> = {
		number: (j) => j.number,
		name: (j) => j.name,
		sheet: (j) => j.thicknessMm,
		plan: (j) => `${j.issued ? 'issued' : 'draft'} ${j.revision}`,
		pieces: (j) => j.quantity - j.done,
		due: (j) => j.dueDate
	};
	const sorting = new Sorting<Job>((j, column) => BY[column](j));
	const today = new Date().toISOString().slice(0, 10);
	const shown = $derived(sorting.of(ofWork(data.jobs, work, today)));
</script>

<main id="main" class="mx-auto max-w-[1180px] px-6 py-6">
	<div class="mb-4 flex flex-wrap items-center gap-3">
		<h1 class="mr-auto text-2xl">{archived ? 'Archived jobs' : 'Jobs'}</h1>
		<label class="sr-only" for="search">Search jobs by name, customer, material or number</label>
		<div class="field w-72">
			<Input id="search" type="search" size="sm" placeholder="Name, customer, material, number" bind:value={search} oninput={find} />
		</div>
		<div class="w-44">
			<Choice
				label="Which jobs"
				value={work}
				items={WORK_ITEMS}
				isUnseen
				onchange={(v) => void goto(address(search, archived, workOf(v)), { keepFocus: true, replaceState: true })}
			/>
		</div>
		<a class="text-sm text-primary-700 underline underline-offset-4" href={address(search, !archived)}
			>{archived ? 'Show current jobs' : 'Show archived'}</a
		>
		{#if mayPlan && data.firstHour.length && !isLed}<button
				type="button"
				class="text-sm text-primary-700 underline underline-offset-4"
				onclick={() => lead(true)}>First hour</button
			>{/if}
		{#if mayPlan}
			<input
				type="file"
				class="hidden"
				accept=".json,application/json"
				bind:this={fileInput}
				aria-label="Job file"
				onchange={(e) => {
					const input = e.currentTarget;
					void importFile(input.files?.[0]).finally(() => (input.value = ''));
				}}
			/>
			<Button color="alternative" size="sm" onclick={() => fileInput?.click()}>Import job file</Button>
			<Button color="alternative" size="sm" onclick={() => (bringing = true)}>From a drawing or model</Button>
			<Button size="sm" onclick={() => (making = true)}>New job</Button>
		{/if}
	</div>
	{#if refusal}<div class="mb-4"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
	{#if mayPlan && isLed && data.firstHour.length && !search && !archived}
		<FirstHour
			steps={data.firstHour}
			isAdmin={data.person?.roles.includes('admin') ?? false}
			onnewjob={() => (making = true)}
			onleave={() => lead(false)}
		/>
	{/if}
	{#if data.jobs.length === 0}
		<div class="border-t-2 border-steel-700 bg-white px-6 py-12 text-center">
			<p class="text-lg">{search ? `No job matches “${search}”.` : archived ? 'Nothing is archived.' : 'No jobs yet.'}</p>
			{#if !search && !archived && mayPlan}<p class="mt-1 text-steel-600">
					Start with <strong>New job</strong>: a trough or a panel takes a minute, and the forecast follows at once.
				</p>{/if}
		</div>
	{:else if shown.length === 0}
		<div class="border-t-2 border-steel-700 bg-white px-6 py-12 text-center">
			<p class="text-lg">{noneOfWork(work)}</p>
			<p class="mt-1"><a class="text-primary-700 underline underline-offset-4" href={address(search, archived, 'all')}>Show all work</a></p>
		</div>
	{:else}
		<div class="overflow-x-auto">
			<table class="w-full border-t-2 border-steel-700 bg-white text-left">
				<thead class="text-sm text-steel-600">
					<tr>
						<SortHead {sorting} column="number" label="No." class="px-4 py-2" />
						<SortHead {sorting} column="name" label="Job" class="px-2 py-2" />
						<SortHead {sorting} column="sheet" label="Sheet" class="px-2 py-2" />
						<SortHead {sorting} column="plan" label="Plan" class="px-2 py-2" />
						<SortHead {sorting} column="pieces" label="Pieces" class="px-2 py-2" />
						<SortHead {sorting} column="due" label="Due" class="px-2 py-2" />
						<th class="px-4 py-2 text-right font-medium">{mayPlan ? 'Do' : ''}</th>
					</tr>
				</thead>
				<tbody>
					{#each shown as j (j.id)}
						<tr class="border-t border-steel-200 hover:bg-straw-50">
							<td class="tab px-4 py-3 text-steel-600">{j.number}</td>
							<td class="px-2 py-3">
								<a class="font-display text-[17px] font-semibold text-primary-800 hover:underline" href="/jobs/{j.id}/{j.begun ? 'weld-out' : 'job'}"
									>{j.name}</a
								>
								<div class="text-sm text-steel-600">
									{j.customer ?? 'no customer'}{j.family ? ` · ${FAMILY_WORDS[j.family as FamilyKind] ?? j.family}` : ' · from a job file'}
								</div>
							</td>
							<td class="tab px-2 py-3 text-sm">{j.material}<br />{length(j.thicknessMm, unit)}</td>
							<td class="px-2 py-3 text-sm"
								>rev {j.revision}<br /><span class={j.issued ? 'text-sound-700' : 'text-steel-600'}>{j.issued ? 'issued' : 'draft'}</span></td
							>
							<td class="px-2 py-3 text-sm"
								>{j.done} of {j.quantity} handed over{#if j.begun}<br />{j.begun} at the bench{/if}</td
							>
							<td class="tab px-2 py-3 text-sm"
								>{j.dueDate ?? '–'}{#if isOverdue(j, today)}<br /><span class="font-sans text-plum-700">overdue</span>{/if}</td
							>
							<td class="px-4 py-3 text-right text-sm whitespace-nowrap">
								{#if mayPlan}
									<button
										class="text-primary-700 underline underline-offset-4"
										onclick={() => duplicate(j.id, j.name)}
										aria-label="Duplicate {j.name}">Duplicate</button
									>
									<button
										class="ml-3 text-primary-700 underline underline-offset-4"
										onclick={() => archive(j.id, !archived)}
										aria-label="{archived ? 'Restore' : 'Archive'} {j.name}">{archived ? 'Restore' : 'Archive'}</button
									>
								{/if}
							</td>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	{/if}
</main>
<Modal bind:open={making} title="New job" size="xl">
	<NewJob {unit} grades={data.grades} earlier={data.jobs.filter((j) => !j.coupon)} />
</Modal>
<Modal bind:open={bringing} title="From a drawing or model" size="lg">
	<ImportShape {unit} grades={data.grades} />
</Modal>
