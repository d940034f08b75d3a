/** Reads a drawing or a model into a plan, in a thread of its own: STEP through Open CASCADE, meshes by three's loaders. */
import 'reflect-metadata';
import occt from 'occt-import-js';
import { parentPort, workerData } from 'node:worker_threads';
import { Mesh, type BufferGeometry, type Object3D } from 'three';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import { planFromFlats, planFromParts } from '$core/compose/fromFlats';
import { ownPiece } from '$core/formats/ownPiece';
import { partsFromSurfaces, type Soup } from '$core/compose/fromSurfaces';
import { readDxf } from '$core/formats/dxfIn';
import { readPlan } from '$core/reading/readPlan';
import type { PlanDocument } from '$core/document/schema';
import type { ImportAnswer, ImportTask } from './importShape';
import { isRefusal, Refusal } from '$core/refusal/refusal';

const MM = { mm: 1, cm: 10, m: 1000, in: 25.4 };

function soupOf(g: BufferGeometry, name: string, scale: number): Soup {
	const xyz = Float64Array.from(g.getAttribute('position').array as ArrayLike<number>, (v) => v * scale);
	const tri = g.index ? Array.from(g.index.array) : Array.from({ length: xyz.length / 3 }, (_, i) => i);
	return { xyz, tri, name };
}

async function soups(task: ImportTask): Promise<Soup[]> {
	const { bytes, kind } = task;
	const scale = MM[task.unit ?? 'mm'];
	const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
	if (kind === 'stl') return [soupOf(new STLLoader().parse(buffer), 'Model', scale)];
	if (kind === 'ply') return [soupOf(new PLYLoader().parse(buffer), 'Model', scale)];
	if (kind === 'obj') {
		const out: Soup[] = [];
		new OBJLoader().parse(new TextDecoder().decode(bytes)).traverse((o: Object3D) => {
			if (o instanceof Mesh) out.push(soupOf(o.geometry as BufferGeometry, o.name || `Object ${out.length + 1}`, scale));
		});
		return out;
	}
	const reader = await occt();
	// STEP says its own units; Open CASCADE turns them into mm
	const r = reader.ReadStepFile(bytes, {
		linearUnit: 'millimeter',
		linearDeflectionType: 'absolute_value',
		linearDeflection: 0.05,
		angularDeflection: 0.15
	});
	if (!r.success) throw new Refusal('Open CASCADE could not read this STEP file: export it anew as AP203 or AP214');
	return r.meshes.map((m, i) => {
		const face = new Int32Array(m.index.array.length / 3);
		(m.brep_faces ?? []).forEach((f, k) => face.fill(k, f.first, f.last + 1));
		return { xyz: m.attributes.position.array, tri: m.index.array, face: m.brep_faces?.length ? face : undefined, name: m.name || `Solid ${i + 1}` };
	});
}

async function run(task: ImportTask): Promise<ImportAnswer> {
	const none = (faults: ImportAnswer['faults'], notes: ImportAnswer['notes'] = [], more: Partial<ImportAnswer> = {}): ImportAnswer => ({
		faults,
		notes,
		...more
	});
	let plan: PlanDocument;
	let notes: ImportAnswer['notes'];
	let unit: ImportAnswer['unit'];
	const options = { ...task, toleranceMm: task.toleranceMm };
	if (task.kind === 'dxf') {
		const read = readDxf(new TextDecoder().decode(task.bytes), task.unit);
		if (read.faults.length) return none(read.faults, read.unused, { unit: read.unit, needsUnit: !read.unit });
		// blanks that were drawn here tell their piece: material, thickness and form are theirs
		plan = ownPiece(read, options.toleranceMm) ?? planFromFlats(read.flats, options);
		notes = read.unused;
		unit = read.unit;
	} else {
		const read = partsFromSurfaces(await soups(task), options);
		if (read.faults.length)
			return none(
				read.faults.map((words) => ({ words })),
				read.unused.map((words) => ({ words }))
			);
		plan = planFromParts(read.parts, options);
		notes = read.unused.map((words) => ({ words }));
	}
	if (!plan.joints.length)
		notes = [...notes, { words: `No edges meet within ${task.toleranceMm} mm: raise the tolerance, or draw the parts where they belong` }];
	// shape and sense: what notes in a drawing say is nobody's word yet
	const faults = readPlan(JSON.parse(JSON.stringify(plan))).faults.map((f) => ({ words: `${f.field}: ${f.value}: ${f.allowed}` }));
	return faults.length ? none(faults, notes) : { plan, notes, faults: [], unit };
}

run(workerData as ImportTask)
	.then((a) => parentPort?.postMessage(a))
	.catch((e: unknown) =>
		parentPort?.postMessage({
			faults: [{ words: isRefusal(e) ? e.message : `The file could not be read: ${(e as Error).message}` }],
			notes: []
		} satisfies ImportAnswer)
	);
