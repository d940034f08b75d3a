<script lang="ts">
	/** What would be made, while its sizes are typed: the piece, its weight, its seams, its blanks. */
	import type { MadeFamily } from '$core/families';
	import type { FamilyParameters } from '$core/families/family';
	import type { FamilyPreview } from '$core/families/preview';
	import type { LengthUnit } from '$core/units/length';
	import { call } from '$lib/call';
	import PiecePicture from '$lib/ui/PiecePicture.svelte';
	import { length } from '$lib/units';

	let { kind, parameters, unit }: { kind: MadeFamily; parameters: FamilyParameters; unit: LengthUnit } = $props();
	const REST_MS = 150;
	let shown = $state.raw<FamilyPreview | undefined>();
	let why = $state<string[]>([]);
	let asked = 0;
	$effect(() => {
		const family = { kind, parameters: $state.snapshot(parameters) };
		const mine = ++asked;
		const timer = setTimeout(async () => {
			const r = await call<{ preview: FamilyPreview }>('POST', '/api/families/preview', { family });
			if (mine !== asked) return;
			if (r.ok) shown = r.data.preview;
			why = r.ok ? [] : r.refusal.faults.length ? r.refusal.faults.map((f) => f.allowed) : [r.refusal.message];
		}, REST_MS);
		return () => clearTimeout(timer);
	});
	const size = (w: number, h: number) => `${length(w, unit, 0)} × ${length(h, unit, 0)}`;
</script>

<section class="text-sm text-steel-900" aria-label="What it will be" aria-live="polite">
	{#if shown}
		<div class={why.length ? 'opacity-40' : ''}>
			<PiecePicture drawing={shown.drawing} hand={{ letters: true }} label="The piece with its seams" width={340} height={220} />
		</div>
		<p class="mt-1 text-steel-900">
			<strong class="tab font-medium">{shown.weightKg < 10 ? shown.weightKg.toFixed(2) : shown.weightKg.toFixed(1)} kg</strong>,
			<span class="tab">{length(shown.seamMm, unit, 0)}</span> to weld in {shown.seams === 1 ? 'one seam' : `${shown.seams} seams`}. Its forecast
			follows at once when it is made.
		</p>
		<ul class="mt-1 text-[13px] text-steel-700">
			{#each shown.blanks.slice(0, 6) as b (b.name)}<li>
					{b.count > 1 ? `${b.count} × ` : ''}{b.name}: <span class="tab">{size(b.widthMm, b.heightMm)}</span>, sheet {length(b.thicknessMm, unit, 1)}
				</li>{/each}
			{#if shown.blanks.length > 6}<li>and {shown.blanks.length - 6} more blanks</li>{/if}
		</ul>
	{:else if !why.length}<p class="text-steel-600" role="status">Being drawn.</p>{/if}
	{#each why as w (w)}<p class="mt-1 text-plum-700">{w}</p>{/each}
</section>
