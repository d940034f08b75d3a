import 'reflect-metadata';
import { expose, transfer } from 'comlink';
import { ForecastCache } from '$core/forecast/analysis';
import { forecast } from '$core/forecast/forecast';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { SingularError } from '$core/linalg/supernodal';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import { planOf } from '$core/plan/read';
import { nodeAt } from '$core/shell/model';
import type { Geometry, Outcome, QuickApi } from './protocol';

const cache = new ForecastCache(kernelFactory(WebAssembly));

function guarded<T>(work: () => T): Outcome<T> {
	try {
		return { ok: true, data: work() };
	} catch (e) {
		if (e instanceof SingularError || e instanceof RangeError || (e instanceof Error && e.name === 'FaultError'))
			return { ok: false, message: e.message };
		console.error(e);
		return { ok: false, message: 'The forecast failed on this plan. Undo the last change, or send the job file to whoever looks after Sarta.' };
	}
}

const api: QuickApi = {
	geometry(plan) {
		const out = guarded((): Geometry => {
			const mesh = assemblyMesh(planOf(plan));
			return {
				xyz: Float32Array.from(mesh.xyz),
				tri: Uint32Array.from(mesh.tri),
				triPart: Uint16Array.from(mesh.triPart),
				sizeMm: mesh.sizeMm,
				seams: mesh.seams.map((s) => ({
					joint: s.joint.id,
					lengthMm: s.lengthMm,
					stations: [...s.stations],
					points: [...s.a].flatMap((k) => nodeAt(mesh.xyz, k)),
					side: s.frames.flatMap((f) => f.weldSide),
					nodes: [...s.a]
				}))
			};
		});
		return out.ok ? transfer(out, [out.data.xyz.buffer, out.data.tri.buffer, out.data.triPart.buffer]) : out;
	},
	forecast(plan, factors, progress) {
		let told = -1;
		const out = guarded(() => {
			const f = forecast(planOf(plan), {
				factors,
				cache,
				clock: () => performance.now(),
				progress: (p) => {
					// a message each percent is plenty
					if (Math.floor(p * 100) > told) {
						told = Math.floor(p * 100);
						progress(p);
					}
				}
			});
			return { result: f.result, shapes: f.shapes };
		});
		if (!out.ok) return out;
		const { shapes } = out.data;
		return transfer(out, [shapes.xyz.buffer, shapes.tri.buffer, shapes.triPart.buffer, ...shapes.steps.map((s) => s.buffer)]);
	}
};

expose(api);
