<script lang="ts">
	/** The colours of a deviation map, from as far one way to as far the other. */
	import { COLOURS } from '$core/draw/heightMap';
	import type { LengthUnit } from '$core/units/length';
	import { quantity } from '$lib/units';

	let { largestMm, unit }: { largestMm: number; unit: LengthUnit } = $props();
</script>

<span class="tab ml-auto flex items-center gap-2 whitespace-nowrap"
	>−{quantity(largestMm, 'mm', unit)}<span class="h-3 w-32" style="background:linear-gradient(90deg,{COLOURS.join(',')})" aria-hidden="true"
	></span>+{quantity(largestMm, 'mm', unit)}</span
>
