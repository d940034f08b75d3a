/** The heat of the piece in a thread of its own: no question to the server, so that it goes on without one. */
import 'reflect-metadata';
import { expose } from 'comlink';
import { assemblyMesh, type AssemblyMesh } from '$core/mesh/assemblyMesh';
import { planOf } from '$core/reading/readPlan';
import type { BenchStep } from '$core/weldout/benchSteps';
import { cooling, type Cooling } from '$core/weldout/cooling';
import type { LogLine } from '$core/weldout/logbook';
import type { PlanDocument } from '$core/document/schema';

let known: { plan: PlanDocument; mesh: AssemblyMesh } | undefined;

export interface HeatQuestion {
	steps: BenchStep[];
	lines: LogLine[];
	/** run that is next */
	next?: string;
}
export type HeatAnswer = Cooling;

const api = {
	plan(raw: unknown) {
		const plan = planOf(raw);
		known = { plan, mesh: assemblyMesh(plan) };
	},
	ask({ steps, lines, next }: HeatQuestion): HeatAnswer {
		if (!known) throw new Error('The plan comes first');
		return cooling(known.plan, known.mesh, steps, lines, next);
	}
};
export type HeatApi = typeof api;
expose(api);
