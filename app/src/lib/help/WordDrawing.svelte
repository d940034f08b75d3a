<script lang="ts">
	/** The drawing of a word: says nothing that the words beside it do not. */
	import type { Shape } from './drawings';

	let { shapes }: { shapes: readonly Shape[] } = $props();
	const STYLE: Record<Shape[0], { fill: string; stroke: string; width: number; dash?: string }> = {
		sheet: { fill: '#dfe3e6', stroke: '#3b4650', width: 1 },
		plate: { fill: 'none', stroke: '#3b4650', width: 3.5 },
		weld: { fill: '#96660f', stroke: 'none', width: 0 },
		tool: { fill: '#3b4650', stroke: 'none', width: 0 },
		copper: { fill: '#b0693c', stroke: 'none', width: 0 },
		ink: { fill: 'none', stroke: '#29323a', width: 1.2 },
		dash: { fill: 'none', stroke: '#66747f', width: 1.2, dash: '3 2.5' },
		move: { fill: 'none', stroke: '#2a5d86', width: 1.8 }
	};
</script>

<svg viewBox="0 0 72 44" width="72" height="44" class="shrink-0" aria-hidden="true">
	{#each shapes as [is, d], i (i)}
		{@const s = STYLE[is]}
		<path {d} fill={s.fill} stroke={s.stroke} stroke-width={s.width} stroke-dasharray={s.dash} stroke-linejoin="round" />
	{/each}
</svg>
