/** The cut blank of a part: layout less the bend deduction, with its size and weight. */
import { ringArea } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import { findMaterial } from '../materials/grades';
import { basePoint } from '../mesh/assemblyMesh';
import type { Bend, BendRule, Part, PlanDocument } from '../document/schema';

/** Neutral line at this share of the thickness from the inside of a bend (common practice for tight bends in stainless; no source). */
export const K_FACTOR = 0.42;

/**
 * Neutral line by DIN 6935 (from memory): correction k = 0.65 + 0.5 log10(r / s) up to r / s = 5, then 1; the neutral line lies
 * k s / 2 from the inside.
 */
export const dinFactor = (radius: number, thickness: number) => Math.min(1, Math.max(0, 0.65 + 0.5 * Math.log10(radius / thickness))) / 2;

/** The K-factor a plan asks for at a bend. A sharp bend has no logarithm: the formula's least value stands for it. */
export function kOf(bend: Pick<Bend, 'insideRadiusMm'>, thickness: number, rule: BendRule | undefined): number {
	if (rule?.method === 'din-6935') return dinFactor(Math.max(bend.insideRadiusMm, 0.05 * thickness), thickness);
	return rule?.kFactor ?? K_FACTOR;
}

/** How much shorter the blank is than the layout (sharp mid-surface corners), mm, for one bend. */
export function bendDeduction(bend: Pick<Bend, 'angleDeg' | 'insideRadiusMm'>, thickness: number, k = K_FACTOR): number {
	const angle = (Math.abs(bend.angleDeg) * Math.PI) / 180;
	const setback = (bend.insideRadiusMm + thickness / 2) * Math.tan(angle / 2);
	return 2 * setback - (bend.insideRadiusMm + k * thickness) * angle;
}

export interface Blank {
	part: Part;
	outline: Vec2[];
	holes: Vec2[][];
	bendLines: { from: Vec2; to: Vec2; angleDeg: number }[];
	widthMm: number;
	heightMm: number;
	areaMm2: number;
	weightKg: number;
	bendDeductionsMm: number[];
}

const side = (b: Bend, p: Vec2) => (b.to[0] - b.from[0]) * (p[1] - b.from[1]) - (b.to[1] - b.from[1]) * (p[0] - b.from[0]);

/** A point moves towards the base by the deduction of every bend line it lies beyond. */
function cut(p: Vec2, part: Part, base: Vec2, rule: BendRule | undefined, own?: Bend): Vec2 {
	let [x, y] = p;
	for (const b of part.bends) {
		const home = Math.sign(side(b, base));
		// a bend's own line lies in the middle of its allowance: half the deduction nearer the base
		const there = b === own ? -home : Math.sign(side(b, p));
		if (home === 0 || there === 0 || there === home) continue;
		// only the panel behind this bend moves: the foot of the point must fall on the bend line
		const l2 = (b.to[0] - b.from[0]) ** 2 + (b.to[1] - b.from[1]) ** 2;
		const f = ((p[0] - b.from[0]) * (b.to[0] - b.from[0]) + (p[1] - b.from[1]) * (b.to[1] - b.from[1])) / l2;
		if (f < -1e-9 || f > 1 + 1e-9) continue;
		const d = (b === own ? 0.5 : 1) * bendDeduction(b, part.thicknessMm, kOf(b, part.thicknessMm, rule));
		const l = Math.sqrt(l2);
		x -= (there * d * -(b.to[1] - b.from[1])) / l;
		y -= (there * d * (b.to[0] - b.from[0])) / l;
	}
	return [x, y];
}

/** Where a point of the layout lies on the cut blank, mm. */
export const onBlank = (part: Part, plan: Pick<PlanDocument, 'bendRule'>, p: Vec2): Vec2 => cut(p, part, basePoint(part), plan.bendRule);

export function blankOf(part: Part, plan: PlanDocument): Blank {
	const base = basePoint(part);
	const flat = (p: Vec2) => cut(p, part, base, plan.bendRule);
	const outline = part.outline.map(flat);
	const holes = part.holes.map((h) => h.map(flat));
	const xs = outline.map((p) => p[0]);
	const ys = outline.map((p) => p[1]);
	const areaMm2 = Math.abs(ringArea(outline)) - holes.reduce((s, h) => s + Math.abs(ringArea(h)), 0);
	const { density } = findMaterial(part.material, plan.materials);
	return {
		part,
		outline,
		widthMm: Math.max(...xs) - Math.min(...xs),
		heightMm: Math.max(...ys) - Math.min(...ys),
		areaMm2,
		weightKg: areaMm2 * part.thicknessMm * density * 1e-9,
		holes,
		bendLines: part.bends.map((b) => ({
			from: cut(b.from, part, base, plan.bendRule, b),
			to: cut(b.to, part, base, plan.bendRule, b),
			angleDeg: b.angleDeg
		})),
		bendDeductionsMm: part.bends.map((b) => bendDeduction(b, part.thicknessMm, kOf(b, part.thicknessMm, plan.bendRule)))
	};
}
