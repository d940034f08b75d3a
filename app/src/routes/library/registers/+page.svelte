<script lang="ts">
	import { refresh } from '$lib/refresh';
	import { calibrationWords } from '$core/registers/instruments';
	import { call, type Refusal } from '$lib/call';
	import RegisterForm from '$lib/registers/RegisterForm.svelte';
	import { length } from '$lib/units';
	import Notice from '$lib/ui/Notice.svelte';
	import SortHead from '$lib/ui/SortHead.svelte';
	import { Sorting } from '$lib/ui/sorting.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';

	let { data } = $props();
	type Row = (typeof data.items)[number];
	const unit = $derived(data.person?.units ?? 'mm');
	const register = $derived(data.registers.find((r) => r.kind === data.kind)!);
	let wanted = $state('');
	let withArchived = $state(false);
	/** the entry in hand; `new` while one is written */
	let open = $state<string>();
	let refusal = $state<Refusal | undefined>();
	let said = $state('');
	const today = new Date().toISOString();

	const cell = (row: Row, f: (typeof register.fields)[number]): string => {
		const v = row.item[f.key];
		if (v === undefined || v === null) return '';
		if (f.is === 'length') return length(v as number, unit);
		if (f.is === 'choice') return f.items.find((i) => i.value === v)?.name ?? String(v);
		return f.is === 'number' && f.unit ? `${String(v)} ${f.unit}` : String(v);
	};
	const shown = $derived(
		data.items.filter(
			(r) =>
				r.kind === data.kind &&
				(withArchived || !r.archivedAt) &&
				wanted
					.toLowerCase()
					.split(/\s+/)
					.every((w) =>
						register.fields
							.map((f) => cell(r, f))
							.join(' ')
							.toLowerCase()
							.includes(w)
					)
		)
	);
	const sorting = new Sorting<Row>((r, column) => r.item[column] as string | number | undefined);
	const out = (row: Row) => calibrationWords(today, row.item.dueOn as string | undefined);

	async function send(method: 'POST' | 'PATCH', path: string, body: unknown) {
		const r = await call(method, path, body);
		refusal = r.ok ? undefined : r.refusal;
		said = '';
		if (r.ok) {
			open = undefined;
			await refresh();
		}
	}
	async function takeIn(e: Event) {
		const input = e.currentTarget as HTMLInputElement;
		const file = input.files?.[0];
		if (!file) return;
		const r = await call<{ added: number; changed: number }>('POST', `/api/registers/${data.kind}/csv`, undefined, await file.text());
		input.value = '';
		refusal = r.ok ? undefined : r.refusal;
		said = r.ok ? `${r.data.added} added, ${r.data.changed} brought up to date.` : '';
		if (r.ok) await refresh();
	}
</script>

<svelte:head><title>{register.words} · Sarta</title></svelte:head>

<main id="main" class="mx-auto max-w-[1180px] px-6 py-6">
	<p class="text-sm"><a class="text-primary-700 underline" href="/library">Library</a></p>
	<h1 class="mb-4 text-2xl">What the shop has to work with</h1>
	<div class="grid gap-6 lg:grid-cols-[13rem_1fr]">
		<nav aria-label="Registers">
			<ul class="flex flex-wrap gap-1 lg:block">
				{#each data.registers as r (r.kind)}
					<li>
						<a
							class="flex items-baseline justify-between gap-2 border-l-4 px-3 py-2 {r.kind === data.kind
								? 'border-straw-600 bg-white font-semibold'
								: 'border-steel-300 hover:bg-white'}"
							aria-current={r.kind === data.kind ? 'page' : undefined}
							href="?kind={r.kind}"
							onclick={() => (open = undefined)}><span>{r.words}</span><span class="tab text-sm text-steel-600">{r.count}</span></a
						>
					</li>
				{/each}
			</ul>
		</nav>
		<section class="min-w-0 bg-white p-4">
			<div class="flex flex-wrap items-end gap-3">
				<div class="min-w-48 flex-1">
					<Label for="wanted" class="mb-1 text-steel-700">Find</Label><Input id="wanted" size="sm" type="search" bind:value={wanted} />
				</div>
				<Button size="sm" onclick={() => (open = 'new')}>Add {'aeiou'.includes(register.one[0]) ? 'an' : 'a'} {register.one}</Button>
				<a class="py-1.5 text-sm text-primary-700 underline" href="/api/registers/{data.kind}/csv" download>Save as CSV</a>
				<label class="cursor-pointer py-1.5 text-sm text-primary-700 underline focus-within:outline-2"
					>Read a CSV in<input type="file" class="sr-only" accept=".csv,text/csv" onchange={takeIn} /></label
				>
			</div>
			<div aria-live="polite">
				{#if refusal}<div class="mt-3"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
				{#if said}<p class="mt-3">{said}</p>{/if}
			</div>
			{#if open === 'new'}
				{#key data.kind}<RegisterForm
						fields={register.fields}
						{unit}
						onsave={(item) => send('POST', '/api/registers', { kind: data.kind, item })}
						onleave={() => (open = undefined)}
					/>{/key}
			{/if}
			{#if !shown.length}
				<p class="mt-4 text-steel-600">
					{register.count
						? 'None of these words is in the list.'
						: `None yet. Add one, or read a CSV in: its first row names the columns ${register.fields.map((f) => f.key).join(', ')}.`}
				</p>
			{:else}
				<div class="relative mt-4 overflow-x-auto">
					<table class="w-full text-sm">
						<thead
							><tr class="text-left text-steel-600"
								>{#each register.fields as f (f.key)}<SortHead {sorting} column={f.key} label={f.label} class="py-1 pr-3" />{/each}<th
									><span class="sr-only">Change</span></th
								></tr
							></thead
						>
						<tbody>
							{#each sorting.of(shown) as row (row.id)}
								<tr class="border-t border-steel-200 align-top {row.archivedAt ? 'text-steel-600' : ''}">
									{#each register.fields as f, i (f.key)}
										<td class="py-1.5 pr-3 {i ? 'tab' : 'font-medium'} {f.is === 'day' ? 'whitespace-nowrap' : ''}"
											>{cell(row, f)}{#if f.key === 'name' && row.archivedAt}
												(put away){/if}{#if f.key === 'dueOn' && out(row)}
												<strong class="block text-plum-700">ran out</strong>{/if}</td
										>
									{/each}
									<td class="py-1.5 text-right whitespace-nowrap">
										<button
											type="button"
											class="text-primary-700 underline"
											aria-label="Change {String(row.item.name)}"
											onclick={() => (open = open === row.id ? undefined : row.id)}>Change</button
										>
										<button
											type="button"
											class="ml-2 text-primary-700 underline"
											aria-label="{row.archivedAt ? 'Bring back' : 'Put away'} {String(row.item.name)}"
											onclick={() => send('PATCH', `/api/registers/${row.id}`, { version: row.version, archived: !row.archivedAt })}
											>{row.archivedAt ? 'Bring back' : 'Put away'}</button
										>
									</td>
								</tr>
								{#if open === row.id}
									<tr
										><td colspan={register.fields.length + 1}
											><RegisterForm
												fields={register.fields}
												item={row.item}
												{unit}
												onsave={(item) => send('PATCH', `/api/registers/${row.id}`, { version: row.version, item })}
												onleave={() => (open = undefined)}
											/></td
										></tr
									>
								{/if}
							{/each}
						</tbody>
					</table>
				</div>
			{/if}
			{#if data.items.some((r) => r.kind === data.kind && r.archivedAt)}
				<label class="mt-3 flex items-center gap-2 text-sm"><input type="checkbox" bind:checked={withArchived} /> Show what was put away</label>
			{/if}
		</section>
	</div>
</main>
