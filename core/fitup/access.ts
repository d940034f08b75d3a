/**
 * What can still be reached as the parts come together. Rays from a seam towards the side it is welded from, or from the
 * middle of a face: if none of them gets out past the parts that stand, neither torch nor hand gets in.
 */
import { add, cross, dot, norm, scale, sub, unit, type Vec3 } from '../geometry/vec';
import type { AssemblyMesh } from '../mesh/assemblyMesh';
import type { SeamMesh } from '../mesh/seamMesh';
import type { AssemblyStep, PlanDocument } from '../document/schema';
import { nodeAt } from '../shell/model';

/** Rays to a place, over the half space it faces. */
const RAYS = 96;
/** Of the rays, so many must get out. */
const NEEDED = 2;
/** Start of a ray off the sheet, shares of the piece's size: clear of the sheets that meet there. */
const OFF = 4e-3;

export interface Finding {
	/** the step at which it happens, from 0 */
	step: number;
	kind: 'closed' | 'film' | 'refused';
	joint?: string;
	part?: string;
	words: string;
}

/** Directions over a half space, the same every time (Fibonacci's spiral). */
function directions(pole: Vec3): Vec3[] {
	const helper: Vec3 = Math.abs(pole[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
	const u = unit(cross(pole, helper));
	const v = cross(pole, u);
	return Array.from({ length: RAYS }, (_, i) => {
		const z = (i + 0.5) / RAYS;
		const r = Math.sqrt(1 - z * z);
		const a = i * Math.PI * (3 - Math.sqrt(5));
		return add(scale(pole, z), add(scale(u, r * Math.cos(a)), scale(v, r * Math.sin(a))));
	});
}

/** Does a ray meet a triangle ahead of it (Moller & Trumbore 1997)? */
function meets(o: Vec3, d: Vec3, p: Vec3, q: Vec3, r: Vec3): boolean {
	const [e1, e2] = [sub(q, p), sub(r, p)];
	const h = cross(d, e2);
	const det = dot(e1, h);
	if (Math.abs(det) < 1e-12) return false;
	const s = sub(o, p);
	const u = dot(s, h) / det;
	if (u < 0 || u > 1) return false;
	const k = cross(s, e1);
	const v = dot(d, k) / det;
	return v >= 0 && u + v <= 1 && dot(e2, k) / det > 1e-9;
}

/** Where torch and eye stand off a seam: on its side, and in the corner where one sheet stands on the other's face. */
function clearOf(seam: SeamMesh, i: number, pole: Vec3): Vec3 {
	const f = seam.frames[i];
	if (seam.edgeA === seam.edgeB) return pole;
	const [out, face] = seam.edgeA ? [f.outA, f.normalB] : [f.outB, f.normalA];
	// a tee's edge points into the face, a lap's runs along it
	return add(pole, scale(out, Math.abs(dot(out, face)) > 0.5 ? -1 : 1));
}

class Solid {
	private readonly corners: [Vec3, Vec3, Vec3][][];
	private readonly off: number;
	constructor(mesh: AssemblyMesh) {
		this.corners = mesh.parts.map(() => []);
		let [lo, hi]: Vec3[] = [
			[Infinity, Infinity, Infinity],
			[-Infinity, -Infinity, -Infinity]
		];
		for (let e = 0; e < mesh.triPart.length; e++) {
			const t = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * e + i])) as [Vec3, Vec3, Vec3];
			this.corners[mesh.triPart[e]].push(t);
			for (const p of t) [lo, hi] = [lo.map((x, d) => Math.min(x, p[d])) as Vec3, hi.map((x, d) => Math.max(x, p[d])) as Vec3];
		}
		this.off = OFF * norm(sub(hi, lo));
	}
	/** Can a place be reached from the side `pole` with these parts standing? */
	reached(at: Vec3, pole: Vec3, standing: ReadonlySet<number>, off: Vec3 = pole): boolean {
		const from = add(at, scale(off, this.off));
		let out = 0;
		for (const d of directions(pole)) {
			let free = true;
			for (const k of standing) {
				if (this.corners[k].some(([p, q, r]) => meets(from, d, p, q, r))) {
					free = false;
					break;
				}
			}
			if (free && ++out >= NEEDED) return true;
		}
		return false;
	}
}

/** The order given, and one first step for every part that is not named in it. */
export function stepsOf(plan: PlanDocument): AssemblyStep[] {
	const named = new Set(plan.fitUp.order?.flatMap((s) => s.parts) ?? []);
	const rest = plan.parts.filter((p) => !named.has(p.id)).map((p) => p.id);
	const order = plan.fitUp.order ?? [];
	if (!rest.length) return order;
	if (!order.length) return [{ id: 'all', name: 'All parts', parts: rest }];
	return [{ ...order[0], parts: [...rest, ...order[0].parts] }, ...order.slice(1)];
}

/** What each step closes off, and which seams the order puts out of reach before they are welded. */
export function accessFindings(plan: PlanDocument, mesh: AssemblyMesh): Finding[] {
	const solid = new Solid(mesh);
	const steps = stepsOf(plan);
	const comesOn = new Map<string, number>();
	steps.forEach((s, i) => s.parts.forEach((p) => comesOn.set(p, i)));
	const out: Finding[] = [];
	const name = (id: string) => plan.parts.find((p) => p.id === id)!.name;
	const standing = (step: number) => new Set(mesh.parts.flatMap((p, k) => ((comesOn.get(p.part.id) ?? 0) <= step ? [k] : [])));
	const firstRun = (joint: string) => plan.runs.findIndex((r) => r.joint === joint);
	const lastRun = (joint: string) => plan.runs.reduce((last, r, i) => (r.joint === joint ? i : last), -1);
	// two places a seam, from the side it is welded from and from its root
	const seams = mesh.seams
		.filter((s) => !s.joint.stock)
		.map((s) => {
			const places = [0.3, 0.7].map((f) => Math.min(s.stations.length - 1, Math.round(f * (s.stations.length - 1))));
			const reached = (step: number, sign: number) => {
				const on = standing(step);
				return places.every((i) => {
					const pole = scale(s.frames[i].weldSide, sign);
					return solid.reached(nodeAt(mesh.xyz, s.a[i]), pole, on, clearOf(s, i, pole));
				});
			};
			return { joint: s.joint, ready: Math.max(comesOn.get(s.joint.a.part) ?? 0, comesOn.get(s.joint.b.part) ?? 0), reached };
		});
	/** seams whose root a step hides, by step */
	const hidden = new Map<number, string[]>();
	for (const s of seams) {
		let [front, root] = [s.reached(s.ready, 1), s.reached(s.ready, -1)];
		if (!front) {
			const by = steps[s.ready].parts.map(name).join(', ');
			out.push({
				step: s.ready,
				kind: 'refused',
				joint: s.joint.id,
				words: `Seam “${s.joint.name}” cannot be reached from the side it is welded from once ${by} ${steps[s.ready].parts.length > 1 ? 'are' : 'is'} on. Weld it from the other side, or bring ${by} on later.`
			});
			continue;
		}
		for (let step = s.ready + 1; step < steps.length && (front || root); step++) {
			const closing = seams.filter((o) => o.ready === step && firstRun(o.joint.id) >= 0);
			if (front && !s.reached(step, 1)) {
				front = false;
				out.push({
					step,
					kind: 'closed',
					joint: s.joint.id,
					words: `${steps[step].name} closes off seam “${s.joint.name}”: weld it and look it over for pinholes before.`
				});
				// what is welded at that step must come after every run of this seam
				const early = closing.find((o) => firstRun(o.joint.id) < lastRun(s.joint.id));
				if (early)
					out.push({
						step,
						kind: 'refused',
						joint: s.joint.id,
						words: `The weld order lays “${early.joint.name}” before the last run of “${s.joint.name}”, which it closes off. Move the runs of “${s.joint.name}” forward.`
					});
			}
			if (root && !s.reached(step, -1)) {
				root = false;
				if (s.joint.penetration === 'full') hidden.set(step, [...(hidden.get(step) ?? []), s.joint.name]);
			}
		}
	}
	for (const [step, names] of hidden)
		out.push({
			step,
			kind: 'closed',
			words: `${steps[step].name} hides the root of ${names.map((n) => `“${n}”`).join(', ')}: look at ${names.length > 1 ? 'them' : 'it'} before, and see to bar or purge.`
		});
	// faces with film that are shut in
	mesh.parts.forEach((p, k) => {
		const film = p.part.film ?? 'none';
		if (film === 'none') return;
		const on = comesOn.get(p.part.id) ?? 0;
		const triangle = firstTriangleNearMiddle(mesh, k);
		for (const [face, sign] of [
			['front', 1],
			['back', -1]
		] as const) {
			if (film !== 'both' && film !== face) continue;
			for (let step = on; step < steps.length; step++) {
				if (solid.reached(triangle.at, scale(triangle.normal, sign), standing(step))) continue;
				out.push({
					step,
					kind: 'film',
					part: p.part.id,
					words: `${steps[step].name} shuts in the ${face} of “${p.part.name}”: peel its film before.`
				});
				break;
			}
		}
	});
	return out.sort((a, b) => a.step - b.step || (a.kind === 'refused' ? -1 : 1) - (b.kind === 'refused' ? -1 : 1));
}

function firstTriangleNearMiddle(mesh: AssemblyMesh, part: number): { at: Vec3; normal: Vec3 } {
	const own = [...mesh.triPart.keys()].filter((e) => mesh.triPart[e] === part && mesh.triPanel[e] === 0);
	const centre = (e: number) =>
		scale(add(add(nodeAt(mesh.xyz, mesh.tri[3 * e]), nodeAt(mesh.xyz, mesh.tri[3 * e + 1])), nodeAt(mesh.xyz, mesh.tri[3 * e + 2])), 1 / 3);
	const mean = own.reduce<Vec3>((s, e) => add(s, scale(centre(e), 1 / own.length)), [0, 0, 0]);
	const best = own.reduce((b, e) => (norm(sub(centre(e), mean)) < norm(sub(centre(b), mean)) ? e : b));
	const [p, q, r] = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * best + i]));
	return { at: centre(best), normal: unit(cross(sub(q, p), sub(r, p))) };
}

/** Rules of order that need no geometry: the adjusting joint last, separable parts free until their neighbours stand. */
export function orderFindings(plan: PlanDocument): string[] {
	const out: string[] = [];
	const { adjustingJoint, separable = [] } = plan.fitUp;
	if (adjustingJoint) {
		const joint = plan.joints.find((j) => j.id === adjustingJoint)!;
		const first = plan.runs.findIndex((r) => r.joint === adjustingJoint);
		const after = first < 0 ? undefined : plan.runs.slice(first).find((r) => r.joint !== adjustingJoint);
		if (after)
			out.push(
				`“${joint.name}” is to take up the error of the rest, but “${plan.joints.find((j) => j.id === after.joint)!.name}” is welded after it: move its runs to the end.`
			);
		const tack = plan.tacks.findIndex((t) => t.joint === adjustingJoint);
		const later = tack < 0 ? undefined : plan.tacks.slice(tack).find((t) => t.joint !== adjustingJoint && t.stage === 1);
		if (later)
			out.push(
				`“${joint.name}” is to be adjusted last, but “${plan.joints.find((j) => j.id === later.joint)!.name}” is tacked after it: tack it last.`
			);
	}
	for (const id of separable) {
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
