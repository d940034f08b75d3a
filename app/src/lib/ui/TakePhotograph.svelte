<script lang="ts">
	/** Opens the tablet's camera, or a file; what it gives is kept on the device and sent by itself. */
	import { photographQueue, type PhotographOf } from '$lib/desk/photograph-queue.svelte';

	interface Props {
		of: PhotographOf;
		/** classes of the button */
		look?: string;
		words?: string;
		ontaken?(): void;
	}
	let { of, look = 'text-primary-700 underline', words = 'Photograph', ontaken }: Props = $props();
	let input: HTMLInputElement;
	async function taken() {
		for (const file of input.files ?? []) await photographQueue.add(of, file);
		input.value = '';
		ontaken?.();
	}
</script>

<button type="button" class={look} onclick={() => input.click()}>{words}</button><input
	bind:this={input}
	class="hidden"
	type="file"
	accept="image/jpeg,image/png,image/webp"
	capture="environment"
	aria-label={words}
	onchange={taken}
/>
