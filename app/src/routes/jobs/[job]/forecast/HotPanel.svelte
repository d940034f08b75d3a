<script module lang="ts">
	const SOME = 4;
</script>

<script lang="ts">
	/** The hot depth: by itself where the plan needs it, or when asked; what it says of each seam. */
	import { acrossAt, type SeamFactors } from '$core/response/arcFactors';
	import { needsHot } from '$core/hot/needed';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import { quantity } from '$lib/units';
	import type { LengthUnit } from '$core/units/length';
	import { Button } from 'flowbite-svelte';

	let { unit, jobId }: { unit: LengthUnit; jobId: string } = $props();
	const desk = getDesk();
	const found = $derived(desk.hot && desk.hot.doc === desk.doc ? desk.hot.result : undefined);
	const needed = $derived(needsHot(desk.doc));
	const nameOf = (id: string) => desk.doc.joints.find((j) => j.id === id)?.name ?? id;
	/** mm that the edges close at three places of a seam */
	const closing = (s: SeamFactors) => {
		const own = found?.seams.find((x) => x.joint === s.joint)?.transverseShrinkageMm ?? 0;
		const end = s.stations[s.stations.length - 1].atMm;
		return [0, end / 2, end].map((at) => quantity(own * acrossAt(s, at), 'mm', unit));
	};
	const pull = (s: SeamFactors) => {
		const all = Object.values(s.force);
		const [low, high] = [Math.min(...all), Math.max(...all)];
		return high - low < 0.02 ? `× ${low.toFixed(2)}` : `× ${low.toFixed(2)} to ${high.toFixed(2)}`;
	};
	const gap = (s: SeamFactors) => {
		const [low, high] = s.gapRange;
		const own = quantity(s.gapMm, 'mm', unit);
		return high > low ? `${own} (${quantity(low, 'mm', unit)} to ${quantity(high, 'mm', unit)} by how soft the hot metal is)` : own;
	};
	/** seams that behave alike stand in one line */
	const alike = $derived.by(() => {
		const out = new Map<string, { key: string; seams: SeamFactors[] }>();
		for (const s of found?.hot?.seams ?? []) {
			const key = [pull(s), closing(s).join(', '), gap(s)].join('; ');
			const group = out.get(key) ?? { key, seams: [] };
			group.seams.push(s);
			out.set(key, group);
		}
		return [...out.values()];
	});
	const words = $derived(needed.map((n) => `${nameOf(n.joint)} (${n.words})`));
	const reasons = $derived(words.length > SOME ? `${words.slice(0, SOME).join(', ')} and ${words.length - SOME} more` : words.join(', '));
</script>

<Panel title="What the arc does as it passes">
	<div aria-live="polite" class="text-sm">
		{#if desk.hotBusy}
			<p class="flex items-center gap-2">
				<span>Arc by arc, {Math.round(desk.hotProgress * 100)} %</span>
				<progress class="h-1.5 flex-1 accent-primary-600" max="1" value={desk.hotProgress} aria-label="Hot forecast progress"></progress>
				<button type="button" class="text-primary-700 underline" onclick={() => desk.stopHot()}>Stop</button>
			</p>
		{:else if found?.hot}
			{#if found.hot.seams.length}
				<ul class="text-[13px]">
					{#each alike as { key, seams } (key)}
						<li class="border-t border-steel-200 py-1">
							<p>
								{#each seams as s, i (s.joint)}{i ? ', ' : ''}<a
										class="text-primary-700 underline"
										href="/jobs/{jobId}/order/watch"
										onclick={() => (desk.selection = { kind: 'joint', id: s.joint })}>{nameOf(s.joint)}</a
									>{/each}
							</p>
							<p>
								pull <span class="tab">{pull(seams[0])}</span>; closes <span class="tab">{closing(seams[0]).join(', ')}</span>; gap ahead
								<span class="tab">{gap(seams[0])}</span>
							</p>
						</li>
					{/each}
				</ul>
				<p class="mt-1 text-[13px] text-steel-600">
					Pull: of what the section says of a long seam, run by run. Closes: at 0, in the middle, at its end. A seam whose edges close unevenly swings
					its sheets: more tacks, or stepping, evens it out.
				</p>
				{#if found.hot.seams.some((s) => !s.isBalanced)}<div class="mt-1">
						<Notice kind="caution">Some steps of an arc did not come into balance: take these figures as a direction only.</Notice>
					</div>{/if}
			{:else}
				<p>No seam of this piece can be watched: the values are those of the final shape.</p>
			{/if}
		{:else}
			<p>
				{#if needed.length}Tacks, ends and order count for more than the final shape knows here: {reasons}.{:else if desk.doc.runs.length}Tacked
					closely, and run from end to end: the final shape speaks well of these seams.{:else}No run is planned yet.{/if}
			</p>
			{#if desk.hotMessage}<div class="mt-1"><Notice kind="caution">{desk.hotMessage}</Notice></div>{/if}
			<Button class="mt-2" size="sm" color="alternative" disabled={!desk.doc.runs.length || desk.stale} onclick={() => desk.askHot()}
				>Watch every arc</Button
			>
		{/if}
	</div>
</Panel>
