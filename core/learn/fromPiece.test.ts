/** What one measured piece teaches: what the forecast says of its factors, a shop that is given, its readings made from it, and found again. */
import { beforeAll, describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/analysis';
import { finalValues } from '../forecast/finalForecast';
import { forecast } from '../forecast/forecast';
import { kernelFactory } from '../linalg/kernel/kernel';
import { factorBand, multipliers, priorFactors } from '../factors/factors';
import { unitOf } from '../features';
import { contextOf } from './context';
import { lessonFrom } from './fromPiece';
import { ofWelds, type PieceReading } from './readings';
import { sensitivitiesOf, type Sensitivity } from './sensitivity';
import { valueAt, type Evidence } from './shop';

const kernel = kernelFactory(WebAssembly);
const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 160, depthMm: 70, rimFlangeMm: 0 }).plan!;
plan.meshSizeMm = 25;
const context = contextOf(plan);
let sensitivities: Sensitivity[];
beforeAll(() => {
	sensitivities = sensitivitiesOf(plan, { kernel });
}, 240_000);
const free = () => sensitivities.filter((s) => s.moment === 'unclamped');
/** readings as a shop with these logarithms would take them, without error */
const shop = (log: readonly number[], off: (s: Sensitivity) => number = () => 0): PieceReading[] =>
	free().map((s, i) => ({
		id: `r${i}`,
		feature: s.feature,
		moment: 'unclamped',
		value: valueAt({ ...s, other: undefined, measured: 0 }, log) + off(s),
		uncertainty90: 0.05,
		at: i
	}));
const lesson = (readings: readonly PieceReading[], kept: readonly Evidence[] = [], piece = 'p') =>
	lessonFrom(piece, context, sensitivities, readings, kept, (id) => {
		const f = plan.features.find((x) => x.id === id)!;
		return { name: f.name, unit: unitOf(f) };
	});

describe('what the forecast says of its factors', () => {
	it('speaks of every feature free of clamps, waves too, and of lengths and angles before', () => {
		expect(free().map((s) => s.feature)).toEqual(plan.features.map((f) => f.id));
		for (const s of free()) {
			expect(s.depth).toBe('final-shape');
			expect(s.spread).toBeGreaterThan(0);
			expect(s.causes.length).toBeGreaterThan(3);
		}
		const before = sensitivities.filter((s) => s.moment !== 'unclamped');
		expect(before.every((s) => s.depth === 'quick' && ['length', 'squareness', 'angle'].includes(s.kind))).toBe(true);
		expect(before.length).toBeGreaterThan(0);
	});
	it('its slopes lead to where the final shape is found with other factors: within a fifth of what they move and 0.03, far below any reading’s doubt', () => {
		const log = [0, 0.1, 0.15, -0.2];
		const { values } = finalValues(forecast(plan, { cache: new ForecastCache(kernel) }), { ...priorFactors(), mean: log });
		free().forEach((s, k) => {
			const led = valueAt({ ...s, other: undefined, measured: 0 }, log);
			expect(Math.abs(led - values[k]), s.name).toBeLessThan(0.2 * Math.abs(values[k] - s.predicted) + 0.03);
		});
	}, 120_000);
});

describe('a lesson from a piece', () => {
	it('readings that agree with the forecast leave the factors at one and narrow them', () => {
		const l = lesson(shop([0, 0, 0, 0]));
		l.after.mean.forEach((v) => expect(v).toBeCloseTo(0, 6));
		for (const name of ['force', 'shrinkage'] as const) expect(factorBand(l.after, name).high).toBeLessThan(factorBand(priorFactors(), name).high);
		expect(l.before).toEqual(expect.objectContaining({ readings: 0, pieces: 0 }));
		expect(l.rows.every((r) => Math.abs(r.measured - r.before!.predicted) < 1e-6 && !r.isOutlier && r.isFresh)).toBe(true);
		expect(l.wrong.suspects).toEqual([]);
	});
	it('a shop that shrinks more is seen: the factor moves, and what it moves goes towards its reading', () => {
		const l = lesson(shop([0, 0, Math.log(1.6), 0]));
		expect(l.settled.converged).toBe(true);
		// a trough's widths hang on its corners, which come short by half of what a butt does and nobody knows how nearly
		expect(multipliers(l.after.mean).shrinkage).toBeGreaterThan(1.1);
		const rows = l.rows.filter((r) => Math.abs(r.measured - r.before!.predicted) > 0.05);
		expect(rows.length).toBeGreaterThan(0);
		for (const r of rows) expect(Math.abs(r.measured - r.after!.predicted), r.name).toBeLessThan(Math.abs(r.measured - r.before!.predicted));
	});
	it('waves teach too, by their size, and little: the forecast’s own doubt of them is larger than what the pull moves', () => {
		const waves = shop([0, Math.log(1.5), 0, 0]).filter((r) => plan.features.find((f) => f.id === r.feature)!.kind === 'flatness');
		expect(waves.length).toBeGreaterThan(0);
		const l = lesson(waves.map((r) => ({ ...r, uncertainty90: 0.005 })));
		expect(l.evidence.length).toBe(waves.length);
		expect(multipliers(l.after.mean).force).toBeGreaterThan(1.003);
	});
	it('readings that the shop holds already teach nothing again; other pieces foretell them', () => {
		const first = lesson(shop([0, 0, 0.3, 0]));
		const again = lesson(shop([0, 0, 0.3, 0]), first.evidence);
		expect(again.evidence).toEqual([]);
		expect(again.rows.every((r) => !r.isFresh && r.before)).toBe(true);
		expect(again.after.mean).toEqual(first.after.mean);
		// the shop without this piece knows nothing yet
		expect(again.before.mean).toEqual([0, 0, 0, 0]);
		const next = lesson(
			shop([0, 0, 0.3, 0]).map((r) => ({ ...r, id: `n${r.id}` })),
			first.evidence,
			'q'
		);
		expect(next.before.mean[2]).toBeCloseTo(first.after.mean[2], 9);
		const width = ({ low, high }: ReturnType<typeof factorBand>) => high / low;
		expect(width(factorBand(next.after, 'shrinkage'))).toBeLessThan(width(factorBand(first.after, 'shrinkage')));
	});
	it('a slip of one reading is flagged, and is the first thing suspected', () => {
		const [odd] = free().filter((s) => s.kind === 'length');
		const good = [1, 2, 3].flatMap(
			(k) =>
				lesson(
					shop([0, 0, 0, 0]).map((r) => ({ ...r, id: `${k}${r.id}` })),
					[],
					`p${k}`
				).evidence
		);
		const l = lesson(
			shop([0, 0, 0, 0], (s) => (s === odd ? 25 : 0)),
			good
		);
		expect(l.rows.filter((r) => r.isOutlier).map((r) => r.feature)).toEqual([odd.feature]);
		expect(l.wrong.chance).toBeLessThan(0.01);
		expect(l.wrong.suspects[0].label).toBe(`the reading of “${odd.name}” is wrong`);
	});
	it('what was read after it was put right, or at moments no forecast speaks of, is no lesson', () => {
		const at = (moment: Parameters<typeof ofWelds>[0][0]['moment'], when: number) => ({ moment, at: when });
		expect(ofWelds([at('as-received', 1), at('unclamped', 2), at('unclamped', 9), at('corrected', 9)], 5)).toEqual([at('unclamped', 2)]);
		expect(ofWelds([at('cold', 1), at('unclamped', 2)])).toHaveLength(2);
	});
});
