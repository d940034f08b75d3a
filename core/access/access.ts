/** What can still be reached as the parts come together: seams to weld, roots to look at, film to peel, hold-downs to take off. */
import type { AnyHoldDown, PlanDocument } from '../document/schema';
import { scale, type Vec3 } from '../geometry/vec';
import { holdKind } from '../holds';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import { nodeAt } from '../shell/model';
import { brokenRule } from '../sequence/precedence';
import { Timeline } from '../sequence/timeline';
import { enclosedLitres } from './enclosed';
import { weldedWhileOn } from './inTheWay';
import { clearOf, middleOfPart, normalAt, Solid } from './reach';

export interface Finding {
	/** the step at which it happens, from 0 */
	step: number;
	/** `refused` cannot be carried out; the rest is said, and done at the bench */
	kind: 'refused' | 'closed' | 'root' | 'film' | 'vent' | 'caution';
	/** of what it speaks, where it is one thing */
	joint?: string;
	part?: string;
	holdDown?: string;
	words: string;
}

/** Shares of a seam's length at which it is looked at. */
const PLACES = [0.3, 0.7];

/** Looks at a plan step by step of its assembly. One for one plan and mesh. */
export class Access {
	readonly timeline: Timeline;
	private readonly solid: Solid;
	private readonly known = new Map<string, boolean>();
	private readonly litres = new Map<number, number>();

	constructor(
		readonly plan: PlanDocument,
		readonly mesh: AssemblyMesh
	) {
		this.timeline = new Timeline(plan);
		this.solid = new Solid(mesh);
	}

	/** indices of the parts that are on at a step */
	standing(step: number, without: ReadonlySet<string> = new Set()): Set<number> {
		const { assembly } = this.timeline;
		return new Set(this.mesh.parts.flatMap((p, k) => (assembly.ofParts([p.part.id]) <= step && !without.has(p.part.id) ? [k] : [])));
	}

	/** How wide a way there is to a seam from the side it is welded from: rays that get out, with some parts taken to be off. */
	waysTo(seam: SeamMesh, step: number, without: ReadonlySet<string>): number {
		const on = this.standing(step, without);
		return PLACES.reduce((sum, f) => {
			const i = Math.min(seam.stations.length - 1, Math.round(f * (seam.stations.length - 1)));
			const pole = seam.frames[i].weldSide;
			return sum + this.solid.waysOut(nodeAt(this.mesh.xyz, seam.a[i]), pole, on, clearOf(seam, i, pole));
		}, 0);
	}

	/** @param sign 1 for the side it is welded from, -1 for its root; @param without parts that are taken to be off */
	seamIsReached(seam: SeamMesh, step: number, sign: 1 | -1, without?: ReadonlySet<string>, places: readonly number[] = PLACES): boolean {
		const key = `${seam.joint.id}/${step}/${sign}/${[...(without ?? [])].join(' ')}/${places.join(' ')}`;
		let found = this.known.get(key);
		if (found === undefined) {
			const on = this.standing(step, without);
			found = places.every((f) => {
				const i = Math.min(seam.stations.length - 1, Math.round(f * (seam.stations.length - 1)));
				const pole = scale(seam.frames[i].weldSide, sign);
				return this.solid.reached(nodeAt(this.mesh.xyz, seam.a[i]), pole, on, clearOf(seam, i, pole));
			});
			this.known.set(key, found);
		}
		return found;
	}

	/** Can a place on a face be reached with the parts of a step standing? */
	faceIsReached(at: Vec3, normal: Vec3, step: number): boolean {
		return this.solid.reached(at, normal, this.standing(step));
	}

	/** Indices of the parts, other than these, that lie on a place or close over it towards `pole`. */
	coversOf(at: Vec3, pole: Vec3, step: number, own: ReadonlySet<string>): ReadonlySet<number> {
		return this.solid.covers(at, pole, this.standing(step, own));
	}

	/** Where hands must get to take a hold-down off, each from at least one of the sides given. */
	holdDownIsReached(h: AnyHoldDown, step: number): boolean {
		return holdKind(h)
			.hands(h)
			.every((hand) => {
				if ('joint' in hand) {
					const seam = this.mesh.seams.find((s) => s.joint.id === hand.joint);
					if (!seam) return true;
					const at = [hand.stationMm / seam.lengthMm];
					const sides: (1 | -1)[] = hand.side === 'root' ? [-1] : [1, -1];
					return sides.some((sign) => this.seamIsReached(seam, step, sign, undefined, at));
				}
				const place = normalAt(this.mesh, hand.part, hand.at);
				const sides = hand.side === 'either' ? [1, -1] : [hand.side === 'front' ? 1 : -1];
				return sides.some((sign) => this.faceIsReached(place.at, scale(place.normal, sign), step));
			});
	}

	/** Litres shut off from the air outside with the parts of a step standing. */
	enclosedLitres(step: number): number {
		let litres = this.litres.get(step);
		if (litres === undefined) this.litres.set(step, (litres = enclosedLitres(this.mesh, this.standing(step))));
		return litres;
	}
}

/** What each step closes off, and what the plan asks for that cannot be done. */
export function accessFindings(plan: PlanDocument, mesh: AssemblyMesh, access = new Access(plan, mesh)): Finding[] {
	const broken = brokenRule(plan);
	const out: Finding[] = [
		...(broken ? [{ step: 0, kind: 'refused' as const, words: broken.words }] : []),
		...seamFindings(access),
		...filmFindings(access),
		...holdDownFindings(access),
		...ventFindings(access)
	];
	return out.sort((a, b) => a.step - b.step || Number(b.kind === 'refused') - Number(a.kind === 'refused'));
}

const list = (names: readonly string[]) => names.map((n) => `“${n}”`).join(', ');

function seamFindings(access: Access): Finding[] {
	const { plan, mesh, timeline } = access;
	const { assembly } = timeline;
	const { steps } = assembly;
	const out: Finding[] = [];
	/** seams whose root a step hides, by step */
	const hidden = new Map<number, string[]>();
	for (const seam of mesh.seams) {
		const { joint } = seam;
		if (joint.stock) continue;
		const ready = assembly.ofJoint(joint.id);
		const reached = (step: number, sign: 1 | -1) => access.seamIsReached(seam, step, sign);
		let [front, root] = [reached(ready, 1), reached(ready, -1)];
		if (!front) {
			const others = steps[ready].parts.filter((p) => p !== joint.a.part && p !== joint.b.part);
			const by = others.map((id) => plan.parts.find((p) => p.id === id)!.name);
			out.push({
				step: ready,
				kind: 'refused',
				joint: joint.id,
				words: `Seam “${joint.name}” cannot be reached from the side it is welded from once ${by.length && by.length < 5 ? list(by) : 'all that comes on with it'} ${by.length === 1 ? 'is' : 'are'} on. Weld it from the other side, or bring on later what covers it.`
			});
			continue;
		}
		for (let step = ready + 1; step < steps.length && (front || root); step++) {
			if (front && !reached(step, 1)) {
				front = false;
				out.push({
					step,
					kind: 'closed',
					joint: joint.id,
					words: `“${steps[step].name}” closes off seam “${joint.name}”: weld it and look it over for pinholes before.`
				});
			}
			if (root && !reached(step, -1)) {
				root = false;
				if (joint.penetration === 'full') hidden.set(step, [...(hidden.get(step) ?? []), joint.name]);
			}
		}
	}
	for (const [step, names] of hidden)
		out.push({
			step,
			kind: 'root',
			words: `“${steps[step].name}” hides the root of ${list(names)}: look at ${names.length > 1 ? 'them' : 'it'} before, and see to bar or purge.`
		});
	return out;
}

/** Faces with film that are shut in. */
function filmFindings(access: Access): Finding[] {
	const { mesh, timeline } = access;
	const { assembly } = timeline;
	const { steps } = assembly;
	const out: Finding[] = [];
	mesh.parts.forEach(({ part }, k) => {
		const film = part.film ?? 'none';
		if (film === 'none') return;
		const { at, normal } = middleOfPart(mesh, k);
		for (const [face, sign] of [
			['front', 1],
			['back', -1]
		] as const) {
			if (film !== 'both' && film !== face) continue;
			for (let step = assembly.ofParts([part.id]); step < steps.length; step++) {
				if (access.faceIsReached(at, scale(normal, sign), step)) continue;
				out.push({ step, kind: 'film', part: part.id, words: `“${steps[step].name}” shuts in the ${face} of “${part.name}”: peel its film before.` });
				break;
			}
		}
	});
	return out;
}

/** What is put on must be able to come off, and stand in nobody's way. */
function holdDownFindings(access: Access): Finding[] {
	const { plan, timeline } = access;
	const { steps } = timeline.assembly;
	const out: Finding[] = [];
	for (const h of plan.holdDowns) {
		const [on, off] = [timeline.onOf(h), timeline.offOf(h)];
		if (on === undefined || off === undefined) continue;
		const first = timeline.assembly.ofHoldDown(h);
		if (off !== timeline.never)
			for (let step = first; step < steps.length && timeline.startOfStep(step) <= off; step++) {
				if (access.holdDownIsReached(h, step)) continue;
				out.push({
					step,
					kind: 'refused',
					holdDown: h.id,
					words:
						step === first
							? `“${h.name}” cannot be got at where it sits: with these parts on, no hand reaches it. Put it on the other side, or bring on later what covers it.`
							: `“${h.name}” cannot be taken off once “${steps[step].name}” is on. Take it off before “${steps[step].name}” comes on.`
				});
				break;
			}
		const covered = weldedWhileOn(h, plan, access.mesh, timeline);
		if (covered.length)
			out.push({
				step: first,
				kind: 'caution',
				holdDown: h.id,
				words: `“${h.name}” lies in the torch’s way on ${list(covered)}, which ${covered.length > 1 ? 'are' : 'is'} welded while it is on. Move it, or let it come off before.`
			});
	}
	return out;
}

/** Air shut in grows with the heat of the last run and blows it out. */
function ventFindings(access: Access): Finding[] {
	const { steps } = access.timeline.assembly;
	const step = steps.findIndex((_, i) => access.enclosedLitres(i) > 0);
	if (step < 0) return [];
	const litres = access.enclosedLitres(step);
	return [
		{
			step,
			kind: 'vent',
			words: `${steps.length > 1 ? `With “${steps[step].name}” on, the` : 'The'} piece is closed all round (about ${litres.toPrecision(2)} L): leave a hole or a port open until the last run is cold, or the air shut in blows the weld out.`
		}
	];
}

/** Rules of order that need no geometry: what comes before what, and separable parts free until their neighbours stand. */
export function orderFindings(plan: PlanDocument): string[] {
	const broken = brokenRule(plan);
	const out = broken ? [broken.words] : [];
	for (const id of plan.fitUp.separable ?? []) {
		const own = (joint: string) => {
			const j = plan.joints.find((x) => x.id === joint)!;
			return j.a.part === id || j.b.part === id;
		};
		const first = plan.tacks.findIndex((t) => own(t.joint));
		const others = plan.tacks.slice(first + 1).find((t) => first >= 0 && t.stage === 1 && !own(t.joint));
		if (others)
			out.push(
				`“${plan.parts.find((p) => p.id === id)!.name}” must stay separable until its neighbours are located from it, but it is tacked before “${plan.joints.find((j) => j.id === others.joint)!.name}”: tack it last, or clamp it.`
			);
	}
	return out;
}
