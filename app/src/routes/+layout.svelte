<script lang="ts">
	import '@fontsource/barlow/500.css';
	import '@fontsource/barlow/600.css';
	import '@fontsource/ibm-plex-sans/400.css';
	import '@fontsource/ibm-plex-sans/500.css';
	import '@fontsource/ibm-plex-sans/600.css';
	import '@fontsource-variable/jetbrains-mono';
	import '../app.css';
	import { goto } from '$app/navigation';
	import { refresh } from '$lib/refresh';
	import { page } from '$app/state';
	import { call } from '$lib/call';
	import { isLearnerOnly } from '$lib/people/roles';
	import { benchQueue } from '$lib/desk/bench-queue.svelte';
	import { photographQueue } from '$lib/desk/photograph-queue.svelte';
	import { followDevice } from '$lib/ui/ground';
	import { onMount } from 'svelte';

	let { data, children } = $props();

	async function setUnits(units: 'mm' | 'in') {
		const r = await call('PATCH', '/api/me', { units });
		if (r.ok) await refresh();
	}
	async function leave() {
		await call('POST', '/api/sign-out');
		await goto('/sign-in', { invalidateAll: true });
	}
	// taps that wait on this device go from whatever page is open
	$effect(() => {
		void benchQueue.begin(data.person);
		void photographQueue.begin(data.person);
	});
	// fetched when nothing else is asked for, so that it is there when the network is not
	onMount(() => {
		const idle = window.requestIdleCallback ?? ((f: () => void) => window.setTimeout(f, 4000));
		idle(() => void import('$lib/help/HelpDialog.svelte').catch(() => {}));
	});
	onMount(followDevice);
	// the innermost page is mounted first: from here on every field and button answers (app.css shows that it is still coming)
	onMount(() => {
		document.documentElement.dataset.awake = 'yes';
	});
	onMount(() => () => {
		benchQueue.end();
		photographQueue.end();
	});
	let help = $state(false);
	/** shown once, it stays: the next time it is there at once */
	let asked = $state(false);
	function ask() {
		asked = help = true;
	}
	function helpKey(e: KeyboardEvent) {
		const typing = (e.target as HTMLElement).closest('input, textarea, select');
		if (e.key !== 'F1' && (e.key !== '?' || typing)) return;
		e.preventDefault();
		ask();
	}
	const waiting = $derived(benchQueue.waiting.length + benchQueue.refused.length);
	/** a learner has the practice bench and nothing else */
	const works = $derived(!!data.person && !isLearnerOnly(data.person.roles));
	const onBench = $derived(page.url.pathname.endsWith('/weld-out'));
</script>

<svelte:window onkeydown={data.person ? helpKey : undefined} />
<svelte:head><title>Sarta</title></svelte:head>
<a href="#main" class="sr-only focus:not-sr-only focus:absolute focus:top-2 focus:left-2 focus:z-50 focus:bg-white focus:px-3 focus:py-2"
	>Skip to the work</a
>
{#if data.person}
	<header class="flex h-12 items-center gap-3 bg-steel-800 px-3 text-steel-100 scheme-light sm:gap-5 sm:px-5">
		<a href="/" class="flex items-center gap-2 font-display text-lg font-semibold tracking-wide text-white">
			<svg viewBox="0 0 32 32" class="h-6 w-6" aria-hidden="true"
				><path d="M4 25h24M7 25l4-15M25 25l-4-15" fill="none" stroke="#bcc5cc" stroke-width="3" stroke-linecap="round" /><path
					d="M10 10q6 5 12 0"
					fill="none"
					stroke="#d9a441"
					stroke-width="3"
					stroke-linecap="round"
				/></svg
			>
			<span class="max-sm:sr-only">Sarta</span>
		</a>
		<nav class="flex min-w-0 gap-3 text-sm max-sm:overflow-x-auto sm:shrink-0 sm:gap-4" aria-label="Sections">
			{#if works}
				<a href="/jobs" class="hover:text-white" class:text-straw-200={page.url.pathname === '/jobs'}>Jobs</a>
				<a href="/bench" class="hover:text-white" class:text-straw-200={page.url.pathname === '/bench'}>Bench</a>
				<a href="/library" class="hover:text-white" class:text-straw-200={page.url.pathname.startsWith('/library')}>Library</a>
				<a href="/logbook" class="hover:text-white max-sm:hidden" class:text-straw-200={page.url.pathname === '/logbook'}>Logbook</a>
				<a href="/calculators" class="hover:text-white" class:text-straw-200={page.url.pathname.startsWith('/calculators')}
					><span class="max-sm:hidden">Calculators</span><span class="sm:hidden">Sums</span></a
				>
			{/if}
			<a href="/practice" class="hover:text-white {works ? 'max-sm:hidden' : ''}" class:text-straw-200={page.url.pathname.startsWith('/practice')}
				>Practice</a
			>
			{#if data.person.roles.includes('admin')}<a href="/people" class="hover:text-white" class:text-straw-200={page.url.pathname === '/people'}
					>People</a
				>{/if}
		</nav>
		<div class="ml-auto flex min-w-0 shrink-0 items-center gap-3 text-sm sm:shrink sm:gap-4">
			{#if !onBench}
				<fieldset class="flex items-center gap-1 max-sm:hidden">
					<legend class="sr-only">Units</legend>
					{#each ['mm', 'in'] as const as u (u)}
						<button
							type="button"
							class="rounded-sm px-2 py-0.5 {data.person.units === u ? 'bg-steel-100 text-steel-900' : 'text-steel-300 hover:text-white'}"
							aria-pressed={data.person.units === u}
							onclick={() => setUnits(u)}>{u}</button
						>
					{/each}
				</fieldset>
			{/if}
			{#if waiting && !onBench}<span class="rounded-sm bg-straw-200 px-2 py-0.5 text-steel-900" role="status"
					>{waiting === 1 ? '1 tap waits' : `${waiting} taps wait`} on this device</span
				>{/if}
			<button
				type="button"
				class="h-8 w-8 shrink-0 rounded-full border border-steel-500 hover:text-white"
				aria-label="Help"
				title="Help (? or F1)"
				onclick={ask}>?</button
			>
			<a href="/me" class="min-w-0 truncate hover:text-white max-sm:max-w-14"
				>{data.person.name} <span class="hidden text-steel-300 md:inline">· {data.person.roles.join(', ')}</span></a
			>
			<button type="button" class="shrink-0 whitespace-nowrap underline underline-offset-4 hover:text-white" onclick={leave}>Sign out</button>
		</div>
	</header>
{/if}
{@render children()}
{#if asked}{#await import('$lib/help/HelpDialog.svelte') then { default: HelpDialog }}<HelpDialog bind:open={help} />{/await}{/if}
