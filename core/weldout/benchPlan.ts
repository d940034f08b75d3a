/** A plan's bench steps with the waits its own schedule gives, what its assembly shuts in, and how far film is peeled back. */
import { Access, accessFindings } from '../access/access';
import { readableSteps } from '../access/measurable';
import type { PlanDocument } from '../document/schema';
import { schedule } from '../forecast/schedule';
import { PieceDrawer, type LineDrawing } from '../draw/lineDrawing';
import type { Turn } from '../draw/view';
import { positionsOf, type Up } from '../layout/positions';
import { assemblyMesh, type AssemblyMesh } from '../mesh/assemblyMesh';
import { benchSteps, type BenchStep } from './benchSteps';
import { filmBack } from './film';

export interface BenchPlan {
	steps: BenchStep[];
	/** drawings by key: a step names its own */
	pictures: Record<string, LineDrawing>;
}

export function benchPlan(plan: PlanDocument): BenchPlan {
	const mesh = assemblyMesh(plan);
	const access = new Access(plan, mesh);
	const readable = new Map(plan.features.map((f) => [f.id, readableSteps(f, access)]));
	const positions = positionsOf(mesh);
	const steps = benchSteps(plan, {
		schedule: schedule(plan, mesh),
		positions,
		findings: access.timeline.assembly.steps.length > 1 ? accessFindings(plan, mesh, access) : [],
		filmMm: filmBack(plan),
		readable: (id) => readable.get(id)!
	});
	return { steps, pictures: illustrate(steps, plan, mesh, access) };
}

/** Gives every step that happens somewhere on the piece its picture: the parts that are on, lying as they lie then, from where the seam is seen. */
function illustrate(steps: readonly BenchStep[], plan: PlanDocument, mesh: AssemblyMesh, access: Access): Record<string, LineDrawing> {
	const drawer = new PieceDrawer(mesh);
	const { assembly } = access.timeline;
	const pictures: Record<string, LineDrawing> = {};
	const turns = new Map<string, Turn>();
	let [lies, step]: [Up, number] = ['top', 0];
	for (const s of steps) {
		if (s.kind === 'flip') lies = s.up;
		if (s.kind === 'parts') step = assembly.steps.findIndex((x) => x.parts.join() === s.parts.join());
		const hold = s.kind === 'hold' ? plan.holdDowns.find((h) => h.id === s.holdDown) : undefined;
		const joint = 'joint' in s ? s.joint : hold && 'joint' in hold ? hold.joint : undefined;
		if (joint === undefined && s.kind !== 'parts' && s.kind !== 'flip' && s.kind !== 'look') continue;
		const standing = access.standing(step);
		const seen = `${joint ?? ''}/${lies}/${step}`;
		if (!turns.has(seen)) turns.set(seen, joint === undefined ? 0 : drawer.bestTurn(joint, lies, standing));
		const turn = turns.get(seen)!;
		s.picture = `${step}/${lies}/${turn}`;
		pictures[s.picture] ??= drawer.draw(lies, turn, standing);
	}
	return pictures;
}
