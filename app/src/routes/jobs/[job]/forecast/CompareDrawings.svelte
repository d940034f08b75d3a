<script lang="ts">
	/** Plans beside each other as drawings that turn together: each run an arrow with its number. */
	import { PieceDrawer } from '$core/draw/lineDrawing';
	import { TURNS, type Turn } from '$core/draw/view';
	import { assemblyMesh } from '$core/mesh/assemblyMesh';
	import type { PlanDocument } from '$core/document/schema';
	import PiecePicture from '$lib/ui/PiecePicture.svelte';

	let { plans }: { plans: { label: string; plan: PlanDocument }[] } = $props();
	let turn = $state<Turn>(0);
	let isUnder = $state(false);
	const drawers = $derived(plans.map(({ label, plan }) => ({ label, plan, drawer: new PieceDrawer(assemblyMesh(plan)) })));
	const pictures = $derived(
		drawers.map(({ label, plan, drawer }) => ({
			label,
			runs: plan.runs.length,
			drawing: drawer.draw(isUnder ? 'underside' : 'top', turn),
			hand: {
				// letters would stand where the numbers do
				arrows: plan.runs.map((r, i) => ({ joint: r.joint, fromMm: r.fromMm, toMm: r.toMm, label: String(i + 1) }))
			}
		}))
	);
	const by = (n: 1 | 3) => (turn = TURNS[(turn + n) % TURNS.length]);
	const button = 'min-h-9 rounded-sm border border-steel-400 px-3 text-sm text-steel-900 hover:bg-steel-50';
</script>

<div class="flex flex-wrap gap-2">
	<button type="button" class={button} onclick={() => by(3)}>Turn left</button>
	<button type="button" class={button} onclick={() => by(1)}>Turn right</button>
	<button type="button" class={button} aria-pressed={isUnder} onclick={() => (isUnder = !isUnder)}>{isUnder ? 'From above' : 'From below'}</button>
</div>
<div class="mt-3 grid gap-4 {pictures.length > 2 ? 'lg:grid-cols-3' : 'lg:grid-cols-2'}">
	{#each pictures as p (p.label)}
		<figure>
			<PiecePicture drawing={p.drawing} hand={p.hand} label="{p.label}: {p.runs} runs, as the list of its order says" width={560} height={420} />
			<figcaption class="text-sm font-medium text-steel-900">{p.label}<span class="font-normal text-steel-600">, {p.runs} runs</span></figcaption>
		</figure>
	{/each}
</div>
