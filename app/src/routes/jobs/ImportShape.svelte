<script lang="ts">
	/** A drawing (DXF) or a model (STEP, STL, OBJ, PLY) into a job: look first, then make it. */
	import { goto } from '$app/navigation';
	import type { Vec2 } from '$core/geometry/vec';
	import type { JointType } from '$core/document/words';
	import { JOINTS } from '$core/joints';
	import type { LengthUnit } from '$core/units/length';
	import Choice from '$lib/ui/Choice.svelte';
	import LengthField from '$lib/ui/LengthField.svelte';
	import Notice from '$lib/ui/Notice.svelte';
	import NumberField from '$lib/ui/NumberField.svelte';
	import type { Fault } from '$core/document/faults';
	import { Button, Input, Label } from 'flowbite-svelte';

	let { unit, grades }: { unit: LengthUnit; grades: { id: string; name: string }[] } = $props();

	interface Trouble {
		at?: Vec2;
		words: string;
	}
	interface Looked {
		needsUnit: boolean;
		unit?: string;
		faults: Trouble[];
		notes: Trouble[];
		parts?: { id: string; name: string; thicknessMm: number; outline: Vec2[]; holes: Vec2[][]; bends: [Vec2, Vec2][]; rolled: boolean }[];
		seams?: { name: string; type: JointType }[];
	}
	const KINDS: Record<string, string> = { dxf: 'dxf', step: 'step', stp: 'step', stl: 'stl', obj: 'obj', ply: 'ply' };
	const MOST_MB = 40;

	let file = $state.raw<File | undefined>();
	let name = $state('');
	let material = $state('1.4301');
	let thickness = $state(1.5);
	let angle = $state(90);
	let radius = $state(2);
	let tolerance = $state(0.5);
	let fileUnit = $state('');
	let looked = $state.raw<Looked | undefined>();
	let faults = $state.raw<Fault[]>([]);
	let problem = $state('');
	let busy = $state('');
	let controller: AbortController | undefined;
	const kind = $derived(KINDS[file?.name.split('.').pop()?.toLowerCase() ?? '']);

	async function send(make: boolean) {
		if (!file || !kind) return;
		controller = new AbortController();
		busy = make ? 'Making the job…' : 'Reading the file…';
		problem = '';
		faults = [];
		const q = new URLSearchParams({
			kind,
			material,
			thicknessMm: String(thickness),
			bendAngleDeg: String(angle),
			bendRadiusMm: String(radius),
			toleranceMm: String(tolerance),
			...(fileUnit ? { unit: fileUnit } : {}),
			...(make ? { name: name.trim() || file.name.replace(/\.[^.]+$/, '').slice(0, 120) } : {})
		});
		try {
			const r = await fetch(`/api/shapes?${q}`, {
				method: 'POST',
				headers: { 'content-type': 'application/octet-stream' },
				body: file,
				signal: controller.signal
			});
			const data = await r.json();
			if (!r.ok) {
				problem = data.message ?? `The server answered ${r.status}.`;
				faults = data.faults ?? [];
			} else if (data.job) await goto(`/jobs/${data.job.id}/parts`);
			else looked = data;
		} catch (e) {
			problem = (e as Error).name === 'AbortError' ? 'Stopped. Nothing was changed.' : 'The server cannot be reached. Nothing was changed.';
		}
		busy = '';
	}
	function choose(f: File | undefined) {
		file = f;
		looked = undefined;
		problem = '';
		if (!f) return;
		if (f.size > MOST_MB * 1e6) {
			problem = `${f.name} has ${(f.size / 1e6).toFixed(0)} MB; at most ${MOST_MB} MB are read.`;
			file = undefined;
		} else if (!KINDS[f.name.split('.').pop()?.toLowerCase() ?? '']) {
			problem = `${f.name} is none of the kinds that are read: DXF, STEP, STL, OBJ or PLY.`;
			file = undefined;
		} else void send(false);
	}
	const view = $derived.by(() => {
		const all = [...(looked?.parts ?? []).flatMap((p) => p.outline)];
		if (!all.length) return undefined;
		const xs = all.map((p) => p[0]);
		const ys = all.map((p) => p[1]);
		const box = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
		const pad = 0.03 * Math.max(box[2] - box[0], box[3] - box[1]);
		return `${box[0] - pad} ${-box[3] - pad} ${box[2] - box[0] + 2 * pad} ${box[3] - box[1] + 2 * pad}`;
	});
	const ring = (r: Vec2[]) => `M${r.map((p) => `${p[0]} ${-p[1]}`).join('L')}Z`;
	const troubles = $derived([...(looked?.faults ?? []), ...(looked?.notes ?? [])].filter((t) => t.at));
</script>

<div class="space-y-4">
	<div>
		<Label for="shape-file" class="mb-1 text-steel-700">Drawing (DXF flat patterns) or model (STEP, STL, OBJ, PLY)</Label>
		<input
			id="shape-file"
			type="file"
			accept=".dxf,.step,.stp,.stl,.obj,.ply"
			class="block w-full text-sm"
			onchange={(e) => choose(e.currentTarget.files?.[0])}
		/>
	</div>
	<div class="grid grid-cols-3 gap-3">
		<Choice label="Material" value={material} items={grades.map((g) => ({ value: g.id, name: g.name }))} onchange={(v) => (material = v)} />
		<LengthField
			label="Sheet thickness"
			mm={thickness}
			{unit}
			min={0.3}
			max={12}
			hint={kind === 'step' ? 'for faces without a back' : undefined}
			onchange={(v) => (thickness = v)}
		/>
		<LengthField label="Edges meet within" mm={tolerance} {unit} min={0.01} max={20} onchange={(v) => (tolerance = v)} />
		{#if kind === 'dxf' || !kind}
			<NumberField label="Folds turn" unit="°" value={angle} min={-175} max={175} onchange={(v) => (angle = v ?? 90)} />
			<LengthField label="Inside bend radius" mm={radius} {unit} min={0} max={500} onchange={(v) => (radius = v)} />
		{/if}
		{#if (kind && kind !== 'step') || looked?.needsUnit}
			<Choice
				label="Units of the file"
				value={fileUnit}
				items={[
					{ value: '', name: kind === 'dxf' ? 'as the file says' : 'mm' },
					{ value: 'mm', name: 'mm' },
					{ value: 'cm', name: 'cm' },
					{ value: 'm', name: 'm' },
					{ value: 'in', name: 'inches' }
				]}
				onchange={(v) => (fileUnit = v)}
			/>
		{/if}
	</div>
	{#if problem}<Notice kind="fault" {faults}>{problem}</Notice>{/if}
	<div aria-live="polite" class="space-y-2">
		{#if busy}
			<div class="flex items-center gap-3 text-sm">
				<progress class="h-2 flex-1"></progress>{busy}<Button size="xs" color="alternative" onclick={() => controller?.abort()}>Stop</Button>
			</div>
		{:else if looked}
			{#each looked.faults as t, i (i)}<Notice kind="fault">{t.words}</Notice>{/each}
			{#if looked.parts}
				<p class="text-sm">
					<strong>{looked.parts.length} part{looked.parts.length === 1 ? '' : 's'}</strong>{looked.unit ? `, drawn in ${looked.unit}` : ''};
					<strong>{looked.seams?.length} seam{looked.seams?.length === 1 ? '' : 's'}</strong> found where edges meet.
				</p>
				{#if view}
					<svg viewBox={view} class="max-h-64 w-full bg-steel-50" role="img" aria-label="Layouts of the parts found">
						{#each looked.parts as p (p.id)}
							<path
								d={ring(p.outline) + p.holes.map(ring).join('')}
								fill="#eceff1"
								fill-rule="evenodd"
								stroke="#3b4650"
								vector-effect="non-scaling-stroke"
							/>
							{#each p.bends as b, i (i)}<line
									x1={b[0][0]}
									y1={-b[0][1]}
									x2={b[1][0]}
									y2={-b[1][1]}
									stroke="#96660f"
									stroke-dasharray="5 4"
									vector-effect="non-scaling-stroke"
								/>{/each}
						{/each}
						{#each troubles as t, i (i)}<circle
								cx={t.at![0]}
								cy={-t.at![1]}
								r="6"
								fill="none"
								stroke="#8d2f5a"
								stroke-width="3"
								vector-effect="non-scaling-stroke"
							/>{/each}
					</svg>
				{/if}
				{#if looked.seams?.length}
					<ul class="columns-2 text-[13px] text-steel-700">
						{#each looked.seams.slice(0, 24) as s, i (i)}<li>{s.name}: {JOINTS[s.type].name}</li>{/each}
					</ul>
				{/if}
			{/if}
			{#if looked.notes.length}
				<details class="text-sm" open={looked.notes.length < 6}>
					<summary class="cursor-pointer font-medium">{looked.notes.length} thing{looked.notes.length === 1 ? '' : 's'} left aside</summary>
					<ul class="list-disc pl-5 text-[13px] text-steel-700">
						{#each looked.notes.slice(0, 60) as t, i (i)}<li>{t.words}</li>{/each}
					</ul>
				</details>
			{/if}
		{/if}
	</div>
	<div class="flex items-end gap-3">
		<div class="flex-1">
			<Label for="shape-name" class="mb-1 text-steel-700">Job name</Label>
			<Input id="shape-name" size="sm" maxlength={120} bind:value={name} placeholder={file?.name.replace(/\.[^.]+$/, '') ?? ''} />
		</div>
		<Button size="sm" color="alternative" disabled={!file || busy !== ''} onclick={() => send(false)}>Look again</Button>
		<Button size="sm" disabled={!looked?.parts || busy !== ''} onclick={() => send(true)}>Make the job</Button>
	</div>
</div>
