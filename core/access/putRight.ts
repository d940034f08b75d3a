/** What the plan asks for that cannot be done, put right as near to the plan as may be: one press where issuing refuses. */
import { copyOf } from '../document/copy';
import type { AssemblyStep, PlanDocument } from '../document/schema';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import { Assembly, stepsOf } from '../sequence/assembly';
import { brokenRule, putInAssemblyOrder } from '../sequence/precedence';
import { Access, accessFindings } from './access';

export interface PutRight {
	plan: PlanDocument;
	/** what was changed, in the planner's words */
	notes: string[];
}

/** @returns the plan put right as far as it can be; what still cannot be done is among its `accessFindings` */
export function putRight(plan: PlanDocument, mesh: AssemblyMesh): PutRight {
	const next = copyOf(plan);
	const notes = bringLater(next, mesh);
	if (brokenRule(next)) {
		putInAssemblyOrder(next);
		notes.push('Tacks and runs follow the order of the assembly.');
	}
	for (const f of accessFindings(next, mesh)) {
		if (f.kind !== 'refused' || !f.holdDown || f.step === 0) continue;
		const h = next.holdDowns.find((x) => x.id === f.holdDown)!;
		const step = new Assembly(next).steps[f.step];
		h.life.off = `before-step:${step.id}`;
		notes.push(`“${h.name}” comes off before “${step.name}” comes on.`);
	}
	return { plan: next, notes };
}

/** Parts that cover a seam before it is welded come on at a step of their own afterwards, one after another until nothing is covered. */
function bringLater(plan: PlanDocument, mesh: AssemblyMesh): string[] {
	const notes: string[] = [];
	for (let tries = 0; tries < plan.parts.length; tries++) {
		const cover = coverOf(plan, mesh);
		if (!cover) return notes;
		const name = plan.parts.find((p) => p.id === cover.part)!.name;
		const steps = stepsOf(plan).map((s) => ({ ...s, parts: s.parts.filter((p) => p !== cover.part) }));
		const own: AssemblyStep = { id: freshId(`on-${cover.part}`, steps), name, parts: [cover.part] };
		steps.splice(cover.step + 1, 0, own);
		plan.fitUp.order = steps.filter((s) => s.parts.length);
		notes.push(
			`“${name}” comes on later, at a step of its own: it covers ${cover.seams} seam${cover.seams > 1 ? 's' : ''} that must be welded before.`
		);
	}
	return notes;
}

/** The part that, left off, frees most of the seams that cannot be reached when they are to be welded. */
function coverOf(plan: PlanDocument, mesh: AssemblyMesh): { part: string; step: number; seams: number } | undefined {
	const access = new Access(plan, mesh);
	const { assembly } = access.timeline;
	const freed = new Map<string, { step: number; seams: number; ways: number }>();
	for (const seam of mesh.seams) {
		const { joint } = seam;
		const step = assembly.ofJoint(joint.id);
		if (joint.stock || access.seamIsReached(seam, step, 1)) continue;
		for (const part of assembly.steps[step].parts) {
			if (part === joint.a.part || part === joint.b.part) continue;
			const off = new Set([part]);
			if (!access.seamIsReached(seam, step, 1, off)) continue;
			const { seams = 0, ways = 0 } = freed.get(part) ?? {};
			freed.set(part, { step, seams: seams + 1, ways: ways + access.waysTo(seam, step, off) });
		}
	}
	let best: { part: string; step: number; seams: number; ways: number } | undefined;
	// of those that free as many, the one that leaves the widest way in
	for (const [part, f] of freed) if (!best || f.seams > best.seams || (f.seams === best.seams && f.ways > best.ways)) best = { part, ...f };
	return best;
}

const freshId = (wanted: string, steps: readonly AssemblyStep[]) => {
	let id = wanted;
	for (let n = 2; steps.some((s) => s.id === id); n++) id = `${wanted}-${n}`;
	return id;
};
