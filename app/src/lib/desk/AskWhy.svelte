<script lang="ts">
	/** Why is this here, and what if it were not: of whatever is pointed at, with paired differences by the quick method. */
	import { page } from '$app/state';
	import { blocksOf } from '$core/holds';
	import type { Comparison } from '$core/forecast/compare';
	import { exceedance } from '$core/search/cost';
	import { othersOf, type Other, type PointedAt } from '$core/search/askWhy';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import { quantity } from '$lib/units';
	import { Button } from 'flowbite-svelte';

	const desk = getDesk();
	const unit = $derived(page.data.person?.units ?? 'mm');
	const at = $derived(desk.selection);
	const pointed = $derived(at && at.kind !== 'part' && at.kind !== 'feature' ? (at as PointedAt) : undefined);
	const feature = $derived(at?.kind === 'feature' ? desk.shown?.features.find((f) => f.id === at.id) : undefined);
	const others = $derived(pointed ? othersOf(desk.doc, pointed) : []);
	const name = $derived.by(() => {
		if (!pointed) return '';
		const { kind, id } = pointed;
		if (kind === 'run') return `Run ${desk.doc.runs.findIndex((r) => r.id === id) + 1}`;
		if (kind === 'tack') return `Tack on ${desk.doc.joints.find((j) => j.id === desk.doc.tacks.find((t) => t.id === id)?.joint)?.name ?? ''}`;
		return (kind === 'joint' ? desk.doc.joints : desk.doc.holdDowns).find((x) => x.id === id)?.name ?? '';
	});
	/** what the seam's own forecast says of the bar behind it */
	const takes = $derived.by(() => {
		const bar = pointed?.kind === 'hold-down' ? blocksOf(desk.doc).find((b) => b.id === pointed.id) : undefined;
		const seam = bar && desk.result?.seams.find((s) => s.joint === bar.joint);
		return seam?.parts.find((p) => p.label.startsWith('Heat the bar takes'))?.value;
	});
	let shown = $state.raw<{ of: string; from: unknown; other: Other; answer: Comparison } | undefined>();
	/** kept open from one thing to the next */
	let open = $state(false);
	let busy = $state('');
	let message = $state('');
	async function ask(other: Other) {
		busy = other.id;
		message = '';
		const [from, of] = [desk.doc, pointed!.id];
		const out = await desk.compareWith(other.plan);
		busy = '';
		if (out.ok) shown = { of, from, other, answer: out.data };
		else message = out.message;
	}
	const answer = $derived(shown && shown.from === desk.doc && shown.of === pointed?.id ? shown : undefined);
	const limitOf = (id: string) => desk.doc.features.find((f) => f.id === id)!;
	/** features that it moves by a fiftieth of their limit and more, the most moved first */
	const moved = $derived(
		(answer?.answer.features ?? [])
			.map((f) => ({ ...f, size: Math.abs(exceedance(limitOf(f.id), f.then) - exceedance(limitOf(f.id), f.now)) }))
			.filter((f) => f.size > 0.02)
			.sort((p, q) => q.size - p.size)
			.slice(0, 5)
	);
	/** the Forecast page has a list of its own, step by step */
	const influence = $derived(
		page.url.pathname.endsWith('/forecast')
			? []
			: [...(feature?.influence ?? [])]
					.filter((i) => Math.abs(i.value) >= 0.005)
					.sort((p, q) => Math.abs(q.value) - Math.abs(p.value))
					.slice(0, 5)
	);
	function stepName(id: string): string {
		if (id === 'tacks') return 'Tacks';
		if (id.startsWith('release:')) return 'Taking the clamps off';
		const i = desk.doc.runs.findIndex((r) => r.id === id);
		return i < 0 ? id : `Run ${i + 1}, ${desk.doc.joints.find((j) => j.id === desk.doc.runs[i].joint)!.name}`;
	}
	function adopt({ other }: { other: Other }) {
		desk.change(`${name.toLowerCase()} ${other.label}`, (d) => void Object.assign(d, structuredClone(other.plan)));
	}
</script>

{#if others.length}
	<details class="bg-white px-4 py-2" bind:open>
		<summary class="min-h-7 cursor-pointer text-sm"><span class="font-display text-[16px] font-semibold">Why, and what if</span>: {name}</summary>
		{#if takes}<p class="text-sm">The bar takes {takes} of the heat while it is hot.</p>{/if}
		<p class="mt-1 text-sm text-steel-700">What if it were</p>
		<div class="mt-1 flex flex-wrap gap-1.5">
			{#each others as o (o.id)}<button
					type="button"
					class="min-h-9 rounded-sm border border-steel-400 px-2 text-sm hover:bg-steel-50 disabled:text-steel-500"
					disabled={busy !== '' || !desk.result}
					aria-pressed={answer?.other.id === o.id}
					onclick={() => ask(o)}>{o.label}</button
				>{/each}
		</div>
		<div class="mt-2 text-sm" aria-live="polite">
			{#if busy}<p class="text-steel-600">Being worked out…</p>{/if}
			{#if message}<Notice kind="caution">{message}</Notice>{/if}
			{#if answer && !busy}
				<p class="font-medium">{name} {answer.other.label}:</p>
				{#if !moved.length}<p>moves no feature by a fiftieth of its limit.</p>{/if}
				<ul>
					{#each moved as f (f.id)}<li class="border-t border-steel-200 py-1 first:border-t-0">
							{f.name} would be <span class="tab">{quantity(f.then, f.unit, unit)}</span>, is <span class="tab">{quantity(f.now, f.unit, unit)}</span>
							<span class="text-[12px] text-steel-600"
								>(difference {quantity(f.difference.low, f.unit, unit)} to {quantity(f.difference.high, f.unit, unit)})</span
							>
						</li>{/each}
				</ul>
				{#each answer.answer.panels as p (p.label)}{#if p.now !== p.then}<p class="text-[13px]">
							{p.label}: {p.now === undefined ? 'well inside its limit' : `${p.now.toFixed(1)} times its limit`}, then {p.then === undefined
								? 'well inside'
								: `${p.then.toFixed(1)} times`} (plate formula).
						</p>{/if}{/each}
				<p class="mt-1 text-[12px] text-steel-600">By the quick method, which keeps no waves; in brackets the 90 % band of the difference.</p>
				{#if desk.mayEdit}<Button size="sm" color="alternative" class="mt-1" onclick={() => adopt(answer)}>Make it so</Button>{/if}
			{/if}
		</div>
	</details>
{:else if feature && influence.length}
	<details class="bg-white px-4 py-2" bind:open>
		<summary class="min-h-7 cursor-pointer text-sm"><span class="font-display text-[16px] font-semibold">What moves it</span>: {feature.name}</summary
		>
		<ul class="mt-1 text-sm">
			{#each influence as i (i.step)}<li class="flex justify-between gap-3 border-t border-steel-200 py-1 first:border-t-0">
					<span class="min-w-0 flex-1">{stepName(i.step)}</span><span class="tab"
						>{i.value > 0 ? '+' : ''}{quantity(i.value, feature.unit, unit)}</span
					>
				</li>{/each}
		</ul>
		<p class="mt-1 text-[12px] text-steel-600">What each step moves the end by. Point at it on the drawing or the tape to ask what if.</p>
	</details>
{/if}
