/** Which parts come on at which step of the assembly, and which step every seam belongs to. */
import type { AnyHoldDown, AssemblyStep, Joint, PlanDocument } from '../document/schema';
import { holdKind } from '../holds';

type Assembled = Pick<PlanDocument, 'parts' | 'fitUp'>;

/** The order given; parts that no step names come on with the first. */
export function stepsOf(plan: Assembled): AssemblyStep[] {
	const order = plan.fitUp.order ?? [];
	const named = new Set(order.flatMap((s) => s.parts));
	const rest = plan.parts.filter((p) => !named.has(p.id)).map((p) => p.id);
	if (!rest.length) return order;
	if (!order.length) return [{ id: 'all', name: 'All parts', parts: rest }];
	return [{ ...order[0], parts: [...rest, ...order[0].parts] }, ...order.slice(1)];
}

/** Asks of a plan's assembly what comes when; reads the plan once. */
export class Assembly {
	readonly steps: readonly AssemblyStep[];
	private readonly comesOn: ReadonlyMap<string, number>;
	private readonly joints: ReadonlyMap<string, number>;

	constructor(plan: Assembled & Pick<PlanDocument, 'joints'>) {
		this.steps = stepsOf(plan);
		this.comesOn = new Map(this.steps.flatMap((s, i) => s.parts.map((p): [string, number] => [p, i])));
		this.joints = new Map(plan.joints.map((j) => [j.id, this.ofParts([j.a.part, j.b.part])]));
	}

	/** The step at which the last of some parts comes on. */
	ofParts(ids: readonly string[]): number {
		return ids.reduce((last, id) => Math.max(last, this.comesOn.get(id) ?? 0), 0);
	}
	/** The step at which both sides of a seam are there: it is tacked and welded then, before the next step. */
	ofJoint(id: Joint['id']): number {
		return this.joints.get(id) ?? 0;
	}
	/** The step from which a hold-down has what it holds. */
	ofHoldDown(h: AnyHoldDown): number {
		return 'joint' in h ? this.ofJoint(h.joint) : this.ofParts(holdKind(h).parts(h));
	}

	/** What belongs to earlier steps first; within a step as given. */
	inOrder<T extends { joint: string }>(list: readonly T[]): T[] {
		return this.steps.flatMap((_, i) => list.filter((x) => this.ofJoint(x.joint) === i));
	}
}
