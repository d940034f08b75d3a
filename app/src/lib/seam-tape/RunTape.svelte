<script lang="ts">
	/** One seam for the bench: big, with this run lit up or these tacks marked. */
	import { pathLength } from '$core/geometry/polyline';
	import type { Joint } from '$core/document/schema';
	import { length as format } from '$lib/units';
	interface Props {
		joint: Joint;
		unit: 'mm' | 'in';
		from?: number;
		to?: number;
		tacks?: number[];
	}
	let { joint, unit, from, to, tacks = [] }: Props = $props();
	const l = $derived(pathLength(joint.a.path));
	const W = 1160;
	const x = (mm: number) => 20 + (mm / l) * (W - 40);
	const step = $derived(l > 900 ? 100 : l > 200 ? 50 : 10);
	const ticks = $derived(Array.from({ length: Math.floor(l / step) + 1 }, (_, i) => i * step));
</script>

<svg viewBox="0 0 {W} 110" class="w-full" role="img" aria-label="{joint.name}, {format(l, unit, 1)} long">
	<rect x={x(0)} y="40" width={x(l) - x(0)} height="34" fill="#eceff1" stroke="#66747f" stroke-width="2" />
	<path d="M{x(0)} 30v54" stroke="#192026" stroke-width="6" />
	{#each ticks as t (t)}<path d="M{x(t)} 74v-12" stroke="#4d5963" stroke-width="2" /><text
			x={x(t)}
			y="100"
			font-size="20"
			text-anchor="middle"
			font-family="JetBrains Mono Variable"
			fill="#29323a">{format(t, unit, 0).replace(/ (mm|in)$/, '')}</text
		>{/each}
	{#if from !== undefined && to !== undefined}
		{@const a = x(from)}
		{@const b = x(to)}
		{@const d = Math.sign(b - a)}
		<rect x={Math.min(a, b)} y="40" width={Math.abs(b - a)} height="34" fill="#f0d792" stroke="#96660f" stroke-width="3" />
		<path d="M{a} 18H{b - d * 4}" stroke="#96660f" stroke-width="7" />
		<path d="M{b - d * 22} 5L{b} 18L{b - d * 22} 31z" fill="#96660f" />
	{/if}
	{#each tacks as t, i (i)}<circle cx={x(t)} cy="57" r="9" fill="#29323a" /><text
			x={x(t)}
			y="30"
			font-size="18"
			text-anchor="middle"
			font-family="JetBrains Mono Variable"
			fill="#192026">{i + 1}</text
		>{/each}
</svg>
