<script lang="ts">
	import { INSPECTOR_MAY_WELD, INSPECTOR_MAY_WELD_WORDS } from '$core/document/words';
	import { refresh } from '$lib/refresh';
	import { call, type Refusal } from '$lib/call';
	import PersonRow from '$lib/people/PersonRow.svelte';
	import { ROLES, toggled, type Role } from '$lib/people/roles';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Checkbox, Input, Label } from 'flowbite-svelte';

	let { data } = $props();
	let refusal = $state<Refusal | undefined>();
	let fresh = $state<{ name: string; pin: string; roles: Role[] }>({ name: '', pin: '', roles: ['welder'] });
	async function send(method: 'POST' | 'PATCH', path: string, body: unknown) {
		const r = await call(method, path, body);
		refusal = r.ok ? undefined : r.refusal;
		await refresh();
		return r.ok;
	}
	let isBackingUp = $state(false);
	async function backUp() {
		isBackingUp = true;
		await send('POST', '/api/backups', {});
		isBackingUp = false;
	}
	async function add(e: SubmitEvent) {
		e.preventDefault();
		if (await send('POST', '/api/people', $state.snapshot(fresh))) fresh = { name: '', pin: '', roles: ['welder'] };
	}
</script>

<main id="main" class="mx-auto max-w-[1000px] space-y-5 px-6 py-6">
	<div class="flex items-baseline justify-between">
		<h1 class="text-2xl">People</h1>
		<a class="text-primary-700 underline" href="/people/audit">What was done, and who tried</a>
	</div>
	{#if refusal}<Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice>{/if}
	<Panel title="Who works here">
		<div class="relative overflow-x-auto">
			<table class="w-full text-sm">
				<thead><tr class="text-left text-steel-600"><th class="py-1 font-medium">Name</th><th class="font-medium">Roles</th><th></th></tr></thead>
				<tbody>
					{#each data.people as p (p.id)}
						<PersonRow person={p} onchange={(change) => send('PATCH', `/api/people/${p.id}`, { version: p.version, ...change })} />
					{/each}
				</tbody>
			</table>
		</div>
	</Panel>
	<Panel title="Add a person">
		<form class="grid items-end gap-4 md:grid-cols-[1fr_200px_2fr_auto]" onsubmit={add}>
			<div>
				<Label for="p-name" class="mb-1 text-steel-700">Name</Label><Input id="p-name" size="sm" required maxlength={80} bind:value={fresh.name} />
			</div>
			<div>
				<Label for="p-pin" class="mb-1 text-steel-700">PIN or pass phrase</Label><Input
					id="p-pin"
					size="sm"
					type="password"
					required
					maxlength={72}
					bind:value={fresh.pin}
					class="tab"
					autocomplete="new-password"
				/>
			</div>
			<fieldset class="flex flex-wrap gap-4 pb-2">
				<legend class="sr-only">Roles</legend>{#each ROLES as r (r)}<Checkbox
						class="text-sm"
						checked={fresh.roles.includes(r)}
						onchange={() => (fresh.roles = toggled(fresh.roles, r))}>{r}</Checkbox
					>{/each}
			</fieldset>
			<Button type="submit" size="sm" disabled={!fresh.roles.length}>Add</Button>
		</form>
		<p class="mt-2 text-[13px] text-steel-600">
			A PIN is 4 to 12 digits, a pass phrase 8 to 72 characters; an admin’s is 8 or more. Rows like 1234 and years are refused.
		</p>
	</Panel>
	<Panel title="Backups">
		{#if data.backups.isOld}<div class="mb-3">
				<Notice kind="caution" title={data.backups.last ? 'The last backup is old' : 'There is no backup yet'}
					>A disk that fails takes every job, log and signature with it. Make one now, and keep a copy on another machine.</Notice
				>
			</div>{/if}
		{#if data.backups.last}<p class="text-sm">
				The last: {new Date(data.backups.last.at).toLocaleString()}. <span class="tab text-steel-600">{data.backups.last.about}</span>
			</p>{/if}
		{#if data.backups.folder}
			<p class="mt-1 text-[13px] text-steel-600">
				One is made each night; the newest {data.backups.kept} are kept in <span class="tab">{data.backups.folder}</span>. How one is restored stands
				in docs/operations.md.
			</p>
			<Button class="mt-3" size="sm" disabled={isBackingUp} onclick={backUp}>{isBackingUp ? 'Being made…' : 'Make one now'}</Button>
		{:else}<p class="mt-1 text-[13px] text-steel-600">
				This machine makes none by itself: set SARTA_BACKUPS to a folder, or use bin/sarta backup.
			</p>{/if}
		<p class="mt-3 text-sm">
			<a class="text-primary-700 underline" href="/api/everything" download>All jobs as open files</a>
			<span class="text-[13px] text-steel-600">: every job with its record, people, library, factors and audit, as JSON in one zip archive.</span>
		</p>
	</Panel>
	<Panel title="Rules of this shop">
		<div class="max-w-sm">
			<Choice
				label="May who has tacked or welded on a piece sign it as inspector?"
				value={data.settings.inspectorMayWeld}
				items={INSPECTOR_MAY_WELD.map((v) => ({ value: v, name: INSPECTOR_MAY_WELD_WORDS[v] }))}
				onchange={(v) => send('PATCH', '/api/settings', { inspectorMayWeld: v })}
			/>
		</div>
	</Panel>
</main>
