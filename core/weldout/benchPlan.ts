/** A plan's bench steps with the waits its own schedule gives, what its assembly shuts in, and how far film is peeled back. */
import { Access, accessFindings, orderFindings } from '../access/access';
import { readableSteps } from '../access/measurable';
import type { PlanDocument } from '../document/schema';
import { schedule } from '../forecast/schedule';
import { PieceDrawer, type LineDrawing } from '../draw/lineDrawing';
import { featureMarks, holdMarks, type Marks } from '../draw/marks';
import type { PagePlaces } from '../draw/svg';
import type { Turn } from '../draw/view';
import { positionsOf, type Up } from '../layout/positions';
import { assemblyMesh, type AssemblyMesh } from '../mesh/assemblyMesh';
import { benchSteps, type BenchStep } from './benchSteps';
import { filmBack } from './film';

export interface BenchPlan {
	steps: BenchStep[];
	/** drawings by key: a step names its own */
	pictures: Record<string, LineDrawing>;
	/** what the order of work closes off, puts in the way or cannot do, in words */
	findings: string[];
	/** by feature, and by hold-down: which drawing shows it, and what it points at there */
	features: Record<string, Pointed>;
	holds: Record<string, Pointed>;
}

/** A drawing and places on its page. */
export interface Pointed extends PagePlaces {
	picture: string;
	seam?: Marks['seam'];
}

export function benchPlan(plan: PlanDocument): BenchPlan {
	const mesh = assemblyMesh(plan);
	const access = new Access(plan, mesh);
	const readable = new Map(plan.features.map((f) => [f.id, readableSteps(f, access)]));
	const positions = positionsOf(mesh);
	const findings = accessFindings(plan, mesh, access);
	const steps = benchSteps(plan, {
		schedule: schedule(plan, mesh),
		positions,
		findings,
		filmMm: filmBack(plan),
		readable: (id) => readable.get(id)!
	});
	const art = new Illustrator(mesh, access);
	art.steps(steps, plan);
	const last = access.timeline.assembly.steps.length - 1;
	const features = plan.features.map((f) => {
		const { from, to } = readable.get(f.id)!;
		// as late as it can still be read: what it is read on is complete then
		return [f.id, art.point(featureMarks(f, plan), to < from ? last : to, 'top')] as const;
	});
	const holds = plan.holdDowns.map((h) => [h.id, art.point(holdMarks(h, plan), stepOf(steps, h.id, access), 'top')] as const);
	const words = [...orderFindings(plan), ...findings.map((f) => f.words)];
	return { steps, findings: words, pictures: art.pictures, features: Object.fromEntries(features), holds: Object.fromEntries(holds) };
}

/** The step of the assembly at which a hold-down goes on. */
function stepOf(steps: readonly BenchStep[], holdDown: string, access: Access): number {
	let step = 0;
	for (const s of steps) {
		if (s.kind === 'parts') step = stepOfParts(s.parts, access);
		if (s.kind === 'hold' && s.on && s.holdDown === holdDown) return step;
	}
	return step;
}
const stepOfParts = (parts: readonly string[], access: Access) => access.timeline.assembly.steps.findIndex((x) => x.parts.join() === parts.join());

/** Steps of no one seam that happen on the whole of the piece. */
const WHOLE: readonly BenchStep['kind'][] = ['parts', 'flip', 'look', 'sign'];

/** Draws the piece as it lies and as far as it is built, once for each way it is shown. */
class Illustrator {
	readonly pictures: Record<string, LineDrawing> = {};
	private readonly drawer: PieceDrawer;

	constructor(
		mesh: AssemblyMesh,
		private readonly access: Access
	) {
		this.drawer = new PieceDrawer(mesh);
	}

	/** Gives every step that happens somewhere on the piece its picture: the parts that are on, lying as they lie then, from where the seam is seen. */
	steps(steps: readonly BenchStep[], plan: PlanDocument) {
		const turns = new Map<string, Turn>();
		let [lies, step]: [Up, number] = ['top', 0];
		for (const s of steps) {
			if (s.kind === 'flip') lies = s.up;
			if (s.kind === 'parts') step = stepOfParts(s.parts, this.access);
			const hold = s.kind === 'hold' ? plan.holdDowns.find((h) => h.id === s.holdDown) : undefined;
			const joint = 'joint' in s ? s.joint : hold && 'joint' in hold ? hold.joint : undefined;
			if (joint === undefined && !WHOLE.includes(s.kind)) continue;
			const seen = `${joint ?? ''}/${lies}/${step}`;
			if (!turns.has(seen)) turns.set(seen, joint === undefined ? 0 : this.drawer.bestTurn(joint, lies, this.access.standing(step)));
			s.picture = this.draw(step, lies, turns.get(seen)!);
		}
	}

	point({ at, labels, lines, seam }: Marks, step: number, lies: Up): Pointed {
		const standing = this.access.standing(step);
		const turn = seam ? this.drawer.bestTurn(seam.joint, lies, standing) : this.drawer.bestTurnFor(at, lies, standing);
		const picture = this.draw(step, lies, turn);
		return { picture, at: at.map((p) => PieceDrawer.placeOn(this.pictures[picture], lies, turn, p)), labels, lines, seam };
	}

	private draw(step: number, lies: Up, turn: Turn): string {
		const key = `${step}/${lies}/${turn}`;
		this.pictures[key] ??= this.drawer.draw(lies, turn, this.access.standing(step));
		return key;
	}
}
