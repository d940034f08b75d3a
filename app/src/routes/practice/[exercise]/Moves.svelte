<script lang="ts">
	/** A piece as it moves, tack by tack and run by run: the quick forecast of its plan, enlarged. */
	import { onMount, tick } from 'svelte';
	import type { PlanDocument } from '$core/document/schema';
	import type { BenchScene } from '$lib/bench-view/scene';
	import { QuickClient } from '$lib/quick/client';

	let { plan, label }: { plan: PlanDocument; label: string } = $props();
	let canvas = $state<HTMLCanvasElement>();
	let box = $state<HTMLDivElement>();
	let scene = $state.raw<BenchScene>();
	let steps = $state.raw<{ label: string; shape: Float32Array }[]>([]);
	let at = $state(0);
	let message = $state('');
	let playing = $state<ReturnType<typeof setInterval> | undefined>();
	const quick = new QuickClient();
	const ENLARGED = 10;

	onMount(() => {
		let alive = true;
		let observer: ResizeObserver | undefined;
		import('$lib/bench-view/scene')
			.then(({ BenchScene }) => {
				if (!alive || !canvas || !box) return;
				scene = new BenchScene(
					canvas,
					() => {},
					() => {}
				);
				observer = new ResizeObserver(([e]) => scene?.resize(e.contentRect.width, e.contentRect.height));
				observer.observe(box);
			})
			.catch(() => (message = 'This browser draws no 3D (WebGL is off). The figures say it all.'));
		return () => {
			alive = false;
			observer?.disconnect();
			scene?.dispose();
			quick.cancel();
			clearInterval(playing);
		};
	});
	/** the plan that is drawn; a newer one makes an older one’s answer worthless */
	$effect(() => {
		const [s, p] = [scene, plan];
		if (!s) return;
		steps = [];
		at = 0;
		void (async () => {
			const g = await quick.geometry(p);
			if (p !== plan || !g.ok) return;
			s.setGeometry(
				g.data,
				p.parts.map((x) => x.thicknessMm)
			);
			s.setMarks(p, undefined, { tacks: true, runs: true, holds: true }, Infinity);
			const f = await quick.forecast(
				p,
				undefined,
				() => {},
				() => {}
			);
			if (p !== plan || !f?.ok) return;
			const { result, shapes } = f.data;
			steps = result.steps.map((x, i) => ({ label: x.label, shape: shapes.steps[i] }));
			// the slider has its new reach first
			await tick();
			at = steps.length - 1;
		})();
	});
	$effect(() => {
		scene?.setShape(steps[at]?.shape, steps.length ? ENLARGED : 0, 0, -1);
		scene?.setMarks(plan, undefined, { tacks: true, runs: true, holds: true }, Infinity);
	});
	function play() {
		clearInterval(playing);
		at = 0;
		playing = setInterval(() => {
			if (at >= steps.length - 1) {
				clearInterval(playing);
				playing = undefined;
			} else at++;
		}, 400);
	}
</script>

<div class="relative h-72 w-full overflow-hidden bg-steel-200" bind:this={box}>
	<canvas bind:this={canvas} class="block h-full w-full touch-none" aria-label={label}></canvas>
	{#if message}<p class="absolute inset-x-4 top-4 bg-white px-3 py-2 text-sm">{message}</p>{/if}
</div>
<div class="mt-2 flex items-center gap-3 text-sm">
	<button type="button" class="min-h-11 rounded-sm border border-steel-400 px-4" onclick={play} disabled={!steps.length}>Play</button>
	<input type="range" min="0" max={Math.max(0, steps.length - 1)} bind:value={at} class="min-w-0 flex-1" aria-label="Step" disabled={!steps.length} />
	<span class="w-40 truncate text-steel-700">{steps[at]?.label ?? 'being worked out…'}</span>
</div>
<p class="text-[12px] text-steel-600">Ten times enlarged, by the quick forecast; waves show only in the figures.</p>
