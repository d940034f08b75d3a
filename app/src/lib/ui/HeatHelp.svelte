<script lang="ts">
	/** Sources and limits of the heat and response numbers. */
</script>

<details class="border-t-2 border-steel-700 bg-white px-4 py-3 text-sm">
	<summary class="cursor-pointer font-display text-[17px] font-semibold">How these numbers are made</summary>
	<ul class="mt-2 list-disc space-y-1.5 pl-5 text-[13px]">
		<li>Arc energy U·I/v and net heat k·U·I/v, k = 0.6 for TIG: EN 1011-1. The k is a convention; measured TIG lies between 0.6 and 0.8.</li>
		<li>
			Melt and tint width: moving line source in a thin plate with loss to air, Rosenthal (1946). Tint is taken at 300 °C (common practice, no
			source).
		</li>
		<li>Tendon force: 0.335 (Eα/ρc) q, Okerblom and Leggatt; lowered by loss to air and by a bar through a conduction solution across the seam.</li>
		<li>Shrinkage across: (α/ρc)(q/t) for a free full-penetration butt; a root gap adds 0.10 of itself (Blodgett).</li>
		<li>Angular change: the pool is wider at the top than at the root; its unequal shrinkage turns the joint. Own estimate: wide band.</li>
		<li>Wrong by a factor is possible: the bands say by how much. Only coupons of your own metal narrow them.</li>
	</ul>
</details>
