<script lang="ts">
	/** Band against tolerance on a short rule: the bracket is the limit, the bar the 90 % band, the tick the prediction. */
	interface Props {
		low: number;
		high: number;
		value: number;
		lower?: number;
		upper: number;
		measured?: number;
	}
	let { low, high, value, lower, upper, measured }: Props = $props();
	const W = 120;
	const range = $derived.by(() => {
		const lo = Math.min(lower ?? 0, low, measured ?? low);
		const hi = Math.max(upper, high, measured ?? high);
		const pad = (hi - lo || 1) * 0.06;
		return [lo - pad, hi + pad];
	});
	const x = (v: number) => ((v - range[0]) / (range[1] - range[0])) * W;
</script>

<svg viewBox="0 0 {W} 14" class="block h-3.5 w-full" preserveAspectRatio="none" aria-hidden="true">
	<rect x={x(lower ?? Math.min(0, range[0]))} y="4.5" width={Math.max(0, x(upper) - x(lower ?? Math.min(0, range[0])))} height="5" fill="#d9dee2" />
	<path d="M{x(upper)} 1v12M{x(upper) - 3} 1h3M{x(upper) - 3} 13h3" stroke="#29323a" fill="none" />
	{#if lower !== undefined}<path d="M{x(lower)} 1v12M{x(lower) + 3} 1h-3M{x(lower) + 3} 13h-3" stroke="#29323a" fill="none" />{/if}
	<rect x={x(low)} y="5.5" width={Math.max(1, x(high) - x(low))} height="3" fill="#39739f" />
	<rect x={x(value) - 1} y="2.5" width="2" height="9" fill="#1d3e59" />
	{#if measured !== undefined}<path d="M{x(measured) - 3} 0l3 5l3 -5z" fill="#96660f" />{/if}
</svg>
