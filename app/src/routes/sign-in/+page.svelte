<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { call } from '$lib/call';
	import { benchQueue } from '$lib/desk/bench-queue.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { Button, Checkbox, Input, Label } from 'flowbite-svelte';

	let name = $state('');
	let pin = $state('');
	/** a tablet shows its number pad unless letters are asked for */
	let hasLetters = $state(false);
	let busy = $state(false);
	let message = $state('');

	async function submit(e: SubmitEvent) {
		e.preventDefault();
		busy = true;
		const r = await call('POST', '/api/sign-in', { name, pin });
		busy = false;
		if (!r.ok) {
			message = r.refusal.faults.length ? 'A name and a PIN of 4 to 12 digits, or a pass phrase, are needed.' : r.refusal.message;
			pin = '';
			return;
		}
		const next = page.url.searchParams.get('next') ?? '/';
		// only a path of our own: a link could carry another address
		await goto(/^\/(?!\/)/.test(next) ? next : '/', { invalidateAll: true });
	}
</script>

<main id="main" class="grid min-h-screen grid-cols-1 md:grid-cols-[1.1fr_1fr]">
	<div class="flex flex-col justify-center bg-steel-800 px-14 py-10 text-steel-100">
		<p class="font-display text-5xl font-semibold text-white">Sarta</p>
		<p class="mt-4 max-w-md text-lg">
			Plan the tacks and the weld order, see how thin stainless will pull, run the job at the bench, measure, and learn your own shop’s factors.
		</p>
		<!-- heat tint across a seam, cool sheet to hot line -->
		<div
			class="mt-10 h-3 max-w-md"
			style="background:linear-gradient(90deg,#8f9ca6,#f0d792 24%,#d9a441 36%,#8a3a68 45%,#2a5d86 50%,#8a3a68 55%,#d9a441 64%,#f0d792 76%,#8f9ca6)"
			aria-hidden="true"
		></div>
		<p class="mt-6 max-w-md text-sm text-steel-300">
			Forecasts are estimates with bands. Check on a coupon before trusting them on a part that matters. Pressure, food and drinking-water duty: code,
			licensed engineer and inspector decide, not this tool.
		</p>
	</div>
	<form class="flex flex-col justify-center gap-4 bg-steel-50 px-14" onsubmit={submit}>
		<h1 class="text-2xl">Sign in</h1>
		{#if message}<Notice kind="fault" title="Not signed in">{message}</Notice>{/if}
		{#if benchQueue.waiting.length}<Notice
				kind="caution"
				title={benchQueue.waiting.length === 1 ? 'One tap waits on this device' : `${benchQueue.waiting.length} taps wait on this device`}
				>They go as soon as anybody signs in, under the name of whoever made them.</Notice
			>{/if}
		<div>
			<Label for="name" class="mb-1">Name</Label>
			<Input id="name" autocomplete="username" bind:value={name} required maxlength={80} />
		</div>
		<div>
			<Label for="pin" class="mb-1">PIN or pass phrase</Label>
			<Input
				id="pin"
				type="password"
				inputmode={hasLetters ? 'text' : 'numeric'}
				autocomplete="current-password"
				bind:value={pin}
				required
				maxlength={72}
				class="tab"
			/>
			<Checkbox class="mt-2 text-sm" bind:checked={hasLetters}>Mine has letters</Checkbox>
		</div>
		<Button type="submit" size="lg" disabled={busy} class="w-full">{busy ? 'Checking…' : 'Sign in'}</Button>
	</form>
</main>
