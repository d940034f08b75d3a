<script lang="ts">
	/** The forecast in open formats: the shape that is shown, the steps, the figures, and a deck for a general solver. */
	import type { Forecast } from '$core/forecast/forecast';
	import { download } from '$lib/download';
	import { getDesk } from '$lib/desk/plan-desk.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import Panel from '$lib/ui/Panel.svelte';
	import Papa from 'papaparse';

	interface Props {
		job: { name: string; number: number };
		result: Forecast;
		/** the shape that is shown, 3 a node, and what it is called */
		shape?: Float32Array;
		label: string;
	}
	let { job, result, shape, label }: Props = $props();
	const desk = getDesk();
	let busy = $state(false);
	let message = $state('');
	const file = (what: string, ending: string) => `${job.number}-rev${desk.revision}-${what}.${ending}`.toLowerCase().replace(/[^a-z0-9.-]+/g, '-');
	const save = (content: string | Uint8Array, name: string, type: string) => download(new Blob([content as BlobPart], { type }), name);
	/** as it is shown, not enlarged */
	const moved = () => desk.shapes!.xyz.map((v, i) => v + (shape?.[i] ?? 0));
	async function stl() {
		const { writeStl } = await import('$core/formats/stl');
		save(writeStl(moved(), desk.shapes!.tri, job.name), file(label, 'stl'), 'model/stl');
	}
	async function glb() {
		const { writeGlb } = await import('$core/formats/glb');
		const { tri, triPart } = desk.shapes!;
		const parts = desk.doc.parts.map((p, k) => ({ name: p.name, tri: [...tri].filter((_, i) => triPart[Math.floor(i / 3)] === k) }));
		save(writeGlb(moved(), parts, job.name), file(label, 'glb'), 'model/gltf-binary');
	}
	async function vtu() {
		const { writeVtu } = await import('$core/formats/vtu');
		save(writeVtu(desk.shapes!), file('steps', 'vtu'), 'application/xml');
	}
	async function figures() {
		const { resultFile } = await import('$core/formats/resultFile');
		save(resultFile(job.name, result), file('forecast', 'json'), 'application/json');
	}
	function csv() {
		const rows = result.features.map((f) => ({
			feature: f.name,
			unit: f.unit,
			value: f.notFound ? '' : f.predicted,
			low: f.notFound ? '' : f.low,
			high: f.notFound ? '' : f.high,
			lower: f.tolerance.lower ?? '',
			upper: f.tolerance.upper,
			verdict: f.verdict,
			method: result.method.name
		}));
		save(Papa.unparse(rows, { escapeFormulae: true, newline: '\r\n' }) + '\r\n', file('forecast', 'csv'), 'text/csv');
	}
	async function deck() {
		busy = true;
		message = '';
		const out = await desk.deckOf(job.name);
		busy = false;
		if (out.ok) save(out.data, file('deck', 'inp'), 'text/plain');
		else message = out.message;
	}
	const button = 'min-h-9 rounded-sm border border-steel-400 px-2 text-sm hover:bg-steel-50 disabled:text-steel-500';
</script>

<Panel title="Out in open formats">
	<p class="text-sm text-steel-700">The shape that is shown (“{label}”), not enlarged; every step; the figures.</p>
	<div class="mt-2 flex flex-wrap gap-1.5">
		<button type="button" class={button} disabled={!desk.shapes || !shape} onclick={stl}>STL</button>
		<button type="button" class={button} disabled={!desk.shapes || !shape} onclick={glb}>GLB</button>
		<button type="button" class={button} disabled={!desk.shapes} onclick={vtu}>VTU, all steps</button>
		<button type="button" class={button} onclick={csv}>Figures, CSV</button>
		<button type="button" class={button} onclick={figures}>Result file, JSON</button>
		<button type="button" class={button} disabled={busy} onclick={deck}>{busy ? 'Being written…' : 'Deck for a general solver'}</button>
	</div>
	{#if message}<div class="mt-2"><Notice kind="caution">{message}</Notice></div>{/if}
	<p class="mt-1 text-[12px] text-steel-600">
		Blanks as DXF and the cutting list are on Parts, strips on Tack, sheets on their stages, the job file on Job.
	</p>
</Panel>
