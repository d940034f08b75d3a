/** A plan's bench steps with the waits its own schedule gives. */
import { assemblyMesh } from '../mesh/assemblyMesh';
import { benchSteps, type BenchStep } from '../plan/benchSteps';
import { positionsOf } from '../plan/positions';
import type { PlanDocument } from '../plan/schema';
import { schedule } from './schedule';

export function benchPlan(plan: PlanDocument): BenchStep[] {
	const mesh = assemblyMesh(plan);
	return benchSteps(plan, schedule(plan, mesh), positionsOf(mesh));
}
