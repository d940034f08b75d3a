/** A plan from flat patterns: folded along their bend lines, laid out as drawn, seams found where edges then meet. */
import { kOf, bendDeduction } from '../families/blank';
import { STANDARD_CHECKS, startingSettings } from '../families/newPlan';
import { deepestPoint, pathLength, segmentDistance } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import { formTolerance } from '../measure/iso13920';
import { DEFAULT_ORDER } from '../schools/orders';
import { orderPattern } from '../schools/orderPattern';
import { DEFAULT_TACKS } from '../schools/tacks';
import { tackPattern } from '../schools/tackPattern';
import type { AnyFeature, Bend, BendRule, Joint, NamedPoint, Part, PlanDocument } from '../document/schema';
import { findSeams, jointOf } from './findSeams';

export interface Flat {
	outline: Vec2[];
	holes: Vec2[][];
	bends: [Vec2, Vec2][];
}

export interface ImportOptions {
	material: string;
	thicknessMm: number;
	bendAngleDeg: number;
	bendRadiusMm: number;
	toleranceMm: number;
	bendRule?: BendRule;
}

/** The formed layout of a cut flat: beyond each bend everything lies the deduction further out, the bend itself half of it. */
export function layoutOf(
	f: Flat,
	o: Pick<ImportOptions, 'thicknessMm' | 'bendAngleDeg' | 'bendRadiusMm' | 'bendRule'>
): { outline: Vec2[]; holes: Vec2[][]; bends: Bend[]; base: Vec2 } {
	const base = deepestPoint(f.outline, f.holes, f.bends).at;
	const like = { angleDeg: o.bendAngleDeg, insideRadiusMm: o.bendRadiusMm };
	const d = bendDeduction(like, o.thicknessMm, kOf(like, o.thicknessMm, o.bendRule));
	const side = ([a, b]: [Vec2, Vec2], p: Vec2) => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
	/** bends that a point lies on */
	const bendsAt = (p: Vec2) => [...f.bends.keys()].filter((k) => segmentDistance(p, ...f.bends[k]) < 1e-3);
	/** @param own the bend that the point belongs to: it goes half way, like the bend itself */
	const out = (p: Vec2, own = -1): Vec2 => {
		let [x, y] = p;
		f.bends.forEach((bend, k) => {
			const [a, b] = bend;
			const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
			const home = Math.sign(side(bend, base));
			const distance = side(bend, p) / l;
			if (k !== own && (Math.abs(distance) < 1e-3 || Math.sign(distance) === home)) return;
			const foot = ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / (l * l);
			if (foot < -1e-6 || foot > 1 + 1e-6) return;
			const by = k === own ? d / 2 : d;
			x += (-home * by * -(b[1] - a[1])) / l;
			y += (-home * by * (b[0] - a[0])) / l;
		});
		return [x, y];
	};
	// where two bends end in one corner each panel gets its own: the sheet between them is notched, as it is at the press
	const outline = f.outline.flatMap((p, i): Vec2[] => {
		const on = bendsAt(p);
		if (on.length < 2) return [out(p, on[0])];
		const before = f.outline[(i + f.outline.length - 1) % f.outline.length];
		const beyond = (k: number) => Math.sign(side(f.bends[k], before)) === -Math.sign(side(f.bends[k], base)) && bendsAt(before).indexOf(k) < 0;
		return [...on].sort((j, k) => Number(beyond(k)) - Number(beyond(j))).map((k) => out(p, k));
	});
	return {
		base,
		outline,
		holes: f.holes.map((h) => h.map((p) => out(p))),
		bends: f.bends.map((b, k) => ({
			id: `bend-${k + 1}`,
			from: out(b[0], k),
			to: out(b[1], k),
			angleDeg: o.bendAngleDeg,
			insideRadiusMm: o.bendRadiusMm
		}))
	};
}

/** @returns a plan of a free assembly; without seams where no edges meet */
export function planFromFlats(flats: readonly Flat[], o: ImportOptions): PlanDocument {
	const parts = flats.map((f, i): Part => {
		const l = layoutOf(f, o);
		return {
			id: `blank-${i + 1}`,
			name: `Blank ${i + 1}`,
			material: o.material,
			thicknessMm: o.thicknessMm,
			outline: l.outline,
			holes: l.holes,
			bends: l.bends,
			base: l.base,
			frame: { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] }
		};
	});
	return planFromParts(parts, o);
}

/**
 * A first plan for parts that have their places: seams found, tacked, ordered, each part's longest edge watched.
 * @param joints its seams where they are known; found where edges meet otherwise
 */
export function planFromParts(parts: Part[], o: Pick<ImportOptions, 'toleranceMm' | 'bendRule'>, joints?: Joint[]): PlanDocument {
	const plan: PlanDocument = {
		format: 'sarta-plan',
		version: 1,
		family: { kind: 'free', parameters: {} },
		materials: [],
		parts,
		points: [],
		joints: [],
		holdDowns: [],
		settings: [startingSettings(Math.min(...parts.map((p) => p.thicknessMm)), parts[0].material)],
		tacks: [],
		runs: [],
		features: [],
		probes: [],
		posture: 'three-points',
		fitUp: { trueEnd: 'datum', checks: STANDARD_CHECKS.map((c) => ({ ...c })) },
		...(o.bendRule ? { bendRule: o.bendRule } : {}),
		interpassLimitC: 150,
		ambientC: 20
	};
	const name = (id: string) => parts.find((p) => p.id === id)!.name;
	plan.joints =
		joints ??
		findSeams(parts, o.toleranceMm).map((s, i) =>
			jointOf(
				s,
				`s${i + 1}`,
				s.a.part === s.b.part ? `Seam ${i + 1} on ${name(s.a.part)}` : `Seam ${i + 1}: ${name(s.a.part)} to ${name(s.b.part)}`,
				'main'
			)
		);
	if (plan.joints.length) plan.fitUp.trueJoint = plan.joints[0].id;
	plan.tacks = tackPattern(plan, DEFAULT_TACKS);
	plan.runs = orderPattern(plan, DEFAULT_ORDER);
	const points: NamedPoint[] = [];
	const features: AnyFeature[] = [];
	for (const p of parts.slice(0, 40)) {
		const [a, b] = longestEdge(p.outline);
		const l = pathLength([a, b]);
		if (l < 20) continue;
		features.push({
			id: `edge-${p.id}`,
			name: `${p.name}: longest edge straightness`,
			kind: 'straightness',
			part: p.id,
			path: [a, b],
			n: 9,
			tolerance: { upper: formTolerance('F', Math.min(4000, l)), source: 'ISO 13920-F' }
		});
		points.push(
			{ id: `${p.id}-a`, name: `${p.name}, edge start`, part: p.id, at: a },
			{ id: `${p.id}-b`, name: `${p.name}, edge end`, part: p.id, at: b }
		);
	}
	plan.points = points;
	plan.features = features;
	return plan;
}

function longestEdge(outline: readonly Vec2[]): [Vec2, Vec2] {
	let best: [Vec2, Vec2] = [outline[0], outline[1]];
	outline.forEach((p, i) => {
		const q = outline[(i + 1) % outline.length];
		if (pathLength([p, q]) > pathLength(best) + 1e-9) best = [p, q];
	});
	return best;
}
