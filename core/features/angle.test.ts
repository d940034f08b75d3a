/** An angle is read as a square shows it inside the fold. */
import { describe, expect, it } from 'vitest';
import { add, cross, scale, sub, unit, type Vec3 } from '../geometry/vec';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { featureKind } from '.';
import type { FeatureOf } from './feature';
import { forecast } from '../forecast/forecast';

/** A point turned about an axis through the origin, rad: Rodrigues. */
const turned = (p: Vec3, axis: Vec3, by: number): Vec3 => {
	const k = unit(axis);
	const along = k[0] * p[0] + k[1] * p[1] + k[2] * p[2];
	return add(add(scale(p, Math.cos(by)), scale(cross(k, p), Math.sin(by))), scale(k, along * (1 - Math.cos(by))));
};
/** Places on two sheets that meet at the x axis with `inside` degrees between them. */
const fold = (inside: number) => {
	const at = (x: number, out: number): Vec3 => [x, out, 0];
	const base = [at(20, 40), at(80, 40), at(50, 90)];
	return { base, wall: base.map((p) => turned(p, [1, 0, 0], (inside * Math.PI) / 180)) };
};
const ORDERS = [
	[0, 1, 2],
	[1, 0, 2]
];

describe('an angle between two faces', () => {
	const f = { kind: 'angle' } as FeatureOf<'angle'>;
	const kind = featureKind(f);
	it.each([60, 90, 135])('of %s degrees grows by one when the fold opens by one, in whichever order the places are named', (inside) => {
		const { base, wall } = fold(inside);
		const opened = fold(inside + 1).wall;
		for (const a of ORDERS)
			for (const b of ORDERS) {
				const drawn = [...a.map((i) => base[i]), ...b.map((i) => wall[i])];
				const now = [...a.map((i) => base[i]), ...b.map((i) => opened[i])];
				const u = now.map((p, i) => sub(p, drawn[i]));
				expect(kind.nominal?.(drawn), `${a} ${b}`).toBeCloseTo(inside, 9);
				expect(kind.moved(f, drawn, u), `${a} ${b}`).toBeCloseTo(1, 9);
				expect(kind.movedFar!(f, drawn, now), `${a} ${b}`).toBeCloseTo(1, 9);
				// the other face first is the same angle
				const swapped = [...drawn.slice(3), ...drawn.slice(0, 3)];
				expect(kind.moved(f, swapped, [...u.slice(3), ...u.slice(0, 3)])).toBeCloseTo(1, 9);
			}
	});
	it('a seam that turns towards its outside opens the corner it makes, by what it turns', () => {
		const plan = newPlan('corner-panel', FAMILY_DEFAULTS['corner-panel']).plan!;
		const turns = { angularChangeRad: 0.02, tendonForceN: 0, transverseShrinkageMm: 0, eccentricityMm: 0 };
		const { features } = forecast({ ...plan, joints: plan.joints.map((j) => ({ ...j, response: turns })) }).result;
		expect(features.find((x) => x.kind === 'angle')!.predicted).toBeCloseTo((0.02 * 180) / Math.PI, 2);
	});
});
