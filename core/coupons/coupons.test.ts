/** Coupons: sizes that say something, and which one is worth its time. */
import { describe, expect, it } from 'vitest';
import { checkPlan } from '../plan/check';
import { kernelFactory } from '../linalg/kernel/kernel';
import { findMaterial } from '../materials/grades';
import { contextOf } from '../learn/context';
import type { Evidence } from '../learn/shop';
import { COUPON_KINDS, COUPONS, couponOf, isWorth } from './coupons';
import { worthOf, type InDoubt } from './worth';

const kernel = kernelFactory(WebAssembly);
const sheet = { material: '1.4301', thicknessMm: 1.5 };
const coupons = COUPON_KINDS.map((kind) => couponOf({ kind, ...sheet }, kernel));
const [butt, onBar, lap, tee] = coupons;

describe('coupons', () => {
	it('each is a sound plan that can be welded, with readings that are there to be taken', () => {
		for (const c of coupons) {
			expect(checkPlan(c.plan).filter((f) => f.allowed)).toEqual([]);
			// one run a seam, from end to end
			expect(c.plan.runs.length).toBe(c.plan.joints.length);
			for (const r of c.plan.runs) expect(Math.abs(r.toMm - r.fromMm)).toBeCloseTo(200, 6);
			expect(c.readings.length).toBeGreaterThan(0);
			for (const r of c.readings) expect(c.plan.features.some((f) => f.id === r.feature)).toBe(true);
		}
	});
	it('it does not heat as a whole: the heat of its seam against what its sheets hold, by hand', () => {
		const m = findMaterial('1.4301');
		// 500 J/kg.K or so between 20 and 100 °C (EN 1993-1-2 has 450 at 20, rising)
		const [a] = butt.plan.parts;
		const width = 2 * Math.max(...a.outline.map((p) => p[0]));
		const rise = butt.netHeat / (width * 1.5 * m.density * 1e-9 * 480);
		expect(butt.warmsBy / rise).toBeGreaterThan(0.9);
		expect(butt.warmsBy / rise).toBeLessThan(1.1);
		expect(butt.warmsBy).toBeLessThan(85);
	});
	it('a butt pair closes by several times what a calliper doubts, a lap turns by several times a protractor’s; where none does it is said', () => {
		const closing = butt.readings.find((r) => r.method === 'calliper')!;
		expect(isWorth(closing)).toBe(true);
		expect(lap.readings.some((r) => r.unit === '°' && isWorth(r))).toBe(true);
		// the section has a thin tee’s web turn by no more than twice what a protractor doubts
		expect(tee.readings.some(isWorth)).toBe(false);
		expect(tee.cautions.join(' ')).toMatch(/three times what its instrument doubts/);
	});
	it('on a bar it stays flatter (common practice, no source)', () => {
		const fold = (c: typeof butt) => c.readings.find((r) => r.unit === '°')!.effect;
		expect(fold(onBar)).toBeLessThan(0.9 * fold(butt));
		expect(contextOf(onBar.plan).isOnBar).toBe(true);
		expect(contextOf(butt.plan).isOnBar).toBe(false);
	});
	it('too much heat for a coupon of a hand’s size is said', () => {
		const hot = couponOf({ kind: 'butt', ...sheet, settings: { ...butt.plan.settings[0], ampsA: 180, speedMmPerS: 1.5 } }, kernel);
		expect(hot.cautions.join(' ')).toMatch(/warms the whole coupon/);
		expect(hot.warmsBy).toBeGreaterThan(85);
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
	it('a job in doubt by its shrinkage wants a butt pair; one in doubt by its angle wants what turns more', () => {
		expect(worthOf([butt, lap], [doubt([0, -1, 0])], [])[0].coupon.kind).toBe('butt');
		expect(worthOf([butt, lap], [doubt([0, 0, 1])], [])[0].coupon.kind).toBe('lap');
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
