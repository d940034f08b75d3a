<script lang="ts">
	/** The piece as lines, with what is at hand lit: the same picture as on the sheets. */
	import type { LineDrawing } from '$core/draw/lineDrawing';
	import { drawingSvg, type AtHand } from '$core/draw/svg';

	interface Props {
		drawing: LineDrawing;
		hand: AtHand;
		/** what a person who cannot see it is told */
		label: string;
		width?: number;
		height?: number;
	}
	let { drawing, hand, label, width = 420, height = 320 }: Props = $props();
	const svg = $derived(drawingSvg(drawing, hand, width, height));
</script>

<!-- letters and numbers only go into it: names of the plan never do -->
<div class="bg-white [&>svg]:h-auto [&>svg]:max-w-full" role="img" aria-label={label}>
	<!-- eslint-disable-next-line svelte/no-at-html-tags -- made by the program from numbers and single letters -->
	{@html svg}
</div>
