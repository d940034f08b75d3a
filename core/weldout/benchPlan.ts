/** A plan's bench steps with the waits its own schedule gives, what its assembly shuts in, and how far film is peeled back. */
import { Access, accessFindings } from '../access/access';
import { readableSteps } from '../access/measurable';
import type { PlanDocument } from '../document/schema';
import { schedule } from '../forecast/schedule';
import { positionsOf } from '../layout/positions';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { benchSteps, type BenchStep } from './benchSteps';
import { filmBack } from './film';

export function benchPlan(plan: PlanDocument): BenchStep[] {
	const mesh = assemblyMesh(plan);
	const access = new Access(plan, mesh);
	const readable = new Map(plan.features.map((f) => [f.id, readableSteps(f, access)]));
	return benchSteps(plan, {
		schedule: schedule(plan, mesh),
		positions: positionsOf(mesh),
		findings: access.timeline.assembly.steps.length > 1 ? accessFindings(plan, mesh, access) : [],
		filmMm: filmBack(plan),
		readable: (id) => readable.get(id)!
	});
}
