/**
 * Thermo-plastic coupons in solid elements, by a general solver (CalculiX, decks and readers in bench/coupons, run by
 * `npm run coupons`, hours long; kept in coupons.json), against the section that every forecast uses: the same sheet, heat and metal,
 * linear hardening, nothing forgotten. The section has no ends and no travel; the solid has both, and is read in its middle fifth.
 *
 * Asked for: peak temperatures within a tenth, force, shrinkage, turn and bow within a factor of 1.3, every trend's sign. What is
 * missed is in MISSED by name, stays on the page as missed, and a change that mends or breaks one is seen here.
 */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { COUPONS } from '../../bench/coupons/cases';
import type { Coupon } from '../../bench/coupons/coupon';
import type { CouponResult } from '../../bench/coupons/reduce';
import { sectionHistory } from '$core/heat/section';
import { findMaterial } from '$core/materials/grades';
import { barCorrection, leftAcross } from '$core/response/barTable';
import { growthOf, LEVER } from '$core/response/growth';
import { FREE, layeredStrip, type MetalModel, type SectionSprings } from '$core/response/layeredStrip';
import { FREEDOM_IN_SOLID } from '$core/response/weldResponse';
import { couponRow } from './published';

const SOLID = JSON.parse(readFileSync('tests/verification/coupons.json', 'utf8')) as Record<string, CouponResult>;
const FACTOR = 1.3;
const PEAK = 0.1;
/** where the metal hardly warms a tenth of its temperature says nothing: K */
const PEAK_K = 5;
/** Closer to the seam than this the two sources differ in how they spread over the sheet, mm. */
const PEAK_FROM = 3;

/** What the section is known to miss, with the reason in docs/theory/response.md. */
const MISSED = new Set([
	'free-force',
	'free-closing',
	'free-hot-force',
	'free-hot-closing',
	'free-hot-turn',
	'bar-force',
	'fast-closing',
	'fast-turn',
	'thick-force',
	'thick-bow',
	'thick-closing',
	'thick-shrinkage',
	'corner-shrinkage',
	'corner-cool-shrinkage',
	'corner-box-shrinkage',
	'tee-turn',
	'tee-peak-5.75',
	'tee-peak-26.86',
	'tee-leg-shrinkage',
	'tee-leg-closing',
	'tee-leg-peak-4.75',
	'tee-leg-peak-6.25',
	'tee-leg-peak-7.75',
	'tee-leg-peak-9.625',
	'tee-leg-peak-11.97',
	'tee-leg-peak-14.9',
	'tee-leg-peak-18.56',
	'tee-leg-peak-23.14',
	'tee-leg-peak-28.86'
]);

const MODEL: MetalModel = { id: 'nothing-forgotten', hardening: 2000, forgets: false };

function springsOf(c: Coupon): SectionSprings {
	if (c.isHeldFlat) return { ...FREE, curvature: Infinity, turn: Infinity };
	if (c.tee) return { ...FREE, curvature: Infinity };
	// the leg of a corner is held straight by the other, and nothing holds it in its own plane
	return c.isCorner ? { ...FREE, curvature: Infinity, inPlane: 0 } : FREE;
}

function ours(c: Coupon) {
	const side = { width: c.width, thickness: c.thickness, metal: c.metal, share: 0.5 };
	// a bar held at 20 °C: copper so thick that it does not warm
	const bar = c.bar && { width: 2 * c.bar.reach, thickness: 200, conductivity: 0.39, rhoC: 0.0345, contact: c.bar.contact };
	// a tee's flange takes two of the three ways that the heat can go, and its web holds it straight
	const netHeat = c.tee ? (2 / 3) * c.heat : c.heat;
	const h = sectionHistory({ sheets: [side, side], air: 15e-6, ambientC: 20, netHeat, speed: c.speed, bar });
	const n = h.x.length / 2;
	const strip = (heat: typeof h) =>
		layeredStrip({
			dy: heat.dx.slice(n),
			temperatures: heat.temperatures.map((T) => T.slice(n)),
			layers: 1,
			times: heat.times,
			arcS: heat.arcS,
			speed: c.speed,
			thickness: c.thickness,
			metal: c.metal,
			model: MODEL,
			springs: springsOf(c)
		});
	const r = strip(h);
	const on = c.bar && { heatPerThickness: c.heat / c.thickness, thickness: c.thickness, contact: c.bar.contact };
	const factor = on ? barCorrection(on) : 1;
	// as every forecast has it: the pull by the section on its bar, the shrinkage across by the section without one
	const bare = on ? strip(sectionHistory({ sheets: [side, side], air: 15e-6, ambientC: 20, netHeat: c.heat, speed: c.speed })) : r;
	const left = on ? leftAcross(on) : 1;
	// the fillet lies beside the web's middle
	const aside = c.tee ? c.thickness / 2 + c.tee.leg / 3 : 0;
	const peakAt = (at: number) => {
		const y = Math.max(h.x[n], at - aside);
		let i = n;
		while (i + 1 < h.x.length && h.x[i + 1] < y) i++;
		const f = (y - h.x[i]) / (h.x[i + 1] - h.x[i]);
		return Math.exp(Math.log(h.peakC[i]) + f * Math.log(h.peakC[i + 1] / h.peakC[i]));
	};
	// a coupon's edges keep together from the start: at a corner that is one end of what a forecast's band reaches to (response/growth.ts)
	const across = c.isCorner ? 0 : 1;
	// a web takes the third way of the heat, and pushes both halves of its flange
	const growth = growthOf(findMaterial('1.4301'), c.tee ? c.heat / 3 : c.heat / 2, c.thickness);
	const pushed = c.isCorner || c.tee ? (2 * growth) / LEVER : 0;
	const turnRad = 2 * r.turnRad + pushed;
	return {
		force: (2 * r.forceN * factor) / 1000,
		shrinkage: across * 2 * left * bare.shrinkageMm,
		closing: 2 * left * bare.closingMm,
		turn: (turnRad * 180) / Math.PI,
		// over the coupon's length
		bow: (Math.abs(r.bow) * c.length ** 2) / 8,
		peakAt
	};
}

const flat = COUPONS.filter((c) => c.runs.length === 1 && c.id in SOLID && !c.id.endsWith('capped'));
const results = new Map(flat.map((c) => [c.id, { c, solid: SOLID[c.id], section: ours(c) }]));

describe('coupons in solid elements', () => {
	it('free and held flat are among those kept', () => expect([...results.keys()]).toEqual(expect.arrayContaining(['free', 'flat'])));
	it.each([...results.keys()].map((id) => [id]))('%s: peaks from 3 mm outwards within a tenth, or known to miss it', (id) => {
		const { solid, section, c } = results.get(id)!;
		for (const [y, theirs] of solid.peakC.filter(([v]) => v >= PEAK_FROM)) {
			const got = section.peakAt(y);
			const isMet = Math.abs(got - theirs) < Math.max(PEAK * theirs, PEAK_K);
			couponRow({ id: `${id}-peak-${y}`, coupon: c.title, what: `peak at ${y.toFixed(1)} mm, °C`, solid: theirs, section: got, isMet });
			expect(!isMet, `${id}-peak-${y}: ${got} for ${theirs}`).toBe(MISSED.has(`${id}-peak-${y}`));
		}
	});
	it.each([...results.keys()].map((id) => [id]))('%s: force, shrinkage, turn, bow within a factor of 1.3, or known to miss it', (id) => {
		const { solid, section, c } = results.get(id)!;
		const compared: [string, string, number, number][] = [
			['force', 'force, kN', solid.forceMidKn, section.force],
			['shrinkage', 'inherent shrinkage across, mm', solid.shrinkageMm, section.shrinkage],
			// the outer edges of a corner go where its turn takes them
			...(c.isCorner ? [] : ([['closing', 'closing of the edges, mm', solid.closingMm, section.closing]] as [string, string, number, number][])),
			...(c.isHeldFlat
				? []
				: ([['turn', 'inherent turn, °', Math.abs(solid.turnDeg), Math.abs(section.turn)]] as [string, string, number, number][])),
			// a tee bows with its web, which the section of its flange knows nothing of; a corner in its sheets' planes
			...(c.isHeldFlat || c.tee || c.isCorner
				? []
				: ([['bow', 'bow over its length, mm', Math.abs(solid.bowMm), section.bow]] as [string, string, number, number][]))
		];
		for (const [what, words, theirs, got] of compared) {
			const ratio = got / theirs;
			const isMet = ratio < FACTOR && ratio > 1 / FACTOR;
			couponRow({ id: `${id}-${what}`, coupon: c.title, what: words, solid: theirs, section: got, isMet });
			expect(!isMet, `${id}-${what}: ${got} for ${theirs}, ${ratio}`).toBe(MISSED.has(`${id}-${what}`));
		}
	});
	const trend = (name: string, a: string, b: string, of: 'force' | 'shrinkage' | 'turn' | 'bow') => {
		const [p, q] = [results.get(a), results.get(b)];
		if (!p || !q) return;
		const key = { force: 'forceMidKn', shrinkage: 'shrinkageMm', turn: 'turnDeg', bow: 'bowMm' } as const;
		const theirs = q.solid[key[of]] / p.solid[key[of]];
		const got = q.section[of] / p.section[of];
		couponRow({
			id: `trend-${name}`,
			coupon: `${q.c.title} over ${p.c.title}`,
			what: `${of}, ratio`,
			solid: theirs,
			section: got,
			isMet: theirs > 1 === got > 1
		});
		it(`${name}: the sign of the solid's (${theirs.toFixed(2)})`, () => expect(got > 1, `${got}`).toBe(theirs > 1));
	};
	trend('freedom raises the force', 'flat', 'free', 'force');
	trend('freedom to bend in its plane raises the force', 'flat', 'corner', 'force');
	trend('more heat, free: force', 'free', 'free-hot', 'force');
	trend('more heat, free: bow', 'free', 'free-hot', 'bow');
	trend('more heat, free: turn', 'free', 'free-hot', 'turn');
	trend('more heat at a corner: turn', 'corner-cool', 'corner', 'turn');
	trend('a bar takes force away', 'flat', 'bar', 'force');
	trend('thicker sheet, the same heat: force', 'free', 'thick', 'force');
	trend('thicker sheet, the same heat: bow', 'free', 'thick', 'bow');
	trend('thicker sheet, the same heat: turn', 'free', 'thick', 'turn');
	trend('faster with the heat that melts as wide', 'free', 'fast', 'force');
	it('what freedom adds, as the bands have it, is the solid’s share of the section’s', () => {
		const [free, held] = [results.get('free')!, results.get('flat')!];
		const share = (free.solid.forceMidKn / held.solid.forceMidKn - 1) / (free.section.force / held.section.force - 1);
		expect(Math.abs(FREEDOM_IN_SOLID - share)).toBeLessThan(0.03);
	});
});
