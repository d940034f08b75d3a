import 'reflect-metadata';
import { expose, transfer } from 'comlink';
import { ForecastCache, scalesOf } from '$core/forecast/analysis';
import { comparePlans } from '$core/forecast/compare';
import { finalForecast } from '$core/forecast/finalForecast';
import { forecast } from '$core/forecast/forecast';
import { writeCalculix } from '$core/formats/calculix';
import { pieceDeck } from '$core/formats/pieceDeck';
import { HotMemory } from '$core/hot/factors';
import { hotForecast } from '$core/hot/hotForecast';
import { kernelFactory } from '$core/linalg/kernel/kernel';
import { assemblyMesh } from '$core/mesh/assemblyMesh';
import { whatWaitingBuys } from '$core/estimate/waiting';
import { positionsOf } from '$core/layout/positions';
import { planOf } from '$core/reading/readPlan';
import { nodeAt } from '$core/shell/model';
import { guarded as orRefused, percents, type Outcome } from '$lib/in-worker';
import type { DeepAnswer, Geometry, QuickApi } from './protocol';

const kernel = kernelFactory(WebAssembly);
const cache = new ForecastCache(kernel);
const other = new ForecastCache(kernel);
const memory = new HotMemory(kernel);
let newest = 0;
/** Lets a newer question in: what is left of an older one is not worth its time then. */
const turn = () => new Promise<void>((resolve) => setTimeout(resolve));

const SORRY = 'The forecast failed on this plan. Undo the last change, or send the job file to whoever looks after Sarta.';
const guarded = <T>(work: () => T): Outcome<T> => orRefused(work, SORRY);

const shapesMoved = (out: Outcome<DeepAnswer>): Outcome<DeepAnswer> =>
	out.ok ? transfer(out, [out.data.shape.buffer, ...(out.data.other ? [out.data.other.buffer] : [])]) : out;

const api: QuickApi = {
	geometry(plan) {
		const out = guarded((): Geometry => {
			// what is drawn is forecast next, and read with all its faults there
			const mesh = assemblyMesh(plan);
			return {
				xyz: Float32Array.from(mesh.xyz),
				tri: Uint32Array.from(mesh.tri),
				triPart: Uint16Array.from(mesh.triPart),
				layout: Float32Array.from(mesh.parts.flatMap((p) => [...p.flat.xy])),
				sizeMm: mesh.sizeMm,
				positions: [...positionsOf(mesh)].map(([joint, up]) => [joint, [...up]]),
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
		return out.ok ? transfer(out, [out.data.xyz.buffer, out.data.tri.buffer, out.data.triPart.buffer, out.data.layout.buffer]) : out;
	},
	async forecast(plan, factors, progress, first) {
		const mine = ++newest;
		const made = guarded(() => {
			const f = forecast(planOf(plan), { factors, cache, clock: () => performance.now(), progress: percents(progress) });
			first(f.result);
			return f;
		});
		if (!made.ok) return made;
		await turn();
		if (mine !== newest) return undefined;
		const drawn = guarded(() => made.data.shapes());
		if (!drawn.ok) return drawn;
		await turn();
		if (mine !== newest) return undefined;
		const shapes = drawn.data;
		const out = guarded(() => {
			made.data.heat();
			return { result: made.data.result, shapes };
		});
		if (!out.ok) return out;
		return transfer(out, [shapes.xyz.buffer, shapes.tri.buffer, shapes.triPart.buffer, ...shapes.steps.map((s) => s.buffer)]);
	},
	compare: (now, then, factors) =>
		guarded(() => {
			// another order acts through heat alone where every place is tacked
			const isWarm = JSON.stringify(now.runs) !== JSON.stringify(then.runs);
			return comparePlans(planOf(now), planOf(then), factors, { now: cache, then: other }, isWarm);
		}),
	deck: (plan, factors, title) =>
		guarded(() => {
			const { analysis } = forecast(planOf(plan), { factors, cache: other });
			const deck = pieceDeck(analysis, title, scalesOf(factors.mean));
			return writeCalculix(deck, { kind: 'staged', stages: deck.stages });
		}),
	waiting: (plan, factors, progress) => guarded(() => whatWaitingBuys(planOf(plan), factors, other, percents(progress))),
	finalShape(plan, factors, progress) {
		const tell = percents(progress);
		const clock = () => performance.now();
		const out = guarded(() => {
			const quick = forecast(planOf(plan), { factors, cache, clock, progress: (p) => tell(0.2 * p) });
			quick.heat();
			return finalForecast(quick, { factors, clock, progress: (p) => tell(0.2 + 0.8 * p) });
		});
		return shapesMoved(out);
	},
	hot(plan, factors, plain, progress) {
		const tell = percents(progress);
		const clock = () => performance.now();
		return shapesMoved(
			guarded(() => {
				const quick = forecast(planOf(plan), { factors, cache, clock, progress: (p) => tell(0.1 * p) });
				quick.heat();
				return hotForecast(quick, { factors, clock, kernel, memory, plain, progress: (p) => tell(0.1 + 0.9 * p) });
			})
		);
	}
};

expose(api);
