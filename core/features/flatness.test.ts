/** Flatness is against the shape that is drawn. */
import { describe, expect, it } from 'vitest';
import type { AnyFeature, PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { spaceOf } from '../layout/space';
import { evaluateReadings } from '../measure/readings';
import { featureKind } from '.';
import { readingContext } from './context';

describe('flatness of a panel that was creased on purpose', () => {
	const make = (crossBreakMm: number) => newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], crossBreakMm }).plan!;
	const floor = (plan: PlanDocument) => plan.features.find((f) => f.id === 'floor-flat')!;
	it('read exactly as drawn it is flat, whatever its crossing stands up; a low corner is out by as much as it is low', () => {
		for (const height of [0, 6]) {
			const plan = make(height);
			const context = readingContext(floor(plan), plan);
			const { nx, ny } = context;
			// a pyramid over the floor, worked from the corners of its field: full height at the crossing, nothing at the rim
			const crease = plan.parts[0].crossBreaks?.[0];
			const f = floor(plan) as Extract<AnyFeature, { kind: 'flatness' }>;
			const heightAt = (x: number, y: number) => {
				if (!crease) return 0;
				const [[x0, y0], , [x1, y1]] = crease.corners;
				const away = Math.max(Math.abs(x - (x0 + x1) / 2) / ((x1 - x0) / 2), Math.abs(y - (y0 + y1) / 2) / ((y1 - y0) / 2));
				return height * Math.max(0, 1 - away);
			};
			const heights = Array.from({ length: nx! * ny! }, (_, i) =>
				heightAt(f.at[0] + (f.size[0] * (i % nx!)) / (nx! - 1), f.at[1] + (f.size[1] * Math.floor(i / nx!)) / (ny! - 1))
			);
			expect(evaluateReadings('grid', heights, context).value).toBeLessThan(0.03);
			heights[0] -= 1.5;
			const low = evaluateReadings('grid', heights, context);
			expect(low.value).toBeGreaterThan(0.5);
			expect(low.value).toBeLessThan(1.5);
			if (height) expect(low.arithmetic).toMatch(/own shape .* is taken off/);
		}
	});
	it('a creased panel that has not moved is flat at every depth; lifted at one place it is out', () => {
		const plan = make(6);
		const f = floor(plan);
		const kind = featureKind(f);
		const nominal = kind.places(f, plan).map((p) => spaceOf(plan.parts.find((x) => x.id === p.part)!)(p.at));
		const still = nominal.map((): [number, number, number] => [0, 0, 0]);
		expect(Math.max(...nominal.map((p) => p[2])) - Math.min(...nominal.map((p) => p[2]))).toBeGreaterThan(3);
		expect(kind.moved(f, nominal, still)).toBeLessThan(1e-6);
		// turned in space it is still the same panel
		const turned = nominal.map(([x, y, z]): [number, number, number] => [z + 5, x, y]);
		expect(kind.movedFar(f, nominal, turned)).toBeLessThan(0.02);
		const up = still.map((u, i): [number, number, number] => (i === 7 ? [0, 0, 0.8] : u));
		expect(kind.moved(f, nominal, up)).toBeGreaterThan(0.5);
	});
});
