/** Features on any piece: proposed from its own shape, made by places, taken away again. */
import { describe, expect, it } from 'vitest';
import { FEATURE_KINDS } from '../document/words';
import type { PlanDocument } from '../document/schema';
import { FAMILY_DEFAULTS, MADE_FAMILIES } from '../families';
import { newPlan } from '../families/newPlan';
import { featureKind } from '../features';
import { readingContext } from '../features/context';
import { checkPlan } from '../plan/check';
import { isRefusal } from '../refusal/refusal';
import { regenerate } from './resize';
import { withFeature, withoutFeature, type FeatureWish } from './features';
import { proposeFeatures } from './proposals';

const bare = (family: (typeof MADE_FAMILIES)[number]): PlanDocument => {
	const p = newPlan(family, { ...FAMILY_DEFAULTS[family] } as never).plan!;
	return { ...p, features: [], points: p.datum ? p.points : [] };
};
const all = (p: PlanDocument) => proposeFeatures(p).reduce((d, w) => withFeature(d, w), p);
const nominal = (p: PlanDocument, w: FeatureWish) => {
	const d = withFeature(p, w);
	return readingContext(d.features[d.features.length - 1], d).nominal!;
};

describe('features that are proposed', () => {
	it.each(MADE_FAMILIES.map((f) => [f]))('on %s every one of them makes a sound plan, and no two bear one name', (family) => {
		const p = bare(family);
		const wishes = proposeFeatures(p);
		expect(wishes.length, family).toBeGreaterThan(0);
		expect(new Set(wishes.map((w) => `${w.kind} ${w.name}`)).size).toBe(wishes.length);
		const d = all(p);
		expect(checkPlan(d)).toEqual([]);
		for (const f of d.features) expect(f.tolerance.upper, f.name).toBeGreaterThan(0);
	});
	it('a trough shows every kind there is: its mouth across both ways, its floor, its walls', () => {
		const p = bare('open-trough');
		const wishes = proposeFeatures(p);
		for (const kind of FEATURE_KINDS)
			expect(
				wishes.some((w) => w.kind === kind),
				kind
			).toBe(true);
		const sizes = wishes.filter((w) => w.kind === 'length').map((w) => nominal(p, w));
		const { lengthMm, widthMm, rimFlangeMm } = FAMILY_DEFAULTS['open-trough'] as unknown as Record<string, number>;
		// over the edges of its rim, which stand out by the flange each way
		for (const inside of [lengthMm, widthMm])
			expect(
				sizes.some((s) => Math.abs(s - inside - 2 * rimFlangeMm) < 4),
				`${inside}: ${sizes}`
			).toBe(true);
		const angles = wishes.filter((w) => w.kind === 'angle').map((w) => nominal(p, w));
		expect(angles.some((a) => Math.abs(a - 90) < 0.1)).toBe(true);
	});
	it('no protractor is laid where two sheets lie in one plane, as a lid on a rim flange does', () => {
		const made = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], rimFlangeMm: 18, lid: true } as never).plan!;
		const angles = proposeFeatures(made).filter((w) => w.kind === 'angle');
		expect(angles.length).toBeGreaterThan(0);
		for (const w of angles) expect(Math.abs(Math.sin((nominal(made, w) * Math.PI) / 180)), `${w.name}: ${nominal(made, w)}`).toBeGreaterThan(0.17);
	});
	it('a tube shows its diameter at both ends', () => {
		const p = bare('cylinder');
		const across = proposeFeatures(p).filter((w) => w.name.startsWith('Diameter'));
		expect(across.length).toBeGreaterThan(1);
		for (const w of across) expect(Math.abs(nominal(p, w) - (FAMILY_DEFAULTS.cylinder as { diameterMm: number }).diameterMm)).toBeLessThan(2);
	});
});

describe('a feature that is made by hand', () => {
	const p = bare('butt-panel');
	const at = (x: number, y: number) => ({ part: p.parts[0].id, at: [x, y] as [number, number] });
	it('takes the usual class of its kind, names its places, and is taken away with those that nothing else looks at', () => {
		const one = withFeature(p, { kind: 'length', name: 'Over the first sheet', places: [at(0, 100), at(200, 100)] });
		const two = withFeature(one, { kind: 'length', name: 'The same start', places: [at(0, 100), at(200, 200)] });
		expect(one.features[0].tolerance.source).toMatch(/^ISO 13920-B/);
		expect(two.points.length).toBe(one.points.length + 1);
		const back = withoutFeature(two, two.features[1].id);
		expect(back.points).toEqual(one.points);
		expect(withoutFeature(back, back.features[0].id).points).toEqual(p.points);
	});
	it.each([
		['a place off the part', { kind: 'length', places: [at(-50, 100), at(100, 100)] }],
		['the same place twice', { kind: 'length', places: [at(50, 100), at(50, 100)] }],
		['too few places', { kind: 'squareness', places: [at(0, 0), at(100, 0), at(100, 100)] }],
		['a line of nothing', { kind: 'straightness', places: [at(10, 10), at(10.5, 10)] }],
		['a field with no breadth', { kind: 'flatness', places: [at(10, 10), at(100, 12)] }],
		['two parts for one line', { kind: 'straightness', places: [at(10, 10), { part: p.parts[1].id, at: [10, 10] as [number, number] }] }]
	] as const)('%s is refused in words, and the plan stays as it was', (_, wish) => {
		const before = JSON.stringify(p);
		let said: unknown;
		try {
			withFeature(p, { name: 'X', ...wish } as FeatureWish);
		} catch (e) {
			said = e;
		}
		expect(isRefusal(said)).toBe(true);
		expect((said as Error).message).toMatch(/X: |read on one part|too small/);
		expect(JSON.stringify(p)).toBe(before);
	});
	it('goes with its record: as many places as the record asks for, back where they were put', () => {
		const d = all(bare('open-trough'));
		for (const f of d.features) expect(featureKind(f).places(f, d).length, f.name).toBeGreaterThanOrEqual(featureKind(f).asks.length);
	});
});

describe('features of a person’s own, at new sizes', () => {
	it.each([
		['open-trough', { lengthMm: 320, widthMm: 180, depthMm: 90 }],
		['open-trough', { lengthMm: 900, widthMm: 500, depthMm: 300 }],
		['butt-panel', { lengthMm: 150, widthsMm: [110, 110] }],
		['collar', { ductMm: 120, ductLengthMm: 90 }],
		['cylinder', { diameterMm: 200, lengthMm: 260 }]
	] as const)('%s to %j: they go with the edges they are on, and the plan stays sound', (family, sizes) => {
		const p = newPlan(family, { ...FAMILY_DEFAULTS[family] } as never).plan!;
		const own = all(p);
		const again = regenerate(own, family, { ...FAMILY_DEFAULTS[family], ...sizes } as never);
		expect(checkPlan(again.plan!)).toEqual([]);
		const made = (id: string) => !p.features.some((f) => f.id === id);
		// what is offered for the new sizes reads as what was kept
		const fresh = all(newPlan(family, { ...FAMILY_DEFAULTS[family], ...sizes } as never).plan!);
		const values = (d: PlanDocument) =>
			d.features.filter((f) => made(f.id) && f.kind === 'length').map((f) => Math.round(readingContext(f, d).nominal!));
		for (const v of values(again.plan!))
			expect(
				values(fresh).some((w) => Math.abs(w - v) <= 2),
				`${v} of ${values(fresh)}`
			).toBe(true);
	});
	it('a name and the faces of a tape that the planner chose stay', () => {
		const p = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'] } as never).plan!;
		const width = p.features.find((f) => f.id === 'mouth-width')!;
		Object.assign(width, { name: 'Over the lugs', over: 'outside' });
		const again = regenerate(p, 'open-trough', { ...FAMILY_DEFAULTS['open-trough'], widthMm: 260 } as never).plan!;
		const now = again.features.find((f) => f.id === 'mouth-width')!;
		expect([now.name, readingContext(now, again).nominal]).toEqual(['Over the lugs', expect.closeTo(263, 3)]);
	});
});
