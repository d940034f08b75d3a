<script lang="ts">
	/** The joint's weld symbol after ISO 2553, as it would stand on a drawing. */
	import { SYMBOL_PATHS, symbolOf } from '$core/formats/weldSymbol';
	import { isClosed, pathLength } from '$core/geometry/polyline';
	import type { Joint, PlanDocument } from '$core/document/schema';
	let { joint, plan }: { joint: Joint; plan: PlanDocument } = $props();
	const thickness = $derived(Math.min(...[joint.a.part, joint.b.part].map((id) => plan.parts.find((p) => p.id === id)?.thicknessMm ?? 1)));
	const process = $derived(plan.settings.find((s) => s.id === joint.settings)?.process ?? 'TIG');
	const s = $derived(symbolOf(joint, pathLength(joint.a.path), thickness, process, isClosed(joint.a.path)));
	const y = $derived(s.arrowSide ? 22 : 27);
	const words = $derived(
		`Weld symbol: ${s.symbol.replace('-', ' ')}${s.size ? `, size ${s.size}` : ''}, length ${s.length} mm, on the ${s.arrowSide ? 'arrow' : 'other'} side${s.closed ? ', all round' : ''}, process ${s.tail}`
	);
</script>

<svg viewBox="0 0 132 44" class="h-11 w-32" role="img" aria-label={words}>
	<g fill="none" stroke="#29323a" stroke-width="1.2">
		<path d="M4 40L24 22H104M4 40l2.5 -6M4 40l6 -2" />
		<path d="M24 27H104" stroke-dasharray="5 3" />
		<path d="M104 22l8 -7M104 22l8 7" />
		<path d={SYMBOL_PATHS[s.symbol](y, s.arrowSide ? 1 : -1)} />
		{#if s.closed}<circle cx="24" cy="22" r="4" />{/if}
	</g>
	<g font-size="9" fill="#29323a">
		<text x="53" y={s.arrowSide ? 19 : 37} text-anchor="end">{s.size}</text>
		<text x="69" y={s.arrowSide ? 19 : 37}>{s.length}</text>
		<text x="114" y="25" font-size="8">{s.tail}</text>
	</g>
</svg>
