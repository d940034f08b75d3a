<script lang="ts">
	/** Photographs of a piece that are still on this device, and those that the server did not take. */
	import { photographQueue } from '$lib/desk/photograph-queue.svelte';

	let { piece }: { piece: string } = $props();
	const own = $derived(photographQueue.waiting.filter((p) => p.pieceId === piece));
	const onWay = $derived(own.filter((p) => p.message === undefined).length);
</script>

{#if onWay}<p class="text-straw-700" role="status">{onWay === 1 ? 'One photograph is' : `${onWay} photographs are`} on the way.</p>{/if}
{#each own.filter((p) => p.message !== undefined) as p (p.clientId)}
	<p class="text-plum-700" role="alert">
		A photograph was not taken: {p.message}.
		<button type="button" class="min-h-14 px-2 underline" onclick={() => photographQueue.leaveOut(p.clientId)}>Leave it out</button>
	</p>
{/each}
