<script lang="ts">
	/** The piece in 3D. Loads three.js only when it is shown. Everything it shows can also be read on the tapes and in the lists. */
	import { onMount, untrack } from 'svelte';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import type { Run } from '$core/document/schema';
	import type { BenchScene } from './scene';

	interface Props {
		/** displacement to draw, 3 per node, or undefined for the drawing */
		shape?: Float32Array;
		exaggeration?: number;
		colourScaleMm?: number;
		show?: { tacks: boolean; runs: boolean; holds: boolean };
		upToRun?: number;
		/** another order of runs than the plan's */
		runs?: Run[];
	}
	let { shape, exaggeration = 1, colourScaleMm = 0, show = { tacks: true, runs: false, holds: true }, upToRun = Infinity, runs }: Props = $props();
	const desk = getDesk();
	let canvas = $state<HTMLCanvasElement>();
	let box = $state<HTMLDivElement>();
	let scene = $state.raw<BenchScene>();
	let drawn = $state(0);
	let failed = $state('');

	onMount(() => {
		let alive = true;
		let observer: ResizeObserver | undefined;
		// fields and buttons answer first: setting up the 3D view holds the page for a moment where the graphics are slow
		const idle = window.requestIdleCallback ?? ((f: () => void) => window.setTimeout(f, 1));
		new Promise<void>((then) => idle(() => then(), { timeout: 1500 }))
			.then(() => import('./scene'))
			.then(({ BenchScene }) => {
				if (!alive || !canvas || !box) return;
				scene = new BenchScene(
					canvas,
					(p) => (desk.selection = p && (p.kind === 'part' ? { kind: 'part', id: desk.doc.parts[Number(p.id)].id, at: p.at } : p)),
					() => drawn++
				);
				observer = new ResizeObserver(([e]) => scene?.resize(e.contentRect.width, e.contentRect.height));
				observer.observe(box);
			})
			.catch(() => (failed = 'This browser draws no 3D (WebGL is off). The tapes and lists below hold everything.'));
		return () => {
			alive = false;
			observer?.disconnect();
			scene?.dispose();
		};
	});
	$effect(() => {
		const g = desk.geometry;
		if (scene && g)
			untrack(() =>
				scene!.setGeometry(
					g,
					desk.doc.parts.map((p) => p.thicknessMm)
				)
			);
	});
	$effect(() => {
		const s = scene;
		const part = desk.selection?.kind === 'part' ? desk.doc.parts.findIndex((p) => p.id === desk.selection!.id) : -1;
		// an edit or its undo can be a moment ahead of the drawing: a shape is drawn on the mesh it is of
		const fits = shape?.length === desk.geometry?.xyz.length ? shape : undefined;
		s?.setShape(fits, exaggeration, colourScaleMm, part);
		s?.setMarks(runs ? { ...desk.doc, runs } : desk.doc, desk.selection, show, upToRun);
	});
	function keys(e: KeyboardEvent) {
		const turn = { ArrowLeft: [-0.15, 0], ArrowRight: [0.15, 0], ArrowUp: [0, -0.12], ArrowDown: [0, 0.12] }[e.key];
		if (turn) scene?.orbit(turn[0], turn[1]);
		else if (e.key === '+' || e.key === '=') scene?.zoom(0.85);
		else if (e.key === '-') scene?.zoom(1.18);
		else if (e.key.toLowerCase() === 'f') scene?.fit();
		else return;
		e.preventDefault();
	}
</script>

<div class="relative h-full min-h-60 w-full overflow-hidden bg-steel-200 max-md:min-h-32" bind:this={box}>
	<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
	<div
		class="h-full w-full"
		tabindex="0"
		role="application"
		aria-label="The piece in three dimensions. Arrow keys turn it, plus and minus zoom, F fits it."
		data-drawn={desk.geometry ? drawn : 0}
		onkeydown={keys}
	>
		<canvas bind:this={canvas} class="block h-full w-full touch-none" aria-hidden="true"></canvas>
	</div>
	{#if failed}<p class="absolute inset-x-6 top-6 bg-white px-3 py-2 text-sm">{failed}</p>{/if}
	<div class="absolute top-2 right-2 flex gap-1">
		<button type="button" class="h-8 min-w-8 bg-white/90 px-2 text-sm hover:bg-white" onclick={() => scene?.zoom(0.85)} aria-label="Zoom in">+</button
		>
		<button type="button" class="h-8 min-w-8 bg-white/90 px-2 text-sm hover:bg-white" onclick={() => scene?.zoom(1.18)} aria-label="Zoom out"
			>−</button
		>
		<button type="button" class="h-8 bg-white/90 px-2 text-sm hover:bg-white" onclick={() => scene?.fit()}>Fit</button>
	</div>
</div>
