<script lang="ts">
	/** A part's flat layout to click on: outline, holes, bends, seams, and what is about to be put there. */
	import { layoutBox } from '$core/mesh/assemblyMesh';
	import type { Vec2 } from '$core/geometry/vec';
	import type { Part, PlanDocument } from '$core/document/schema';
	import { seamLetters } from '$core/layout/seamNames';

	interface Props {
		part: Part;
		plan: PlanDocument;
		/** of what is to come: its outline or line, and its own places */
		shape: readonly Vec2[];
		closed: boolean;
		marks: readonly Vec2[];
		/** beside each mark; counted from 1 where they are not given */
		numbers?: readonly number[];
		isRefused: boolean;
		onplace: (at: Vec2) => void;
	}
	let { part, plan, shape, closed, marks, numbers, isRefused, onplace }: Props = $props();
	const box = $derived(layoutBox(part.outline));
	const margin = $derived(0.04 * Math.max(box.x1 - box.x0, box.y1 - box.y0));
	const w = $derived(box.x1 - box.x0 + 2 * margin);
	const h = $derived(box.y1 - box.y0 + 2 * margin);
	const x = (v: number) => v - box.x0 + margin;
	const y = (v: number) => box.y1 + margin - v;
	const ring = (points: readonly Vec2[]) => points.map(([a, b]) => `${x(a)},${y(b)}`).join(' ');
	const letters = $derived(seamLetters(plan.joints));
	const seams = $derived(
		plan.joints
			.filter((j) => !j.stock)
			.flatMap((j) => [j.a, j.b].filter((s) => s.part === part.id).map((s) => ({ id: j.id, path: s.path, letter: letters.get(j.id)! })))
	);
	const pen = $derived(Math.max(w, h) / 300);
	function click(e: MouseEvent) {
		const svg = e.currentTarget as SVGSVGElement;
		const m = svg.getScreenCTM();
		if (!m) return;
		const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(m.inverse());
		onplace([Math.round(p.x + box.x0 - margin), Math.round(box.y1 + margin - p.y)]);
	}
</script>

<!-- the numbers beside it do the same by keyboard -->
<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
<svg
	viewBox="0 0 {w} {h}"
	class="max-h-56 w-full cursor-crosshair bg-steel-50"
	role="img"
	aria-label="{part.name}, flat: click where it goes"
	onclick={click}
>
	<polygon points={ring(part.outline)} fill="#fff" stroke="#29323a" stroke-width={pen * 1.5} />
	{#each part.holes as hole, i (i)}<polygon points={ring(hole)} fill="#e4e9ec" stroke="#29323a" stroke-width={pen} />{/each}
	{#each part.bends as b (b.id)}<line
			x1={x(b.from[0])}
			y1={y(b.from[1])}
			x2={x(b.to[0])}
			y2={y(b.to[1])}
			stroke="#5b6b77"
			stroke-width={pen}
			stroke-dasharray="{pen * 6} {pen * 3}"
		/>{/each}
	{#each seams as s, i (i)}
		{@const m = s.path[Math.floor(s.path.length / 2)]}
		{@const n = s.path[Math.max(0, Math.floor(s.path.length / 2) - 1)]}
		<polyline points={ring(s.path)} fill="none" stroke="#c77d0a" stroke-width={pen * 2.5} />
		<text x={x((m[0] + n[0]) / 2)} y={y((m[1] + n[1]) / 2)} font-size={pen * 13} fill="#6b4300" text-anchor="middle" dominant-baseline="middle"
			>{s.letter}</text
		>
	{/each}
	{#if shape.length > 1}
		{#if closed}<polygon
				points={ring(shape)}
				fill={isRefused ? '#f4d9e6' : '#cfe8dc'}
				fill-opacity="0.7"
				stroke={isRefused ? '#86194f' : '#14603f'}
				stroke-width={pen * 2}
				stroke-dasharray={isRefused ? `${pen * 4} ${pen * 3}` : undefined}
			/>{:else}<polyline
				points={ring(shape)}
				fill="none"
				stroke={isRefused ? '#86194f' : '#14603f'}
				stroke-width={pen * 4}
				stroke-dasharray={isRefused ? `${pen * 6} ${pen * 4}` : undefined}
			/>{/if}
	{/if}
	{#each marks as m, i (i)}<circle cx={x(m[0])} cy={y(m[1])} r={pen * 4} fill="#0f4c81" /><text
			x={x(m[0]) + pen * 6}
			y={y(m[1]) - pen * 6}
			font-size={pen * 13}
			fill="#0f4c81">{numbers?.[i] ?? (marks.length > 1 ? i + 1 : '')}</text
		>{/each}
</svg>
