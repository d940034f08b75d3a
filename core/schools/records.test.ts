/** Every school of tacks and of order answers for itself: named apart, starts from sound figures, asks only for lengths that it uses. */
import { describe, expect, it } from 'vitest';
import { TACK_ORDERS, TACK_PATTERNS } from '../document/words';
import { TackRule } from '../document/schema';
import { readAs } from '../document/validate';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { twoSided, weldedSeams } from '../layout/seamShape';
import { seamsInSpace } from '../layout/space';
import { checkPlan } from '../plan/check';
import { orderDoesNotApply, orderPattern } from './orderPattern';
import { ORDER_PATTERNS, ORDER_SCHOOLS } from './orders';
import { TACK_ORDER_KINDS } from './tackOrders';
import { tackPattern, tacksDoNotApply } from './tackPattern';
import { useTackRule } from './tackRule';
import { TACK_SCHOOLS, tackStart } from './tacks';

const tee = () => newPlan('stiffened-plate', { ...FAMILY_DEFAULTS['stiffened-plate'], bothSides: true }).plan!;
const panel = (lengthMm = 600) => newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], lengthMm }).plan!;

it('no two are called alike', () => {
	const names = [
		...TACK_PATTERNS.map((p) => TACK_SCHOOLS[p].name),
		...TACK_ORDERS.map((p) => TACK_ORDER_KINDS[p].name),
		...ORDER_PATTERNS.map((p) => ORDER_SCHOOLS[p].name)
	];
	expect(new Set(names).size).toBe(names.length);
});

describe.each(TACK_PATTERNS)('tack school %s', (pattern) => {
	const school = TACK_SCHOOLS[pattern];
	// a sheet welded on both sides: every school applies to it
	const plan = tee();
	const stations = (rule: TackRule) => tackPattern(plan, rule).map((t) => [t.joint, t.stationMm, t.stage]);

	it('starts from figures that a job file may hold, within what the page allows', () => {
		expect(readAs(TackRule, tackStart(pattern)).faults).toEqual([]);
		for (const f of school.fields) {
			expect(school.start[f.field]).toBeGreaterThanOrEqual(f.minMm);
			expect(school.start[f.field]).toBeLessThanOrEqual(f.maxMm);
		}
	});
	it('uses every length it asks for, and no other', () => {
		const start = { ...tackStart(pattern), order: 'from-true-corner' as const };
		for (const field of ['locateMm', 'closeMm'] as const) {
			const other = { ...start, [field]: start[field] * 0.8 };
			const isAsked = school.fields.some((f) => f.field === field);
			if (isAsked) expect(stations(other)).not.toEqual(stations(start));
			else expect(stations(other)).toEqual(stations(start));
		}
	});
	it('makes a sound plan that keeps its rule', () => {
		const own = structuredClone(plan);
		useTackRule(own, tackStart(pattern));
		expect(checkPlan(own)).toEqual([]);
		expect(own.joints.map((j) => j.tackRule?.pattern)).toEqual(own.joints.map(() => pattern));
	});
});

it('tacks on both sides of a tee: none faces another, and with opposite ends in turn no two follow on one side', () => {
	const plan = tee();
	const [[p, q]] = twoSided(weldedSeams(plan).seams);
	const rule = tackStart('alternate-sides');
	const tacks = tackPattern(plan, rule);
	const on = (id: string) => tacks.filter((t) => t.joint === id).map((t) => t.stationMm);
	expect(on(p.joint.id).length).toBeGreaterThan(2);
	expect(on(q.joint.id).length).toBe(on(p.joint.id).length - 1);
	for (const x of on(p.joint.id)) for (const y of on(q.joint.id)) expect(Math.abs(x - y)).toBeGreaterThan(rule.locateMm / 4);
	// one side alone is still one of two
	expect(
		tackPattern(plan, rule, [q.joint.id])
			.map((t) => t.stationMm)
			.sort((a, b) => a - b)
	).toEqual(on(q.joint.id).sort((a, b) => a - b));
	expect(tacksDoNotApply(panel(), rule)).toMatch(/both sides/);
});

describe('from the middle outwards', () => {
	it('each run touches what is welded, ends towards the middle, and the halves take turns', () => {
		const plan = panel(600);
		const runs = orderPattern(plan, { pattern: 'middle-out', runLengthMm: 50 });
		const middle = seamsInSpace(plan)[0].lengthMm / 2;
		expect(runs).toHaveLength(12);
		let [lo, hi] = [middle, middle];
		runs.forEach((r, i) => {
			expect(Math.abs(r.toMm - middle)).toBeLessThan(Math.abs(r.fromMm - middle));
			// it ends where the welded stretch ends, and lengthens it
			expect([lo, hi].some((end) => Math.abs(end - r.toMm) < 0.2)).toBe(true);
			if (r.fromMm < lo) lo = r.fromMm;
			else hi = r.fromMm;
			if (i) expect(Math.sign(r.fromMm - middle)).not.toBe(Math.sign(runs[i - 1].fromMm - middle));
		});
		expect([lo, hi].map((x) => Math.round(x))).toEqual([0, 600]);
	});
	it('is refused where there is no middle', () =>
		expect(orderDoesNotApply(panel(120), { pattern: 'middle-out', runLengthMm: 60 })).toMatch(/no middle/));
});
