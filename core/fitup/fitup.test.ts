import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { newPlan } from '../families/newPlan';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { checkPlan } from '../plan/check';
import type { PlanDocument } from '../document/schema';
import { featureKind } from '../features';
import { shimFor } from '../weldout/preset';
import { fitUpAdvice, gapLimit } from './advice';
import { fitFromReadings } from './readings';

const make = (kind: MadeFamily, change: object = {}): PlanDocument => {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
};

describe('as-cut and as-bent readings', () => {
	it('a blank 1 mm short opens the seam at its edge by its half', () => {
		const plan = make('butt-panel', { widthsMm: [120, 120], lengthMm: 240 });
		plan.fitUp.cutReadings = [{ part: 'blank-2', along: 'x', measuredMm: 119 }];
		const [fit] = fitFromReadings(plan, assemblyMesh(plan));
		for (const g of fit.gapMm) expect(g).toBeCloseTo(0.5, 6);
		for (const m of fit.mismatchMm) expect(m).toBeCloseTo(0, 6);
	});
	it('a wall folded 1 degree short opens the corner with height: h sin 1°', () => {
		const plan = make('open-trough', { body: 'u-body', rimFlangeMm: 0 });
		plan.fitUp.bendReadings = [{ part: 'body', bend: 'front', measuredDeg: 89 }];
		expect(checkPlan(plan)).toEqual([]);
		const fits = fitFromReadings(plan, assemblyMesh(plan));
		const corner = fits.find((f) => f.joint === 'lf')!;
		const at = (i: number) => Math.hypot(corner.gapMm[i], corner.mismatchMm[i]);
		const last = corner.stations.length - 1;
		expect(at(0)).toBeCloseTo(0, 6);
		expect(at(last)).toBeCloseTo(2 * corner.stations[last] * Math.sin(Math.PI / 360), 3);
		// the other wall’s seams are as drawn
		expect(Math.max(...fits.find((f) => f.joint === 'lb')!.gapMm.map(Math.abs))).toBeLessThan(1e-6);
	});
	it('no readings, nothing to say; a reading of a bend that is not there is refused by name', () => {
		const plan = make('butt-panel');
		expect(fitFromReadings(plan, assemblyMesh(plan))).toEqual([]);
		plan.fitUp.bendReadings = [{ part: 'blank-1', bend: 'x', measuredDeg: 90 }];
		expect(checkPlan(plan)[0]).toMatchObject({ field: 'fitUp.bendReadings[0].bend', allowed: 'must be the id of a bend of “Blank 1”' });
	});
});

describe('a measured original as the target', () => {
	const feature = { id: 'w', name: 'Width', kind: 'length' as const, points: ['p', 'q'], tolerance: { upper: 1, lower: -1, source: 'typed' } };
	const nominal: [number, number, number][] = [
		[0, 0, 0],
		[100, 0, 0]
	];
	it('the value is what it departs from the original by, at every depth', () => {
		const moved: [number, number, number][] = [
			[0, 0, 0],
			[99.4, 0, 0]
		];
		const u = moved.map((p, i) => p.map((v, d) => v - nominal[i][d]) as [number, number, number]);
		expect(featureKind(feature).moved(feature, nominal, u)).toBeCloseTo(-0.6, 9);
		const copied = { ...feature, original: 99.1 };
		expect(featureKind(copied).moved(copied, nominal, u)).toBeCloseTo(0.3, 9);
		expect(featureKind(copied).movedFar(copied, nominal, moved)).toBeCloseTo(0.3, 9);
	});
});

describe('advice for the fit-up sheet', () => {
	it('film back by half the tint and a margin; gaps by a tenth of the sheet, half of it with filler (common practice, no source)', () => {
		const plan = make('butt-panel');
		const [a] = fitUpAdvice(plan, new Map([['s1', 16]]));
		expect(a.filmMm).toBe(18);
		expect(gapLimit({ filler: false }, 1.5)).toBeCloseTo(0.15, 12);
		expect(gapLimit({ filler: true }, 1.5)).toBeCloseTo(0.75, 12);
	});
	it('speaks of what is there: unlike sheets, a wide gap, a preset with its shim, trimming, a rolled edge', () => {
		const plan = make('butt-panel', { fit: 'trimmed' });
		plan.parts[1].thicknessMm = 3;
		plan.joints[0].gapMm = 0.4;
		plan.joints[0].presetDeg = 2;
		const notes = fitUpAdvice(plan, new Map())[0].notes.join(' ');
		expect(notes).toMatch(/arc at the thicker one \(“Blank 2”\)/);
		expect(notes).toMatch(/gap of 0.4 mm is wider/);
		// 150 mm times the sine of 2 degrees, worked by hand: 5.23 mm
		expect(shimFor(2, 150)).toBeCloseTo(5.235, 3);
		expect(notes).toMatch(/Open it 2° on the side that is welded: 5\.2 mm at 150\.0 mm from the seam, by a shim/);
		expect(notes).toMatch(/cut both with one line/);
		expect(fitUpAdvice(make('cylinder'), new Map())[0].notes.join(' ')).toMatch(/edges of a rolled sheet stay flat/);
	});
});
