<script module lang="ts">
	import type { Pointed as PutPlace } from './grips';

	/** What is being put on the piece by pointing. */
	export interface Put {
		on: 'seam' | 'part';
		name: string;
		onput(to: PutPlace): void;
		onleave(): void;
	}
</script>

<script lang="ts">
	/** The piece in 3D. Loads three.js only when it is shown. Everything it shows can also be read on the tapes and in the lists. */
	import { onMount, untrack } from 'svelte';
	import { page } from '$app/state';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import { placeOn } from '$core/layout/space';
	import { download } from '$lib/download';
	import { length } from '$lib/units';
	import { gripsOf, moveGrip, pointedWords, type Editing, type Grip, type Pointed } from './grips';
	import type { Run } from '$core/document/schema';
	import type { BenchScene, Side } from './scene';
	import ViewTools, { type Look } from './ViewTools.svelte';

	interface Props {
		/** displacement to draw, 3 per node, or undefined for the drawing */
		shape?: Float32Array;
		exaggeration?: number;
		colourScaleMm?: number;
		show?: { tacks: boolean; runs: boolean; holds: boolean };
		upToRun?: number;
		/** another order of runs than the plan's */
		runs?: Run[];
		/** what can be taken hold of and dragged */
		edit?: Editing;
		/** what the next click on the piece puts on, where anything is to be put */
		put?: Put;
	}
	let {
		shape,
		exaggeration = 1,
		colourScaleMm = 0,
		show = { tacks: true, runs: false, holds: true },
		upToRun = Infinity,
		runs,
		edit = 'none',
		put
	}: Props = $props();
	const desk = getDesk();
	let canvas = $state<HTMLCanvasElement>();
	let box = $state<HTMLDivElement>();
	let scene = $state.raw<BenchScene>();
	let drawn = $state(0);
	let failed = $state('');
	let hovered = $state<number | undefined>();
	let look = $state.raw<Look>({ hidden: new Set(), seeThrough: false });
	const selectedPart = $derived(desk.selection?.kind === 'part' ? desk.doc.parts.findIndex((p) => p.id === desk.selection!.id) : -1);

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
					() => drawn++,
					(part) => (hovered = part)
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
		// an edit or its undo can be a moment ahead of the drawing: a shape is drawn on the mesh it is of
		const fits = shape?.length === desk.geometry?.xyz.length ? shape : undefined;
		s?.setHidden(look.hidden);
		s?.setApart(look.apart ?? 0);
		s?.setShape(fits, exaggeration, colourScaleMm, selectedPart);
		s?.setMarks(runs ? { ...desk.doc, runs } : desk.doc, desk.selection, show, upToRun);
	});
	$effect(() => {
		scene?.seeThrough(look.seeThrough);
		scene?.section(look.cut?.axis ?? 'x', look.cut?.share);
	});
	/** where the pointer would put or drag something, in words */
	let pointed = $state('');
	const unit = $derived(page.data.person?.units ?? 'mm');
	const VERB = { tack: 'moving a tack', run: 'moving a run’s bound', 'hold-down': 'moving a hold-down' } as const;
	function tell(to: Pointed | undefined, grip?: Grip) {
		const where = to && pointedWords(to, desk.doc.joints, desk.doc.parts, (mm) => length(mm, unit));
		pointed = where ? `${grip?.name ?? putting?.name}: ${where}` : '';
	}
	/** places measured between */
	let measured = $state.raw<Pointed[]>([]);
	const apart = $derived.by(() => {
		if (!look.measures || measured.length < 2) return '';
		const [p, q] = measured.map((m) => {
			const part = m.on === 'part' ? desk.doc.parts.find((x) => x.id === m.part) : undefined;
			return part && m.on === 'part' ? placeOn(part, [...m.at]).at : undefined;
		});
		if (!p || !q) return '';
		const d = [0, 1, 2].map((k) => q[k] - p[k]);
		return `${length(Math.hypot(...d), unit)} apart in the drawing (${d.map((v) => length(Math.abs(v), unit, 1)).join(' / ')} along, across, up)`;
	});
	const measuring: Put = {
		on: 'part',
		name: 'Measure',
		onput: (to) => (measured = measured.length > 1 ? [to] : [...measured, to]),
		onleave: () => (look = { ...look, measures: false })
	};
	const putting = $derived(look.measures ? measuring : put);
	$effect(() => {
		const s = scene;
		const plan = desk.doc;
		const [editing, selected, asked, marked] = [edit, desk.selection?.id, putting, look.measures ? measured : []];
		// three.js draws the grips where the seams are drawn: after the marks
		if (s && desk.geometry)
			s.point(
				!look.apart && (look.measures || (desk.mayEdit && (editing !== 'none' || asked)))
					? {
							grips: gripsOf(plan, editing, selected),
							put: asked?.on,
							marked,
							onpoint: tell,
							ondrop: (grip, to) => {
								if (desk.change(VERB[grip.of], (d) => moveGrip(d, grip, to))) desk.selection = { kind: grip.of, id: grip.owner };
							},
							onput: (to) => asked?.onput(to),
							onpick: (grip) => (desk.selection = { kind: grip.of, id: grip.owner })
						}
					: undefined
			);
	});
	/** @returns whether the chosen thing was one that is edited here, and is gone */
	function remove(): boolean {
		const chosen = desk.selection;
		if (!desk.mayEdit || !chosen) return false;
		if (edit === 'tacks' && chosen.kind === 'tack')
			return desk.change('taking a tack out', (d) => void (d.tacks = d.tacks.filter((t) => t.id !== chosen.id)));
		if (edit === 'holds' && chosen.kind === 'hold-down')
			return desk.change('taking a hold-down off', (d) => void (d.holdDowns = d.holdDowns.filter((h) => h.id !== chosen.id)));
		return false;
	}
	/** What is drawn on, for a film; and what is on it now, as a PNG. */
	export const drawing = (): HTMLCanvasElement | undefined => canvas;
	export const still = (): string | undefined => scene?.picture();
	async function picture(as: 'png' | 'svg' = 'png') {
		if (!scene) return;
		const name = `piece-rev-${desk.revision}.${as}`;
		if (as === 'png') {
			// drawn in the same breath, or the canvas may be empty by then
			scene.picture();
			return canvas?.toBlob((png) => png && download(png, name));
		}
		const { lineSvg } = await import('./lineSvg');
		download(new Blob([lineSvg(runs ? { ...desk.doc, runs } : desk.doc, scene.view(), look.hidden, show.runs)], { type: 'image/svg+xml' }), name);
	}
	const SIDE_KEYS: Record<string, Side> = { '0': 'corner', '1': 'front', '2': 'right', '3': 'top', '4': 'under' };
	/** what a letter does to how the piece is looked at */
	const lookBy = (key: string): Look | undefined => {
		const others = new Set(desk.doc.parts.map((_, k) => k).filter((k) => k !== selectedPart));
		if (key === 'x') return { ...look, seeThrough: !look.seeThrough };
		if (key === 'c') return { ...look, cut: look.cut ? undefined : { axis: 'x', share: 0.5 } };
		if (key === 'e') return { ...look, apart: look.apart || desk.doc.parts.length < 2 ? undefined : 0.5 };
		if (key === 'a') return { ...look, hidden: new Set() };
		if (key === 'm') return { ...look, measures: !look.measures };
		if (selectedPart < 0) return undefined;
		if (key === 'h') return { ...look, hidden: new Set([...look.hidden, selectedPart]) };
		if (key === 'i') return { ...look, hidden: others };
		return undefined;
	};
	function keys(e: KeyboardEvent) {
		if (e.ctrlKey || e.metaKey || e.altKey) return;
		if (e.key === 'Escape') {
			scene?.letGo();
			return putting?.onleave();
		}
		if ((e.key === 'Delete' || e.key === 'Backspace') && remove()) return e.preventDefault();
		const next = lookBy(e.key.toLowerCase());
		if (next) {
			look = next;
			e.preventDefault();
			return;
		}
		const turn = { ArrowLeft: [-0.15, 0], ArrowRight: [0.15, 0], ArrowUp: [0, -0.12], ArrowDown: [0, 0.12] }[e.key];
		if (turn) scene?.orbit(turn[0], turn[1]);
		else if (e.key === '+' || e.key === '=') scene?.zoom(0.85);
		else if (e.key === '-') scene?.zoom(1.18);
		else if (SIDE_KEYS[e.key]) scene?.fit(SIDE_KEYS[e.key]);
		else if (e.key.toLowerCase() === 'f') scene?.fit();
		else if (e.key.toLowerCase() === 'p') void picture();
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
		aria-label="The piece in three dimensions. Arrow keys turn it, plus and minus zoom, F fits it, 0 to 4 show its sides, X sees through, C cuts it, M measures between two places, A shows all parts. What is edited here can be dragged; Delete takes off what is chosen."
		data-drawn={desk.geometry ? drawn : 0}
		onkeydown={keys}
	>
		<canvas bind:this={canvas} class="block h-full w-full touch-none" aria-hidden="true"></canvas>
	</div>
	{#if failed}<p class="absolute inset-x-6 top-6 bg-white px-3 py-2 text-sm">{failed}</p>{/if}
	<ViewTools
		{look}
		parts={desk.doc.parts}
		selected={selectedPart}
		onlook={(l) => (look = l)}
		onside={(side) => scene?.fit(side)}
		onzoom={(factor) => scene?.zoom(factor)}
		onpicture={(as) => void picture(as)}
	/>
	{#if apart}<p class="tab pointer-events-none absolute bottom-2 left-2 bg-white/95 px-2 py-0.5 text-sm text-steel-900" data-apart>{apart}</p>
	{:else if pointed}<p class="tab pointer-events-none absolute bottom-2 left-2 bg-steel-900 px-2 py-0.5 text-sm text-white" data-pointed>{pointed}</p>
	{:else if putting}<p class="pointer-events-none absolute bottom-2 left-2 bg-steel-900 px-2 py-0.5 text-sm text-white">
			{putting.name}: click {putting.on === 'seam' ? 'on a seam' : 'on a part'}; Esc leaves
		</p>
	{:else if hovered !== undefined && desk.doc.parts[hovered]}<p
			class="pointer-events-none absolute bottom-2 left-2 bg-white/90 px-2 py-0.5 text-sm text-steel-800"
		>
			{desk.doc.parts[hovered].name}
		</p>{/if}
</div>
