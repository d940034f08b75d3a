<script lang="ts">
	import { refresh } from '$lib/refresh';
	import { call, type Refusal } from '$lib/call';
	import Choice from '$lib/ui/Choice.svelte';
	import { groundKept, useGround, type Ground } from '$lib/ui/ground';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';
	import { onMount } from 'svelte';

	let { data } = $props();
	let pin = $state('');
	let newPin = $state('');
	let again = $state('');
	let refusal = $state<Refusal | undefined>();
	let isDone = $state(false);
	const differs = $derived(again !== '' && again !== newPin);
	const UNITS = [
		{ value: 'mm', name: 'millimetres' },
		{ value: 'in', name: 'inches' }
	];
	const ON: { value: Ground; name: string }[] = [
		{ value: 'light', name: 'light' },
		{ value: 'dark', name: 'dark' },
		{ value: 'device', name: 'as this device is set' }
	];
	let ground = $state<Ground>('light');
	onMount(() => {
		ground = groundKept();
	});
	function setGround(v: string) {
		ground = v as Ground;
		useGround(ground);
	}
	async function setUnits(units: string) {
		const r = await call('PATCH', '/api/me', { units });
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await refresh();
	}
	async function change(e: SubmitEvent) {
		e.preventDefault();
		isDone = false;
		const r = await call('PATCH', '/api/me', { pin, newPin });
		refusal = r.ok ? undefined : r.refusal;
		isDone = r.ok;
		if (r.ok) pin = newPin = again = '';
	}
</script>

<main id="main" class="mx-auto max-w-[560px] space-y-5 px-6 py-6">
	<h1 class="text-2xl">{data.person?.name}</h1>
	<Panel title="Lengths in">
		<Choice label="On every screen and sheet" value={data.person?.units ?? 'mm'} items={UNITS} onchange={setUnits} />
	</Panel>
	<Panel title="Ground of the screen">
		<Choice label="On this device" value={ground} items={ON} onchange={setGround} />
		<p class="mt-2 text-sm text-steel-600">Printed sheets stay black on white. The run screen has a darker ground of its own for a booth.</p>
	</Panel>
	<Panel title="A new PIN">
		{#if refusal}<div class="mb-3"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
		{#if isDone}<div class="mb-3">
				<Notice kind="done" title="Changed">The new PIN holds from now on. Wherever else you were signed in, the session has ended.</Notice>
			</div>{/if}
		<form class="space-y-4" onsubmit={change}>
			<div>
				<Label for="pin" class="mb-1 text-steel-700">PIN until now</Label><Input
					id="pin"
					type="password"
					autocomplete="current-password"
					required
					maxlength={72}
					bind:value={pin}
					class="tab"
				/>
			</div>
			<div>
				<Label for="new-pin" class="mb-1 text-steel-700"
					>New PIN: 4 to 12 digits, or a pass phrase of 8 to 72 characters; 8 or more for an admin</Label
				><Input id="new-pin" type="password" autocomplete="new-password" required maxlength={72} bind:value={newPin} class="tab" />
			</div>
			<div>
				<Label for="again" class="mb-1 text-steel-700">The new PIN again</Label><Input
					id="again"
					type="password"
					autocomplete="new-password"
					required
					maxlength={72}
					bind:value={again}
					class="tab"
					aria-invalid={differs ? 'true' : undefined}
				/>
				{#if differs}<p class="mt-1 text-sm text-plum-700">The two are not the same.</p>{/if}
			</div>
			<Button type="submit" disabled={!pin || !newPin || again !== newPin}>Change it</Button>
		</form>
	</Panel>
</main>
