<script lang="ts">
	import { Button, Checkbox, Input, Label } from 'flowbite-svelte';
	import { ROLES, toggled, type PersonRow, type Role } from './roles';

	let { person, onchange }: { person: PersonRow; onchange: (change: Record<string, unknown>) => Promise<boolean> } = $props();
	const isLocked = $derived(person.lockedUntil !== null && new Date(person.lockedUntil) > new Date());
	/** roles that wait for a PIN: an admin's is longer than one of the bench */
	let waiting = $state<Role[] | undefined>();
	let isAsking = $state(false);
	let pin = $state('');
	async function setRole(role: Role) {
		const roles = toggled(person.roles, role);
		if (role === 'admin' && roles.includes('admin')) {
			waiting = roles;
			isAsking = true;
		} else await onchange({ roles });
	}
	async function keepPin(e: SubmitEvent) {
		e.preventDefault();
		if (!(await onchange({ pin, ...(waiting ? { roles: waiting } : {}) }))) return;
		close();
	}
	function close() {
		isAsking = false;
		waiting = undefined;
		pin = '';
	}
</script>

<tr class="border-t border-steel-200">
	<td class="py-2 font-medium"
		>{person.name}{#if person.archivedAt}<span class="font-normal text-steel-600"> (archived)</span>{/if}{#if isLocked}<span
				class="font-normal text-plum-700"
			>
				(locked)</span
			>{/if}</td
	>
	<td
		><div class="flex gap-4">
			{#each ROLES as r (r)}<Checkbox
					class="text-sm"
					checked={(waiting ?? person.roles).includes(r)}
					aria-label="{person.name}: {r}"
					disabled={person.archivedAt !== null}
					onchange={() => setRole(r)}>{r}</Checkbox
				>{/each}
		</div></td
	>
	<td class="space-x-3 text-right whitespace-nowrap">
		{#if isLocked}<button type="button" class="text-primary-700 underline" onclick={() => onchange({ unlock: true })}>Unlock</button>{/if}
		{#if !person.archivedAt}<button type="button" class="text-primary-700 underline" onclick={() => (isAsking = true)}>New PIN</button>{/if}
		<button type="button" class="text-primary-700 underline" onclick={() => onchange({ archived: !person.archivedAt })}
			>{person.archivedAt ? 'Restore' : 'Archive'}</button
		>
	</td>
</tr>
{#if isAsking}
	<tr>
		<td colspan="3" class="pb-3">
			<form class="flex items-end gap-3" onsubmit={keepPin}>
				<div class="flex-1">
					<Label for="pin-{person.id}" class="mb-1 text-steel-700"
						>New PIN of {person.name}{waiting ? ', with the admin role' : ''}: 4 to 12 digits or a pass phrase; 8 or more for an admin</Label
					><Input id="pin-{person.id}" size="sm" type="password" required maxlength={72} autocomplete="new-password" class="tab" bind:value={pin} />
				</div>
				<Button type="submit" size="sm">Set it</Button><Button size="sm" color="light" onclick={close}>Leave it</Button>
			</form>
			<p class="mt-1 text-[13px] text-steel-600">Wherever {person.name} is signed in now, the session ends.</p>
		</td>
	</tr>
{/if}
