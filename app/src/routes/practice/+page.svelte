<script lang="ts">
	import { call, type Refusal } from '$lib/call';
	import { refresh } from '$lib/refresh';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button } from 'flowbite-svelte';

	let { data } = $props();
	const done = $derived(data.exercises.filter((e) => e.best !== undefined).length);
	let person = $state('');
	let exercise = $state('');
	let refusal = $state<Refusal | undefined>();
	let set = $state('');
	async function give() {
		const r = await call('POST', `/api/practice/${exercise}/set`, { person });
		refusal = r.ok ? undefined : r.refusal;
		set = r.ok ? `Set: ${data.people.find((p) => p.id === person)?.name} has it on their page.` : '';
		if (r.ok) await refresh();
	}
</script>

<main id="main" class="mx-auto max-w-[1100px] px-6 py-6 max-sm:px-3">
	<h1 class="text-2xl">Practice bench</h1>
	<p class="mt-1 max-w-3xl text-steel-700">
		Twelve pieces, no metal: guess what will happen, plan it with the planner’s own tools, see it move, and compare. They are welded in a virtual shop
		whose metal, hands and sheet nobody knows: a forecast with hidden habits, not a real shop.
	</p>
	<p class="mt-1 mb-4 text-sm text-steel-600">{done} of {data.exercises.length} done.</p>
	<ol class="grid grid-cols-1 gap-px border border-steel-200 bg-steel-200 md:grid-cols-2">
		{#each data.exercises as e, i (e.id)}
			<li class="bg-white">
				<a class="flex min-h-20 gap-4 px-4 py-3 hover:bg-steel-50" href="/practice/{e.id}">
					<span class="tab w-6 text-steel-500">{i + 1}</span>
					<span class="min-w-0 flex-1">
						<span class="block font-medium text-primary-700 underline">{e.title}</span>
						<span class="block text-[13px] text-steel-600">{e.piece}</span>
						{#if e.setBy && e.best === undefined}<span class="text-straw-800 block text-[13px]">{e.setBy} has set it for you.</span>{/if}
					</span>
					<span class="tab text-right text-sm">{e.best === undefined ? 'to do' : `✓ ${e.best} of 100`}</span>
				</a>
			</li>
		{/each}
	</ol>

	{#if data.people.length}
		<div class="mt-6 grid grid-cols-1 gap-5 lg:grid-cols-2">
			<Panel title="How far everybody is">
				<table class="w-full text-sm">
					<thead
						><tr class="text-left text-steel-600"
							><th class="py-1 font-medium">Name</th><th class="font-medium">Done</th><th class="font-medium">Mean</th><th class="font-medium"
								>Set and open</th
							></tr
						></thead
					>
					<tbody>
						{#each data.people.filter((p) => p.done || p.isLearner || p.waiting.length) as p (p.id)}
							<tr class="border-t border-steel-200 align-top">
								<td class="py-1.5 pr-3">{p.name}{p.isLearner ? ' (learner)' : ''}</td>
								<td class="tab pr-3">{p.done} of {data.exercises.length}</td>
								<td class="tab pr-3">{p.mean ?? '–'}</td>
								<td>{p.waiting.join('; ') || '–'}</td>
							</tr>
						{:else}<tr><td colspan="4" class="py-1.5 text-steel-600">Nobody has begun. An admin adds learners on the page People.</td></tr>{/each}
					</tbody>
				</table>
			</Panel>
			<Panel title="Set somebody an exercise">
				{#if refusal}<div class="mb-2"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
				<form
					class="space-y-3"
					onsubmit={(e) => {
						e.preventDefault();
						void give();
					}}
				>
					<Choice
						label="Who"
						value={person}
						items={[{ value: '', name: 'choose' }, ...data.people.map((p) => ({ value: p.id, name: p.name }))]}
						onchange={(v) => (person = v)}
					/>
					<Choice
						label="Exercise"
						value={exercise}
						items={[{ value: '', name: 'choose' }, ...data.exercises.map((e) => ({ value: e.id as string, name: e.title }))]}
						onchange={(v) => (exercise = v)}
					/>
					<Button type="submit" size="sm" class="min-h-11" disabled={!person || !exercise}>Set it</Button>
					<p role="status" class="text-sm text-steel-700">{set}</p>
				</form>
			</Panel>
		</div>
	{/if}
</main>
