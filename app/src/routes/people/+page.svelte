<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { call, type Refusal } from '$lib/call';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Checkbox, Input, Label } from 'flowbite-svelte';

	let { data } = $props();
	const ROLES = ['planner', 'welder', 'inspector', 'admin'] as const;
	type Role = (typeof ROLES)[number];
	let refusal = $state<Refusal | undefined>();
	let fresh = $state<{ name: string; pin: string; roles: Role[] }>({ name: '', pin: '', roles: ['welder'] });
	const locked = (d: Date | string | null) => d !== null && new Date(d) > new Date();
	async function send(method: 'POST' | 'PATCH', path: string, body: unknown) {
		const r = await call(method, path, body);
		refusal = r.ok ? undefined : r.refusal;
		await invalidateAll();
		return r.ok;
	}
	const toggled = (roles: readonly Role[], r: Role) => (roles.includes(r) ? roles.filter((x) => x !== r) : [...roles, r]);
	async function add(e: SubmitEvent) {
		e.preventDefault();
		if (await send('POST', '/api/people', $state.snapshot(fresh))) fresh = { name: '', pin: '', roles: ['welder'] };
	}
</script>

<main id="main" class="mx-auto max-w-[1000px] space-y-5 px-6 py-6">
	<h1 class="text-2xl">People</h1>
	{#if refusal}<Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice>{/if}
	<Panel title="Who works here">
		<table class="w-full text-sm">
			<thead><tr class="text-left text-steel-600"><th class="py-1 font-medium">Name</th><th class="font-medium">Roles</th><th></th></tr></thead>
			<tbody>
				{#each data.people as p (p.id)}
					<tr class="border-t border-steel-200">
						<td class="py-2 font-medium"
							>{p.name}{#if p.archivedAt}<span class="font-normal text-steel-600"> (archived)</span>{/if}{#if locked(p.lockedUntil)}<span
									class="font-normal text-plum-700"
								>
									(locked)</span
								>{/if}</td
						>
						<td
							><div class="flex gap-4">
								{#each ROLES as r (r)}<Checkbox
										class="text-sm"
										checked={p.roles.includes(r)}
										aria-label="{p.name}: {r}"
										disabled={p.archivedAt !== null}
										onchange={() => send('PATCH', `/api/people/${p.id}`, { version: p.version, roles: toggled(p.roles, r) })}>{r}</Checkbox
									>{/each}
							</div></td
						>
						<td class="text-right whitespace-nowrap">
							{#if locked(p.lockedUntil)}<button
									type="button"
									class="mr-3 text-primary-700 underline"
									onclick={() => send('PATCH', `/api/people/${p.id}`, { version: p.version, unlock: true })}>Unlock</button
								>{/if}
							<button
								type="button"
								class="text-primary-700 underline"
								onclick={() => send('PATCH', `/api/people/${p.id}`, { version: p.version, archived: !p.archivedAt })}
								>{p.archivedAt ? 'Restore' : 'Archive'}</button
							>
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</Panel>
	<Panel title="Add a person">
		<form class="grid grid-cols-[1fr_160px_2fr_auto] items-end gap-4" onsubmit={add}>
			<div>
				<Label for="p-name" class="mb-1 text-steel-700">Name</Label><Input id="p-name" size="sm" required maxlength={80} bind:value={fresh.name} />
			</div>
			<div>
				<Label for="p-pin" class="mb-1 text-steel-700">PIN, 4 to 12 digits</Label><Input
					id="p-pin"
					size="sm"
					type="password"
					inputmode="numeric"
					required
					bind:value={fresh.pin}
					class="tab"
					autocomplete="new-password"
				/>
			</div>
			<fieldset class="flex gap-4 pb-2">
				<legend class="sr-only">Roles</legend>{#each ROLES as r (r)}<Checkbox
						class="text-sm"
						checked={fresh.roles.includes(r)}
						onchange={() => (fresh.roles = toggled(fresh.roles, r))}>{r}</Checkbox
					>{/each}
			</fieldset>
			<Button type="submit" size="sm" disabled={!fresh.roles.length}>Add</Button>
		</form>
	</Panel>
</main>
