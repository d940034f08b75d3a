<script lang="ts">
	import type { DeviceKind } from '$core/document/words';
	import { refresh } from '$lib/refresh';
	import { page } from '$app/state';
	import { call, type Refusal } from '$lib/call';
	import Choice from '$lib/ui/Choice.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { Button, Input, Label } from 'flowbite-svelte';
	import { onMount } from 'svelte';

	let { data } = $props();
	const mayPlan = $derived(data.person?.roles.some((r) => r === 'planner' || r === 'admin') ?? false);
	const mayWork = $derived(data.person?.roles.some((r) => r !== 'inspector') ?? false);
	let kind = $state<DeviceKind>('arc');
	let name = $state('');
	let isSimulated = $state(true);
	let refusal = $state<Refusal | undefined>();
	/** told once */
	let made = $state<{ name: string; token: string } | undefined>();
	const wordsOf = (k: DeviceKind) => data.kinds.find((x) => x.kind === k)!;

	async function send<T>(method: 'POST' | 'PATCH', path: string, body: unknown): Promise<T | undefined> {
		const r = await call<T>(method, path, body);
		refusal = r.ok ? undefined : r.refusal;
		if (r.ok) await refresh();
		return r.ok ? r.data : undefined;
	}
	async function add(e: SubmitEvent) {
		e.preventDefault();
		const given = name.trim();
		const r = await send<{ token: string }>('POST', '/api/devices', { kind, name: given, isSimulated });
		if (!r) return;
		made = isSimulated ? undefined : { name: given, token: r.token };
		name = '';
	}
	const at = (piece: string) => (piece ? { piece } : { isDetached: true });
	onMount(() => {
		const t = setInterval(() => void refresh(), 5000);
		return () => clearInterval(t);
	});
	const big = 'min-h-14 rounded-sm border-2 border-steel-500 px-4 text-lg';
</script>

<svelte:head><title>Devices · Sarta</title></svelte:head>

<main id="main" class="mx-auto max-w-[1180px] px-4 py-5 sm:px-6">
	<p class="text-sm"><a class="text-primary-700 underline" href="/bench">At the bench</a></p>
	<h1 class="text-3xl">Devices</h1>
	<p class="mt-1 max-w-3xl text-lg text-steel-700">
		What measures by itself at a piece. A simulated device is a small program that sends as a real one would: every value of it says so, and it proves
		nothing of a piece.
	</p>
	{#if refusal}<div class="mt-3"><Notice kind="fault" faults={refusal.faults}>{refusal.message}</Notice></div>{/if}
	{#if made}
		<div class="mt-3 border-l-4 border-straw-600 bg-straw-50 p-3" role="status">
			<p><strong>{made.name}</strong> sends with this token. It is shown now and never again:</p>
			<p class="tab my-2 bg-white p-2 text-lg break-all">{made.token}</p>
			<pre class="overflow-x-auto bg-white p-2 text-sm">{`curl -X POST ${page.url.origin}/api/devices/readings \\
  -H "Authorization: Bearer ${made.token}" \\
  -H "Content-Type: application/x-ndjson" \\
  --data '{"id":"${'…a new UUID…'}","at":"${new Date().toISOString()}", …}'`}</pre>
			<Button class="mt-2" size="sm" color="alternative" onclick={() => (made = undefined)}>I have it</Button>
		</div>
	{/if}
	<ul class="mt-4 grid gap-4 md:grid-cols-2">
		{#each data.devices as d (d.id)}
			<li class="border-t-4 bg-white p-4 {d.isRunning ? 'border-primary-700' : 'border-steel-400'}">
				<div class="flex flex-wrap items-baseline justify-between gap-2">
					<h2 class="text-xl">{d.name}</h2>
					<span class="text-steel-600">{wordsOf(d.kind).words}{d.isSimulated ? ', simulated' : ''}</span>
				</div>
				<p class="text-steel-600">
					At a piece, it {wordsOf(d.kind).does}. {d.lastAt ? `Last heard ${new Date(d.lastAt).toLocaleTimeString()}.` : 'Not heard yet.'}
				</p>
				<label class="mt-2 block text-steel-700" for="at-{d.id}"
					>Stands at
					<select
						id="at-{d.id}"
						class="mt-1 min-h-14 w-full rounded-sm border-steel-400 text-lg"
						disabled={!mayWork}
						value={d.pieceId ?? ''}
						onchange={(e) => send('PATCH', `/api/devices/${d.id}`, at(e.currentTarget.value))}
					>
						<option value="">no piece</option>
						{#each data.pieces as p (p.id)}<option value={p.id}>{p.name}</option>{/each}
						{#if d.pieceId && !data.pieces.some((p) => p.id === d.pieceId)}<option value={d.pieceId}>{d.piece}</option>{/if}
					</select>
				</label>
				{#if mayWork}
					<div class="mt-3 flex flex-wrap gap-2">
						{#if d.isSimulated}
							<button
								type="button"
								class="{big} {d.isRunning ? '' : 'bg-primary-700 text-white'}"
								onclick={() => send('POST', `/api/devices/${d.id}/simulate`, { what: d.isRunning ? 'stop' : 'start' })}
								>{d.isRunning ? 'Stop' : 'Start'}<span class="sr-only"> {d.name}</span></button
							>
							{#if d.isRunning && (d.kind === 'switch' || d.kind === 'gauge')}
								<button type="button" class={big} onclick={() => send('POST', `/api/devices/${d.id}/simulate`, { what: 'press' })}
									>{d.kind === 'switch' ? 'Press it' : 'Send a value'}<span class="sr-only">: {d.name}</span></button
								>
							{/if}
							<span class="self-center" role="status">{d.isRunning ? 'It runs.' : 'It does not run.'}</span>
						{/if}
						<button
							type="button"
							class="ml-auto min-h-14 px-2 text-primary-700 underline"
							onclick={() => send('PATCH', `/api/devices/${d.id}`, { archived: true })}>Put away<span class="sr-only"> {d.name}</span></button
						>
					</div>
				{/if}
			</li>
		{/each}
	</ul>
	{#if !data.devices.length}<p class="mt-4 border-t-4 border-steel-400 bg-white p-4 text-lg">None yet.</p>{/if}
	{#if mayPlan}
		<div class="mt-5 max-w-2xl">
			<Panel title="Add a device">
				<form class="grid grid-cols-2 gap-3" onsubmit={add}>
					<Choice
						label="What it is"
						value={kind}
						items={data.kinds.map((k) => ({ value: k.kind, name: k.words }))}
						onchange={(v) => (kind = v as DeviceKind)}
					/>
					<div>
						<Label for="device-name" class="mb-1 text-steel-700">Name</Label><Input
							id="device-name"
							size="sm"
							required
							maxlength={80}
							bind:value={name}
						/>
					</div>
					<label class="col-span-2 flex items-center gap-2"
						><input type="checkbox" bind:checked={isSimulated} /> Simulated: a program that Sarta starts. Otherwise it is told a token to send with.</label
					>
					<div><Button type="submit" size="sm">Add it</Button></div>
				</form>
			</Panel>
		</div>
	{/if}
</main>
