<script lang="ts">
	/** How long until the piece is cold enough to be measured, by the heat clock of its own log. */
	import { onMount } from 'svelte';

	interface Props {
		/** ms since 1970, once it is worked out; nothing where no arc has burnt */
		coolAt: Promise<number | undefined> | undefined;
		/** a thermometer says that it is warm */
		isWarm: boolean;
	}
	let { coolAt, isWarm }: Props = $props();

	const LOOK_MS = 10_000;
	let now = $state(Date.now());
	onMount(() => {
		const timer = setInterval(() => (now = Date.now()), LOOK_MS);
		return () => clearInterval(timer);
	});
	const clock = (ms: number) => new Date(ms).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
	const inWords = (ms: number) => (ms < 90_000 ? `${Math.max(5, 5 * Math.round(ms / 5000))} s` : `${Math.round(ms / 60_000)} min`);
</script>

{#await coolAt then at}
	{#if at !== undefined && at > now}
		<p class="mt-3 text-sm text-straw-700" role="status">
			Still warm by the heat clock: cold enough to measure in about <strong class="tab">{inWords(at - now)}</strong>, at {clock(at)}.
		</p>
	{:else if at !== undefined && isWarm}
		<p class="mt-3 text-sm text-straw-700" role="status">
			By the heat clock it has been cold since {clock(at)}: look whether something warmed it since, and wait until the thermometer says so too.
		</p>
	{/if}
{/await}
