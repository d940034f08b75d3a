<script lang="ts">
	/** A joint's section, to no scale: two sheets in their thicknesses' proportion, the gap, the weld where it goes. */
	import type { Joint, PlanDocument } from '$core/document/schema';
	import type { JointType } from '$core/document/words';
	/** how each kind of joint is drawn: a new kind without a drawing does not compile */
	const DRAWN: Record<JointType, 'butt' | 'edge' | 'overlap' | 'lap' | 'standing' | 'tube'> = {
		butt: 'butt',
		'corner-edge': 'edge',
		'corner-overlap': 'overlap',
		lap: 'lap',
		tee: 'standing',
		'flange-to-tube': 'tube',
		port: 'tube'
	};
	let { joint: j, plan }: { joint: Joint; plan: PlanDocument } = $props();
	const drawn = $derived(DRAWN[j.type]);
	const sheet = (id: string) => plan.parts.find((p) => p.id === id)?.thicknessMm ?? 1;
	const ta = $derived(5 * Math.min(2, Math.max(0.6, (2 * sheet(j.a.part)) / (sheet(j.a.part) + sheet(j.b.part)))));
	const tb = $derived(10 - ta);
	const gap = $derived(j.gapMm > 0 ? 3 : 0.6);
	const deep = $derived(j.penetration === 'full' ? 1 : j.penetration === 'partial' ? 0.6 : 0.35);
	const back = $derived(j.weldSide === 'back');
</script>

<svg viewBox="0 0 64 40" class="h-10 w-16 shrink-0" aria-hidden="true">
	<g fill="#dfe3e6" stroke="#3b4650" stroke-width="0.8">
		{#if drawn === 'butt'}
			<rect x="4" y={20 - ta} width={28 - gap / 2} height={2 * ta} />
			<rect x={32 + gap / 2} y={20 - tb} width={28 - gap / 2} height={2 * tb} />
		{:else if drawn === 'edge'}
			<rect x="4" y="28" width="38" height={ta * 1.4} />
			<rect x="42" y={6 - gap / 2} width={tb * 1.4} height={22 - gap / 2} />
		{:else if drawn === 'overlap'}
			<rect x="4" y="28" width={46 + gap} height={ta * 1.4} />
			<rect x="42" y={6 - gap} width={tb * 1.4} height="22" />
		{:else if drawn === 'lap'}
			<rect x="4" y="22" width="40" height={ta * 1.4} />
			<rect x="22" y={22 - tb * 1.4 - gap} width="38" height={tb * 1.4} />
		{:else}
			<rect x="4" y="28" width="56" height={ta * 1.4} />
			<rect x={32 - tb * 0.7} y={4 - gap} width={tb * 1.4} height="24" />
			{#if drawn === 'tube'}<path d="M50 4v24" stroke-dasharray="2 2" />{/if}
		{/if}
	</g>
	{#if !j.stock}
		<g fill="#96660f">
			{#if drawn === 'butt'}
				{#if back}<path d="M27 {20 + ta}h10l-2 {-2 * ta * deep}h-6z" />{:else}<path d="M27 {20 - ta}h10l-2 {2 * ta * deep}h-6z" />{/if}
			{:else if drawn === 'edge'}
				{#if back}<path d="M42 28l-6 0l6 -6z" />{:else}<path d="M42 28l{tb * 1.4} 0l0 {ta * 1.4}l{-tb * 1.4} 0z" opacity={0.4 + 0.6 * deep} />{/if}
			{:else if drawn === 'lap'}
				<path d="M22 22l-7 0l7 -7z" />
			{:else if back}
				<path d="M{32 + tb * 0.7} 28l8 0l-8 -8z" />
			{:else}
				<path d="M{32 - tb * 0.7} 28l-8 0l8 -8z" />
			{/if}
		</g>
	{/if}
</svg>
