<script lang="ts">
	/** What was photographed on a step, in small; asked for when the step is shown and when one arrives. */
	import { call } from '$lib/call';
	import { photographQueue } from '$lib/desk/photograph-queue.svelte';
	import WaitingPhotographs from '$lib/ui/WaitingPhotographs.svelte';

	let { piece, step }: { piece: string; step: string } = $props();
	interface Head {
		clientId: string;
		step: string | null;
		person: string;
	}
	let all = $state.raw<Head[]>([]);
	$effect(() => {
		void photographQueue.arrived;
		const asked = piece;
		void call<{ photographs: Head[] }>('GET', `/api/pieces/${asked}/photographs`).then((r) => {
			// with the server gone, what was seen stays
			if (r.ok && asked === piece) all = r.data.photographs;
		});
	});
	const own = $derived(all.filter((p) => p.step === step));
</script>

<div class="mt-2 text-lg">
	{#if own.length}
		<ul class="flex flex-wrap gap-2" aria-label="Photographs of this step">
			{#each own as p (p.clientId)}
				<li>
					<a class="block min-h-14 min-w-14" href="/api/pieces/{piece}/photographs/{p.clientId}" target="_blank" rel="noopener"
						><img class="h-20 border border-steel-300" src="/api/pieces/{piece}/photographs/{p.clientId}?small" alt="Photograph by {p.person}" /></a
					>
				</li>
			{/each}
		</ul>
	{/if}
	<WaitingPhotographs {piece} />
</div>
