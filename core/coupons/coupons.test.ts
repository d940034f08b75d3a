/** Coupons: sizes that say something, and which one is worth its time. */
import { describe, expect, it } from 'vitest';
import { checkPlan } from '../plan/check';
import { kernelFactory } from '../linalg/kernel/kernel';
import { findMaterial } from '../materials/grades';
import { contextOf } from '../learn/context';
import type { Evidence } from '../learn/shop';
import { arcEnergy } from '../heat/arcEnergy';
import { pathLength } from '../geometry/polyline';
import { aboutCoupon, COUPON_KINDS, COUPONS, couponOf, couponPlan, isWorth } from './coupons';
import { worthOf, type InDoubt } from './worth';

const kernel = kernelFactory(WebAssembly);
const sheet = { material: '1.4301', thicknessMm: 1.5 };
const [butt, onBar, ring] = (['butt', 'butt-on-bar', 'ring-on-tube'] as const).map((kind) => couponOf({ kind, ...sheet }, kernel));

describe('coupons', () => {
	it.each(COUPON_KINDS)('%s is a sound plan that can be welded, one run a seam from end to end', (kind) => {
		const plan = couponPlan({ kind, ...sheet });
		expect(checkPlan(plan).filter((f) => f.allowed)).toEqual([]);
		const welded = plan.joints.filter((j) => !j.stock);
		expect(plan.runs.map((r) => r.joint)).toEqual(welded.map((j) => j.id));
		for (const r of plan.runs) expect(Math.abs(r.toMm - r.fromMm)).toBeCloseTo(pathLength(plan.joints.find((j) => j.id === r.joint)!.a.path), 6);
		expect(plan.features.length).toBeGreaterThan(0);
	});
	it('it does not heat as a whole: the heat of its seam against what its sheets hold, by hand', () => {
		const m = findMaterial('1.4301');
		// 500 J/kg.K or so between 20 and 100 °C (EN 1993-1-2 has 450 at 20, rising)
		const [a] = butt.plan.parts;
		const width = 2 * Math.max(...a.outline.map((p) => p[0]));
		const rise = arcEnergy(butt.plan.settings[0]).netHeat / (width * 1.5 * m.density * 1e-9 * 480);
		expect(butt.warmsBy / rise).toBeGreaterThan(0.9);
		expect(butt.warmsBy / rise).toBeLessThan(1.1);
		expect(butt.warmsBy).toBeLessThan(85);
	});
	it('a butt pair closes by several times what a calliper doubts; where nothing does it is said', () => {
		const closing = butt.readings.find((r) => r.method === 'calliper')!;
		expect(isWorth(closing)).toBe(true);
		expect(butt.cautions).toEqual([]);
		expect(ring.readings.some(isWorth)).toBe(false);
		expect(ring.cautions.join(' ')).toMatch(/three times what its instrument doubts/);
	});
	it('on a bar it stays flatter (common practice, no source)', () => {
		const fold = (c: typeof butt) => c.readings.find((r) => r.unit === '°')!.effect;
		const waves = (c: typeof butt) => c.readings.find((r) => r.method === 'grid')!.effect;
		expect(fold(onBar)).toBeLessThan(0.9 * fold(butt));
		expect(waves(onBar)).toBeLessThan(0.5 * waves(butt));
		expect(contextOf(onBar.plan).isOnBar).toBe(true);
		expect(contextOf(butt.plan).isOnBar).toBe(false);
	});
	it('too much heat for a coupon of a hand’s size is said', () => {
		const settings = { ...butt.plan.settings[0], ampsA: 180, speedMmPerS: 1.5 };
		const { cautions, warmsBy } = aboutCoupon(couponPlan({ kind: 'butt', ...sheet, settings }), butt.sensitivities);
		expect(cautions.join(' ')).toMatch(/warms the whole coupon/);
		expect(warmsBy).toBeGreaterThan(85);
	});
});

describe('which coupon next', () => {
	const doubt = (slopes: [number, number, number], over: Partial<InDoubt> = {}): InDoubt => ({
		job: 'Tray',
		name: 'Width',
		context: contextOf(butt.plan),
		said: { ...butt.sensitivities[0], feature: 'x', slopes, spread: 0.02, predicted: -1, causes: [] },
		weight: 1,
		...over
	});
	it('a job in doubt by its shrinkage wants a butt pair; by its angle one on a bar, which turns where the free one waves; a ring tells of neither', () => {
		expect(worthOf([onBar, butt, ring], [doubt([0, -1, 0])], [])[0].coupon.kind).toBe('butt');
		const byAngle = worthOf([butt, onBar, ring], [doubt([0, 0, 1])], []);
		expect(byAngle[0].coupon.kind).toBe('butt-on-bar');
		expect(byAngle[2].coupon.kind).toBe('ring-on-tube');
	});
	it('it narrows what it says it narrows, less in another metal, and less the second time', () => {
		const [first] = worthOf([butt], [doubt([0, -1, 0])], []);
		expect(first.best!.then).toBeLessThan(0.85 * first.best!.now);
		expect(first.anHour).toBeCloseTo((60 * first.gain) / COUPONS.butt.minutes, 12);
		const other = { ...contextOf(butt.plan), group: 'aluminium' };
		expect(worthOf([butt], [doubt([0, -1, 0], { context: other })], [])[0].gain).toBeLessThan(first.gain);
		const done: Evidence[] = [1, 2, 3].flatMap((k) =>
			butt.readings.map((r) => {
				const s = butt.sensitivities.find((x) => x.feature === r.feature && x.moment === 'unclamped')!;
				return {
					...s,
					reading: `${k}${r.feature}`,
					piece: `p${k}`,
					context: contextOf(butt.plan),
					label: '',
					measured: s.predicted,
					sigma: r.doubt / 1.645,
					at: 0
				};
			})
		);
		expect(worthOf([butt], [doubt([0, -1, 0])], done)[0].gain).toBeLessThan(0.5 * first.gain);
	});
	it('nothing in doubt: nothing to gain', () => expect(worthOf([butt], [], [])[0]).toMatchObject({ gain: 0, best: undefined }));
});
