import 'reflect-metadata';
import { expose, transfer } from 'comlink';
import { drawingFit } from '$core/forecast/readers';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import { planOf } from '$core/reading/readPlan';
import { align } from '$core/scan/align';
import { checkCloud, FILE_UNITS } from '$core/scan/cloud';
import { fromDatum } from '$core/scan/datum';
import { scannedFeatures } from '$core/scan/features';
import { fieldOf } from '$core/scan/field';
import { surfaceOf } from '$core/scan/surface';
import { guarded, percents } from '$lib/in-worker';
import type { ScanApi } from './protocol';
import { readCloud } from './readCloud';
import { treeOf } from './tree';

const SORRY = 'Laying this scan on the piece failed. Try another kind of file, or fewer points.';

const api: ScanApi = {
	lay(raw, ask, progress) {
		const tell = percents(progress);
		const out = guarded(() => {
			const started = performance.now();
			const plan = planOf(raw);
			const { points, normals } = readCloud(ask.name, ask.bytes);
			const cloud = points.map((v) => v * FILE_UNITS[ask.unit]);
			tell(0.1);
			const mesh = assemblyMesh(plan);
			checkCloud(cloud, mesh.xyz, ask.unit);
			const moved = surfaceOf(mesh, () => {}, ask.onto);
			const surface = { ...moved, nearest: treeOf(moved.xyz, mesh.tri) };
			const parts = ask.parts.length ? new Set(ask.parts.map((id) => plan.parts.findIndex((p) => p.id === id))) : undefined;
			const laid = align(cloud, surface, { side: ask.side, parts, way: ask.way, progress: (p) => tell(0.1 + 0.3 * p) });
			const field = fieldOf(cloud, laid.motion, surface, mesh, { side: ask.side, normals, progress: (p) => tell(0.4 + 0.6 * p) });
			// from the drawing, also where it was laid on the forecast
			if (ask.onto) field.u.forEach((_, i) => (field.u[i] += ask.onto![i]));
			const fit = drawingFit(mesh);
			const seen = (u: ArrayLike<number>): Float32Array =>
				(ask.isFromDatum ? fromDatum(plan, mesh, u) : undefined) ?? fit(Float64Array.from(mesh.xyz, (v, i) => v + u[i]));
			return {
				points: cloud.length / 3,
				taken: field.taken,
				left: field.left,
				rms: laid.rms,
				scatter: field.scatter,
				isSettled: laid.isSettled && field.isSettled,
				way: laid.way,
				others: laid.others,
				features: scannedFeatures(plan, mesh, field),
				shape: seen(field.u),
				isFromDatum: ask.isFromDatum && plan.datum !== undefined,
				beside: ask.beside && seen(ask.beside),
				unsure: field.unsure.map((k) => plan.parts[k].name),
				unseen: field.seen.reduce((s, v) => s + (v < 1 ? 1 : 0), 0) / mesh.nodeCount,
				seconds: (performance.now() - started) / 1000
			};
		}, SORRY);
		return out.ok ? transfer(out, [out.data.shape.buffer]) : out;
	}
};

expose(api);
