<script lang="ts">
	/** Under the film: each feature from step to step, with its limits, and where the film is. */
	import type { LengthUnit } from '$core/units/length';
	import { quantity } from '$lib/units';
	import { curveOf } from './filmCurve';

	interface Props {
		features: { id: string; name: string; unit: 'mm' | '°'; values: readonly number[]; upper: number; lower?: number }[];
		/** step shown, and how many there are */
		at: number;
		count: number;
		unit: LengthUnit;
		onpick: (step: number) => void;
	}
	let { features, at, count, unit, onpick }: Props = $props();
	const [W, H] = [120, 36];
	const curves = $derived(features.map((f) => ({ ...f, ...curveOf(f, count, W, H) })));
	function pick(e: MouseEvent & { currentTarget: HTMLElement }) {
		const box = e.currentTarget.getBoundingClientRect();
		onpick(Math.round(Math.min(1, Math.max(0, (e.clientX - box.left) / box.width)) * (count - 1)));
	}
</script>

<!-- the slider above does the same by keys -->
<div
	class="grid max-h-36 grid-cols-[repeat(auto-fill,minmax(7.5rem,1fr))] gap-x-3 gap-y-1 overflow-y-auto"
	role="group"
	aria-label="Features along the film"
>
	{#each curves as c (c.id)}
		{@const value = c.values[Math.min(at, c.values.length - 1)]}
		<div class="min-w-0">
			<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
			<div class="cursor-pointer" onclick={pick}>
				<svg viewBox="0 0 {W} {H}" class="block h-9 w-full" preserveAspectRatio="none" aria-hidden="true">
					{#each c.limits as y (y)}<path
							d="M0 {y}H{W}"
							stroke="#29323a"
							stroke-dasharray="4 3"
							stroke-width="1"
							vector-effect="non-scaling-stroke"
						/>{/each}
					<path d={c.path} fill="none" stroke="#2a5d86" stroke-width="1.6" vector-effect="non-scaling-stroke" />
					<path d="M{c.x(at)} 0V{H}" stroke="#b45309" stroke-width="1.6" vector-effect="non-scaling-stroke" />
				</svg>
			</div>
			<p class="truncate text-[12px] text-steel-700" title={c.name}>{c.name}</p>
			<p class="tab text-[12px]">{quantity(value, c.unit, unit)}</p>
		</div>
	{/each}
</div>
