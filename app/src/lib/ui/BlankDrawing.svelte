<script lang="ts">
	import type { Blank } from '$core/families/blank';
	import type { Vec2 } from '$core/geometry/vec';
	let { blank }: { blank: Blank } = $props();
	const ring = (r: Vec2[]) => `M${r.map((p) => `${p[0]} ${-p[1]}`).join('L')}Z`;
	const xs = $derived(blank.outline.map((p) => p[0]));
	const ys = $derived(blank.outline.map((p) => p[1]));
	const box = $derived([Math.min(...xs), Math.min(...ys), Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)]);
	const pad = $derived(Math.max(box[2], box[3]) * 0.04);
</script>

<svg viewBox="{box[0] - pad} {-box[1] - box[3] - pad} {box[2] + 2 * pad} {box[3] + 2 * pad}" class="h-16 w-20 shrink-0" aria-hidden="true">
	<path
		d={[blank.outline, ...blank.holes].map(ring).join('')}
		fill="#eceff1"
		fill-rule="evenodd"
		stroke="#3b4650"
		vector-effect="non-scaling-stroke"
	/>
	{#each blank.bendLines as b, i (i)}<line
			x1={b.from[0]}
			y1={-b.from[1]}
			x2={b.to[0]}
			y2={-b.to[1]}
			stroke="#96660f"
			stroke-dasharray="4 3"
			vector-effect="non-scaling-stroke"
		/>{/each}
</svg>
