<script lang="ts">
	/** Sources and limits of the heat and response numbers. */
</script>

<details class="border-t-2 border-steel-700 bg-white px-4 py-3 text-sm">
	<summary class="cursor-pointer font-display text-[17px] font-semibold">How these numbers are made</summary>
	<ul class="mt-2 list-disc space-y-1.5 pl-5 text-[13px]">
		<li>Arc energy U·I/v and net heat k·U·I/v, k = 0.6 for TIG: EN 1011-1. The k is a convention; measured TIG lies between 0.6 and 0.8.</li>
		<li>
			Melt and tint width: heat of a travelling arc in each sheet, with latent heat, loss to air and what a bar takes. Tint is taken at 300 °C (common
			practice, no source).
		</li>
		<li>
			Tendon force, shrinkage across, angular change: each sheet as a layered strip under that heat, which yields, forgets and bends on the piece’s
			own stiffness. The closed forms of Okerblom, Leggatt and Blodgett stand beside it for comparison.
		</li>
		<li>
			At a corner the sheets give way to each other: half of the shrinkage of a butt and half of the closing that solid models of a corner have are
			taken, and both ends are in the band. A web bends the sheet it stands on away from it.
		</li>
		<li>Wrong by a factor is possible: the bands say by how much. Only coupons of your own metal narrow them.</li>
	</ul>
</details>
