<script lang="ts">
	/** What the shop's coupons have read of a joint like this one, and what to do about it in one tap. */
	import { jointHere, presetAgainst, pulledOnCoupons, type CouponRead } from '$core/coupons/evidence';
	import type { Joint, PlanDocument } from '$core/document/schema';
	import { hingesOf } from '$core/search/hinges';
	import { presetSetting } from '$core/weldout/preset';
	import { length, quantity } from '$lib/units';
	import { Button } from 'flowbite-svelte';

	interface Props {
		plan: PlanDocument;
		joint: Joint;
		read: readonly CouponRead[];
		unit: 'mm' | 'in';
		disabled: boolean;
		onpreset(deg: number): void;
	}
	let { plan, joint, read, unit, disabled, onpreset }: Props = $props();
	const angle = $derived(pulledOnCoupons(plan, joint, read, 'angle'));
	const closing = $derived(pulledOnCoupons(plan, joint, read, 'length'));
	const deg = $derived(angle ? presetAgainst(angle, joint) : 0);
	const turns = $derived(angle !== undefined && hingesOf(plan).some((h) => h.includes(joint.id)));
	const isFree = $derived(!jointHere(plan, joint).isOnBar);
	const setting = $derived(deg ? presetSetting(plan, { ...joint, presetDeg: deg }) : undefined);
	const coupons = (n: number) => (n === 1 ? 'one coupon' : `${n} coupons`);
</script>

{#if angle}
	<p class="mt-1 text-[13px]">
		On {coupons(angle.count)} of this joint in this sheet ({angle.pieces.join(', ')}) it pulled
		<strong class="font-medium">{quantity(angle.mean, '°', unit)} ± {quantity(angle.half, '°', unit)}</strong>{closing
			? ` and closed by ${quantity(-closing.mean, 'mm', unit)} ± ${quantity(closing.half, 'mm', unit)}`
			: ''}.
		{#if !deg}That is not surely anything: leave it as drawn.
		{:else if !turns}It cannot be set over by itself here: its faces are held by other seams too.
		{:else if joint.presetDeg === deg}It is set over by that, the other way.
		{:else if setting}Set it {Math.abs(deg)}° the other way: {length(setting.shimMm, unit, 1)} at {length(setting.reachMm, unit, 0)} from the seam, by a
			shim or a wedge.{/if}
		{#if deg && turns && isFree}A free coupon of thin sheet waves, and part of its fold is that: see what the forecast says with it before you keep
			it.{/if}
	</p>
	{#if deg && turns && joint.presetDeg !== deg}<Button size="sm" color="alternative" class="mt-1 min-h-11" {disabled} onclick={() => onpreset(deg)}
			>Set {joint.name} over by {deg}°</Button
		>{/if}
{/if}
