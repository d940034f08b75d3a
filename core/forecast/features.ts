/** Features as a person measures them, evaluated on displaced points. */
import { pathLength, pointAt } from '../geometry/polyline';
import { add, cross, distance, dot, norm, scale, sub, unit, type Vec2, type Vec3 } from '../geometry/vec';
import { minimumZone, thinZone } from '../measure/flatness';
import { bowFromEnds } from '../measure/straightness';
import type { AnyFeature, PlanDocument } from '../plan/schema';

export interface FeaturePoints {
	feature: AnyFeature;
	points: { part: string; at: Vec2 }[];
}

/** The points each feature looks at, in the order its formula takes them. */
export function pointsOf(feature: AnyFeature, plan: PlanDocument): FeaturePoints {
	const named = (id: string) => {
		const p = plan.points.find((q) => q.id === id)!;
		return { part: p.part, at: p.at };
	};
	switch (feature.kind) {
		case 'flatness': {
			const points = Array.from({ length: feature.nx * feature.ny }, (_, i) => ({
				part: feature.part,
				at: [
					feature.at[0] + (feature.size[0] * (i % feature.nx)) / (feature.nx - 1),
					feature.at[1] + (feature.size[1] * Math.floor(i / feature.nx)) / (feature.ny - 1)
				] as Vec2
			}));
			return { feature, points };
		}
		case 'straightness': {
			const length = pathLength(feature.path);
			return {
				feature,
				points: Array.from({ length: feature.n }, (_, i) => ({ part: feature.part, at: pointAt(feature.path, (length * i) / (feature.n - 1)) }))
			};
		}
		case 'angle':
			return { feature, points: [...feature.faceA, ...feature.faceB].map(named) };
		default:
			return { feature, points: feature.points.map(named) };
	}
}

const faceNormal = (p: readonly Vec3[]) => unit(cross(sub(p[1], p[0]), sub(p[2], p[0])));

/**
 * Angle between two faces, degrees, -180 to 180: positive where they fold towards their fronts, as the drawing tells which way that is.
 * Faces that fold in the drawing keep the drawing's sense; flat ones (a butt) turn about the line between them.
 */
const angleBetween = (p: readonly Vec3[], drawn: readonly Vec3[] = p) => {
	const [a, b] = [faceNormal(p.slice(0, 3)), faceNormal(p.slice(3, 6))];
	const turn = cross(a, b);
	const [da, db] = [faceNormal(drawn.slice(0, 3)), faceNormal(drawn.slice(3, 6))];
	const folded = cross(da, db);
	const middle = (q: readonly Vec3[]) => scale(add(add(q[0], q[1]), q[2]), 1 / 3);
	const axis = norm(folded) > FLAT ? folded : cross(sub(middle(drawn.slice(3, 6)), middle(drawn.slice(0, 3))), da);
	return ((Math.atan2(norm(turn), dot(a, b)) * 180) / Math.PI) * (dot(turn, axis) < 0 ? -1 : 1);
};
/** Sine below which two faces of the drawing lie in one plane. */
const FLAT = 1e-3;

/** Drawing value: a length in mm, an angle in degrees; form errors have none. */
export function nominalOf(feature: AnyFeature, nominal: readonly Vec3[]): number | undefined {
	if (feature.kind === 'length') return distance(nominal[0], nominal[1]);
	// the angle a square or protractor shows inside the fold: 180 less the angle between the two fronts
	if (feature.kind === 'angle') return 180 - angleBetween(nominal);
	return undefined;
}

/**
 * The feature's value with the points moved by `u`: a form error (mm), or the departure from the drawing (mm or degrees).
 * Lengths use the change along the drawing's line, so that a rigid turn of the linear method adds nothing.
 */
export function evaluate(feature: AnyFeature, nominal: readonly Vec3[], u: readonly Vec3[]): number {
	const moved = () => nominal.map((p, i) => add(p, u[i]));
	const stretch = (i: number, j: number) => dot(sub(u[j], u[i]), unit(sub(nominal[j], nominal[i])));
	switch (feature.kind) {
		case 'flatness':
			return thinZone(moved());
		case 'straightness':
			return bowFromEnds(moved());
		case 'length':
			return stretch(0, 1) + towards(feature, distance(nominal[0], nominal[1]));
		case 'squareness': {
			const drawn = distance(nominal[0], nominal[2]) - distance(nominal[1], nominal[3]);
			return Math.abs(drawn + stretch(0, 2) - stretch(1, 3));
		}
		case 'angle':
			return angleBetween(nominal) - angleBetween(moved(), nominal) - towards(feature, angleBetween(nominal));
		case 'twist': {
			const p = moved();
			return Math.abs(dot(sub(p[3], p[0]), faceNormal(p)));
		}
	}
}

/** How far the drawing is from a measured original, mm or degrees; nothing where the drawing is the target. */
const towards = (feature: AnyFeature, drawn: number) => (feature.original === undefined ? 0 : drawn - feature.original);

/** The same for a shape that may have moved and turned by any amount: true distances, no straight-line shortcut. */
export function evaluateMoved(feature: AnyFeature, nominal: readonly Vec3[], moved: readonly Vec3[]): number {
	switch (feature.kind) {
		case 'flatness':
			return minimumZone(moved);
		case 'straightness':
			return bowFromEnds(moved);
		case 'length':
			return distance(moved[0], moved[1]) - (feature.original ?? distance(nominal[0], nominal[1]));
		case 'squareness':
			return Math.abs(distance(moved[0], moved[2]) - distance(moved[1], moved[3]));
		case 'angle':
			return (feature.original ?? angleBetween(nominal)) - angleBetween(moved, nominal);
		case 'twist':
			return Math.abs(dot(sub(moved[3], moved[0]), faceNormal(moved)));
	}
}

export const unitOf = (feature: AnyFeature): 'mm' | '°' => (feature.kind === 'angle' ? '°' : 'mm');

export type Verdict = 'inside' | 'in doubt' | 'outside';

/**
 * Against the tolerance: the whole band inside, the whole band outside, or neither. @param isUnsure something behind the numbers lies
 * outside what the methods can speak of: nothing is inside then
 */
export function verdictOf(tolerance: { upper: number; lower?: number }, low: number, high: number, isUnsure = false): Verdict {
	const bottom = tolerance.lower ?? -Infinity;
	if (low >= bottom && high <= tolerance.upper) return isUnsure ? 'in doubt' : 'inside';
	if (high < bottom || low > tolerance.upper) return 'outside';
	return 'in doubt';
}
