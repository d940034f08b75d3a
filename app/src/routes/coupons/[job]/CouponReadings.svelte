<script lang="ts">
	/** What a coupon is read for, one reading at a time in hand. */
	import type { ClosedForm } from '$core/coupons/closedForm';
	import type { CouponReading as Reading } from '$core/coupons/coupons';
	import type { Posture } from '$core/document/words';
	import type { LineDrawing } from '$core/draw/lineDrawing';
	import { pointing } from '$core/draw/svg';
	import type { Pointed } from '$core/weldout/benchPlan';
	import type { ReadingContext } from '$core/measure/methods/method';
	import { quantity } from '$lib/units';
	import PiecePicture from '$lib/ui/PiecePicture.svelte';
	import { Button } from 'flowbite-svelte';
	import { usualCount } from '$lib/measure/cells';
	import CouponReading from './CouponReading.svelte';

	interface Props {
		piece: string;
		readings: (Reading & { context: ReadingContext; handbook?: ClosedForm; instrument: string })[];
		measured: { id: string; feature: string; moment: string; value: number; uncertainty90: number }[];
		posture: Posture;
		unit: 'mm' | 'in';
		/** where each is read */
		art?: { pictures: Record<string, LineDrawing>; features: Record<string, Pointed> };
	}
	let { piece, readings, measured, posture, unit, art }: Props = $props();
	const readOf = (feature: string) => measured.filter((m) => m.feature === feature && m.moment === 'unclamped');
	/** the first that has not been read, or what was asked for */
	let opened = $state('');
	/** numbered where its way of reading takes those very places */
	const whereTo = (r: Props['readings'][number], spot: Pointed) =>
		pointing(spot.labels.filter(Boolean).length === usualCount(r.method, r.context) ? spot : { ...spot, labels: spot.labels.map(() => '') });
	const inHand = $derived(opened || (readings.find((r) => !readOf(r.feature).length)?.feature ?? ''));
</script>

<div class="space-y-4">
	{#each readings as r (r.feature)}
		<div class="border-t border-steel-200 pt-3 first:border-t-0 first:pt-0">
			<p class="font-medium">{r.name}</p>
			<p class="text-[13px] text-steel-600">
				{r.instrument}{#if r.context.nominal !== undefined}; the drawing says {quantity(r.context.nominal, r.unit, unit)}{/if}. The forecast has the
				welds move it by {quantity(r.effect, r.unit, unit)}{#if r.handbook}, the handbook by {quantity(Math.abs(r.handbook.value), r.unit, unit)} ({r
						.handbook.formula}){/if}; the instrument doubts {quantity(r.doubt, r.unit, unit)}.
			</p>
			{#each readOf(r.feature) as m (m.id)}<p class="text-sound-800">
					✓ {quantity(m.value, r.unit, unit)} ± {quantity(m.uncertainty90, r.unit, unit)}
				</p>{/each}
			{#if r.feature === inHand}
				{@const spot = art?.features[r.feature]}
				{#if art && spot}<div class="mt-2">
						<PiecePicture
							drawing={art.pictures[spot.picture]}
							hand={whereTo(r, spot)}
							label="Where {r.name} is read on the coupon"
							width={420}
							height={240}
						/>
					</div>{/if}
				{#key r.feature}<CouponReading {piece} reading={r} {posture} {unit} again={readOf(r.feature).length > 0} onkept={() => (opened = '')} />{/key}
			{:else}<Button size="sm" color="alternative" class="mt-1 min-h-11" onclick={() => (opened = r.feature)}
					>{readOf(r.feature).length ? 'Read it again' : 'Read this'}</Button
				>{/if}
		</div>
	{/each}
</div>
