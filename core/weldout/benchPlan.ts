/** A plan's bench steps with the waits its own schedule gives. */
import { assemblyMesh } from '../mesh/assemblyMesh';
import { benchSteps, type BenchStep } from './benchSteps';
import { positionsOf } from '../layout/positions';
import type { PlanDocument } from '../document/schema';
import { schedule } from '../forecast/schedule';

export function benchPlan(plan: PlanDocument): BenchStep[] {
	const mesh = assemblyMesh(plan);
	return benchSteps(plan, schedule(plan, mesh), positionsOf(mesh));
}
