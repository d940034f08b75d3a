/** What brings a piece back: against beam theory, a bar in tension, and the piece as it was before it was welded. */
import { describe, expect, it } from 'vitest';
import type { PlanDocument } from '../document/schema';
import { priorFactors } from '../factors/factors';
import { ForecastCache } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { kernelFactory } from '../linalg/kernel/kernel';
import type { LogLine } from '../weldout/logbook';
import { make } from '../weldout/testing';
import { whatItGave, type ReadAt } from './given';
import { stretchOf } from './planishing';
import { springOfLeg, springOfStrip } from './pressing';
import { putRight } from './putRight';

const cache = new ForecastCache(kernelFactory(WebAssembly));
const factors = priorFactors();
const valuesOf = (plan: PlanDocument) => new Map(forecast(plan, { factors, cache }).result.features.map((f) => [f.id, f.predicted]));
const readOf = (values: ReadonlyMap<string, number>, uncertainty90 = 0.01) =>
	[...values].map(([feature, value]) => ({ feature, value, uncertainty90 }));

describe('closed forms', () => {
	it('a strip springs back by its elastic deflection under the plastic moment: half as much again as at first yield (beam theory)', () => {
		// P L^3 / 48 E I by hand: 20 x 1.5 mm, I 5.625, plastic moment 230 x 20 x 1.5^2 / 4 = 2587.5 Nmm, P = 4 M / L
		const [L, E, I, M] = [300, 200_000, 5.625, 2587.5];
		expect(springOfStrip(L, 1.5, 230, E)).toBeCloseTo((((4 * M) / L) * L ** 3) / (48 * E * I), 9);
		expect(springOfStrip(L, 1.5, 230, E)).toBeCloseTo(17.25, 9);
	});
	it('a leg as a cantilever: P a^3 / 3 E I with P = M / a', () => {
		const [a, E, I, M] = [50, 200_000, 5.625, 2587.5];
		expect(springOfLeg(a, 1.5, 230, E)).toBeCloseTo(((M / a) * a ** 3) / (3 * E * I), 9);
	});
	it('a tendon grown by what it lacks pulls no more: a bar of 45 mm2 under 20 kN over 400 mm is short by 0.889 mm (Hooke)', () => {
		const tendon = { lengthMm: 400, thicknessMm: [1.5, 1.5], eMPa: [200_000, 200_000] } as const;
		const near = stretchOf({
			...tendon,
			forceN: 20_000,
			across: [
				[0.5, 0],
				[0.5, 0]
			]
		});
		expect(near.widthMm).toEqual([15, 15]);
		expect(near.stretchMm).toBeCloseTo((20_000 * 400) / (200_000 * 45), 9);
		// the same pull over four times the width needs a quarter
		const wide = stretchOf({
			...tendon,
			forceN: 20_000,
			across: [
				[0, 0.5],
				[0, 0.5]
			]
		});
		expect(near.stretchMm / wide.stretchMm).toBeCloseTo(4, 9);
	});
});

describe('a piece that is out', () => {
	/** A butt that pulls along only, in sheet too thick to wave. */
	const pulled = make('butt-panel', {});
	pulled.parts = pulled.parts.map((p) => ({ ...p, thicknessMm: 5 }));
	pulled.joints = pulled.joints.map((j) => ({
		...j,
		response: { tendonForceN: 30_000, transverseShrinkageMm: 0, angularChangeRad: 0, eccentricityMm: 0.3 }
	}));
	pulled.meshSizeMm = 40;
	pulled.features = pulled.features.map((f) => ({ ...f, tolerance: { upper: 0.02, source: 'typed' } }));

	it('a seam planished whole leaves the piece as it was before it was welded, but for what the edges had moved by before they were joined', () => {
		const before = valuesOf(pulled);
		const bow = pulled.features.find((f) => f.kind === 'straightness')!.id;
		expect(before.get(bow)).toBeGreaterThan(0.05);
		const { ways } = putRight(pulled, readOf(before), factors, cache);
		const planished = ways.find((w) => w.kind === 'planished')!;
		// a fifth at most: metal ahead of the run had bowed between its tacks, and was joined as it lay
		for (const e of planished.ends) expect(Math.abs(e.value), e.feature).toBeLessThan(0.2 * Math.max(...before.values()));
		expect(planished.gain).toBeGreaterThan(0.8);
		expect(planished.how).toMatch(/all of it is wanted/);
		expect([planished.by, planished.minutes]).toEqual(['forecast', expect.any(Number)]);
		// half as far out than forecast: half of it is enough
		const half = new Map([...before].map(([id, v]) => [id, v / 2]));
		expect(putRight(pulled, readOf(half), factors, cache).ways.find((w) => w.kind === 'planished')!.how).not.toMatch(/all of it/);
	});
	it('a bead on the other side turns an angle back, and tells what it does to the rest', () => {
		const plan = make('butt-panel', {});
		plan.meshSizeMm = 40;
		const values = valuesOf(plan);
		const angle = plan.features.find((f) => f.kind === 'angle')!;
		expect(Math.abs(values.get(angle.id)!)).toBeGreaterThan(angle.tolerance.upper);
		const { ways, out } = putRight(plan, readOf(values), factors, cache);
		expect(out).toContain(angle.id);
		const back = ways.find((w) => w.kind === 'other-side')!;
		const at = back.ends.find((e) => e.feature === angle.id)!;
		expect(Math.abs(at.value)).toBeLessThan(0.2 * Math.abs(values.get(angle.id)!));
		// the shop's factor on angles is not known to better than twice either way: the band says so
		expect(at.high - at.low).toBeGreaterThan(0.5 * Math.abs(values.get(angle.id)!));
		expect(back.ends.some((e) => e.feature !== angle.id)).toBe(true);
		// thin sheet that waves: said, and nothing promised of what waves own
		const { cautions } = putRight(plan, readOf(values), factors, cache);
		expect(cautions[0]).toMatch(/past its limit/);
		const flat = plan.features.find((f) => f.kind === 'flatness')!.id;
		for (const w of ways.filter((x) => x.by === 'forecast')) expect(w.ends.some((e) => e.feature === flat)).toBe(false);
	});
	it('grinding says what is left, and is not advised where it takes too much', () => {
		const plan = make('butt-panel', {});
		const flat = plan.features.find((f) => f.kind === 'flatness')!;
		const ways = (value: number) => putRight(plan, [{ feature: flat.id, value, uncertainty90: 0.1 }], factors, cache).ways;
		const [t] = plan.parts.map((p) => p.thicknessMm);
		expect(ways(4).find((w) => w.kind === 'ground')!.how).toMatch(/Not this way/);
		plan.features = plan.features.map((f) => (f === flat ? { ...f, tolerance: { upper: 0.05, source: 'typed' } } : f));
		expect(ways(0.1).find((w) => w.kind === 'ground')!.how).toContain(`${(t - 0.1).toFixed(2)} of ${t} mm are left`);
	});
	it('inside with its whole band there is nothing to put right; a reading of something else is left out', () => {
		const f = pulled.features[0];
		expect(putRight(pulled, [{ feature: f.id, value: 0, uncertainty90: 0.001 }], factors, cache)).toEqual({ out: [], ways: [], cautions: [] });
		expect(putRight(pulled, [{ feature: 'gone', value: 9, uncertainty90: 0 }], factors, cache).out).toEqual([]);
	});
});

describe('what was put right gave', () => {
	const line = (clientId: string, at: number, data: LogLine['data'], more: Partial<LogLine> = {}): LogLine => ({
		clientId,
		kind: 'happened',
		at,
		data,
		...more
	});
	const read = (value: number, at: number, moment: ReadAt['moment'] = 'unclamped') => ({ feature: 'bow', moment, value, at });
	it('each stands between the readings of its own feature; one that was taken back is none', () => {
		const log = [
			line('a', 10, { what: 'corrected', way: 'planished', feature: 'bow', joint: 'j1', minutes: 12 }),
			line('x', 12, { what: 'corrected', way: 'pressed', feature: 'bow' }),
			{ ...line('u', 13, null), kind: 'undone' as const, about: 'x' },
			line('b', 20, { what: 'corrected', way: 'pressed', feature: 'bow' }, { note: 'over the bar' })
		];
		const given = whatItGave(log, [read(9, 1, 'as-tacked'), read(3, 5), read(2.8, 6), read(1.4, 15, 'corrected'), read(0.3, 25, 'corrected')]);
		expect(given.map((g) => [g.way, g.before, g.after, g.minutes, g.note])).toEqual([
			['planished', 2.8, 1.4, 12, undefined],
			['pressed', 1.4, 0.3, undefined, 'over the bar']
		]);
		// what was foretold goes with it, and the doubt of both readings
		const sure = (value: number, at: number) => ({ ...read(value, at, 'corrected'), uncertainty90: 0.3 * 1.645 });
		const [known] = whatItGave([line('d', 10, { what: 'corrected', way: 'planished', feature: 'bow', foretold: 0.5 })], [sure(3, 5), sure(1, 15)]);
		expect(known).toMatchObject({ before: 3, after: 1, foretold: 0.5 });
		expect(known.doubt).toBeCloseTo(0.3 * Math.SQRT2, 9);
		expect(given[0].doubt).toBeUndefined();
		// not read again, and for nothing in particular: nobody knows
		expect(whatItGave([line('c', 10, { what: 'corrected', way: 'cooled' })], [read(1, 5)])[0]).toMatchObject({ before: undefined, after: undefined });
	});
});
