/**
 * What handbooks say of a coupon, beside what the model says: an infinite plate that loses no heat shrinks across by alpha / rho c x q / t
 * and pulls by 0.335 (E alpha / rho c) q (Okerblom 1958), and a pull off the middle of a straight section bows it by F e L2 / 8 E I. Nothing
 * here buckles, and no section folds: where model and handbook part, that is why.
 */
import type { AnyFeature, Joint, Part, PlanDocument } from '../document/schema';
import { arcEnergy } from '../heat/arcEnergy';
import { pathLength } from '../geometry/polyline';
import { add, cross, dot, scale, sub, unit, type Vec2, type Vec3 } from '../geometry/vec';
import { JOINTS } from '../joints';
import { findMaterial } from '../materials/grades';
import { layoutBox } from '../mesh/assemblyMesh';
import { OKERBLOM } from '../response/weldResponse';

export interface ClosedForm {
	value: number;
	formula: string;
}

/** Nothing where no handbook has a formula for what is read. @returns mm, as the feature is read: narrower is below 0, a bow has no side */
export function closedFormOf(plan: PlanDocument, feature: AnyFeature): ClosedForm | undefined {
	const welded = plan.joints.filter((j) => !j.stock);
	const [joint] = welded;
	// of one straight seam between flat sheets of one metal
	if (
		welded.length !== 1 ||
		joint.a.path.length !== 2 ||
		plan.parts.some((p) => p.material !== plan.parts[0].material || p.bends.length || p.roll || p.cone || p.dish || p.crossBreaks?.length)
	)
		return undefined;
	const { alpha, rhoC } = findMaterial(plan.parts[0].material, plan.materials).responsePair;
	const { netHeat } = arcEnergy(plan.settings.find((s) => s.id === joint.settings) ?? plan.settings[0]);
	if (feature.kind === 'length' && JOINTS[joint.type].isFlat && JOINTS[joint.type].isEdgeToEdge)
		return { value: (-alpha / rhoC) * (netHeat / plan.parts[0].thicknessMm), formula: 'alpha / rho c × q / t, no loss' };
	if (feature.kind !== 'straightness') return undefined;
	const part = plan.parts.find((p) => p.id === feature.part)!;
	const bow = bowOf(plan, joint, part, pathLength(feature.path), netHeat);
	return bow === undefined ? undefined : { value: bow, formula: 'F e L² / 8 E I with F = 0.335 (E alpha / rho c) q' };
}

/** Least eccentricity that a straight section can be bowed by, of its thickness: within it the seam lies in the middle. */
const IN_MIDDLE = 0.05;

/** @returns mm, out of the part's plane */
function bowOf(plan: PlanDocument, joint: Joint, part: Part, length: number, netHeat: number): number | undefined {
	const { eModulus, responsePair } = findMaterial(plan.parts[0].material, plan.materials);
	const seamPart = plan.parts.find((p) => p.id === joint.a.part)!;
	const [from, to] = joint.a.path.map((at) => inSpace(seamPart, at));
	const along = unit(sub(to, from));
	const u = unit(cross(along, Math.abs(along[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
	const v = cross(along, u);
	const sheets = plan.parts.map((p) => crossSection(p, u, v));
	const area = sheets.reduce((s, x) => s + x.area, 0);
	const centre = [0, 1].map((k) => sheets.reduce((s, x) => s + x.area * x.at[k], 0) / area);
	const second = [0, 1, 2].map((k) => {
		const [i, j] = [k === 2 ? 0 : k, k === 2 ? 1 : k];
		return sheets.reduce((s, x) => s + x.area * ((x.at[i] - centre[i]) * (x.at[j] - centre[j]) + (x.half[i] * x.half[j]) / 3), 0);
	});
	const e = [dot(from, u) - centre[0], dot(from, v) - centre[1]];
	if (Math.hypot(e[0], e[1]) < IN_MIDDLE * part.thicknessMm) return undefined;
	const force = OKERBLOM * ((eModulus * responsePair.alpha) / responsePair.rhoC) * netHeat;
	// a section that is not symmetric bends both ways at once: curvature = I^-1 F e / E
	const det = second[0] * second[1] - second[2] ** 2;
	const bends = [second[1] * e[0] - second[2] * e[1], second[0] * e[1] - second[2] * e[0]].map((x) => (force * x) / (det * eModulus));
	const normal = cross(part.frame.x, part.frame.y);
	return (Math.abs(bends[0] * dot(u, normal) + bends[1] * dot(v, normal)) * length ** 2) / 8;
}

/** A flat sheet cut across the seam: its area, its middle and half of its width as a vector, in the plane of the cut. */
function crossSection(part: Part, u: Vec3, v: Vec3) {
	const { x0, y0, x1, y1 } = layoutBox(part.outline);
	const middle = inSpace(part, [(x0 + x1) / 2, (y0 + y1) / 2]);
	const [ex, ey] = [scale(unit(part.frame.x), (x1 - x0) / 2), scale(unit(part.frame.y), (y1 - y0) / 2)];
	const flat = (w: Vec3): Vec2 => [dot(w, u), dot(w, v)];
	// one of its sides runs along the seam and is a point in this plane
	const half = flat(add(ex, ey));
	return { area: 2 * Math.hypot(half[0], half[1]) * part.thicknessMm, at: flat(middle), half };
}

const inSpace = ({ frame }: Part, at: Vec2): Vec3 => add(frame.origin, add(scale(frame.x, at[0]), scale(frame.y, at[1])));
