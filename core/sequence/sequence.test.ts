/** The work in order: what belongs to a step of the assembly is tacked and welded before the next parts come on. */
import { describe, expect, it } from 'vitest';
import type { AnyHoldDown, PlanDocument } from '../document/schema';
import { copyOf } from '../document/copy';
import { TACK_ORDERS, TACK_PATTERNS } from '../document/words';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { newPlan } from '../families/newPlan';
import { uniformFrom } from '../linalg/random';
import { checkPlan } from '../plan/check';
import { Refusal } from '../refusal/refusal';
import { moveRuns, nudgeRuns } from '../schools/orderEdit';
import { orderDoesNotApply, orderPattern, putInOrder } from '../schools/orderPattern';
import { ORDER_PATTERNS } from '../schools/orders';
import { DEFAULT_TACKS } from '../schools/tacks';
import { tacksDoNotApply } from '../schools/tackPattern';
import { useTackRule } from '../schools/tackRule';
import { lifeWords, livesOf } from './lifeWords';
import { brokenRule, followAssembly, putInAssemblyOrder } from './precedence';
import { Timeline } from './timeline';

const make = (kind: MadeFamily, change: object = {}): PlanDocument => {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
};
const lidded = () => make('open-trough', { lengthMm: 300, widthMm: 200, depthMm: 120, baffles: 1, baffleHeightMm: 90, lid: true, rimFlangeMm: 0 });

/** The rules again, pair by pair and by their plain words, to hold the ranked ones against. */
function breaks(plan: PlanDocument): boolean {
	const steps = plan.fitUp.order ?? [];
	const comesOn = (part: string) =>
		Math.max(
			0,
			steps.findIndex((s) => s.parts.includes(part))
		);
	const joint = (id: string) => plan.joints.find((j) => j.id === id)!;
	const ready = (id: string) => Math.max(comesOn(joint(id).a.part), comesOn(joint(id).b.part));
	const isLong = (id: string) => {
		const { a, b } = joint(id);
		const part = plan.parts.find((p) => p.id === a.part)!;
		return a.part === b.part && Boolean(part.roll ?? part.cone);
	};
	const tooLate = (first: string, then: string) =>
		ready(then) < ready(first) ||
		(ready(then) === ready(first) &&
			((first === plan.fitUp.adjustingJoint && then !== first) || (isLong(then) && !isLong(first) && then !== plan.fitUp.adjustingJoint)));
	const pairs = <T>(list: readonly T[], bad: (p: T, q: T) => boolean) => list.some((p, i) => list.slice(i + 1).some((q) => bad(p, q)));
	return (
		pairs(plan.runs, (p, q) => tooLate(p.joint, q.joint)) ||
		pairs(plan.tacks, (p, q) => {
			if (ready(p.joint) !== ready(q.joint)) return ready(q.joint) < ready(p.joint);
			return p.stage === q.stage && tooLate(p.joint, q.joint);
		})
	);
}

describe('a lidded tank with a baffle', () => {
	it('its own plan tacks and welds the lid last', () => {
		const plan = lidded();
		const isLid = (x: { joint: string }) => x.joint.startsWith('lid');
		for (const list of [plan.tacks, plan.runs] as { joint: string }[][]) {
			expect(list.some(isLid)).toBe(true);
			expect(list.slice(list.findIndex(isLid)).every(isLid)).toBe(true);
		}
		expect(brokenRule(plan)).toBeUndefined();
	});
	it('acts: the lid comes on when the inside is welded, is tacked then, and nothing of it before', () => {
		const plan = lidded();
		const acts = new Timeline(plan).acts();
		const lidOn = acts.findIndex((a) => a.kind === 'parts' && a.step.id === 'lid');
		const isLid = (a: (typeof acts)[number]) =>
			(a.kind === 'tack' && a.tack.joint.startsWith('lid')) || (a.kind === 'run' && a.run.joint.startsWith('lid'));
		expect(acts.slice(0, lidOn).some(isLid)).toBe(false);
		expect(acts.slice(lidOn).every((a) => (a.kind !== 'tack' && a.kind !== 'run') || isLid(a))).toBe(true);
		expect(acts.filter((a) => a.kind === 'tack')).toHaveLength(plan.tacks.length);
		expect(acts.filter((a) => a.kind === 'run')).toHaveLength(plan.runs.length);
		expect(acts[lidOn - 1]).toMatchObject({ kind: 'welded', index: 0 });
	});
	it('an order that forbids itself is told in the planner’s words, and put right as near as may be', () => {
		const plan = lidded();
		plan.runs.reverse();
		expect(brokenRule(plan)?.words).toMatch(/^Run \d+ must come before run 1: “.*” belongs before “Lid” comes on/);
		const before = copyOf(plan.runs);
		putInAssemblyOrder(plan);
		expect(brokenRule(plan)).toBeUndefined();
		// inside a step the order given is kept
		const shell = (r: { joint: string }) => !r.joint.startsWith('lid');
		expect(plan.runs.filter(shell).map((r) => r.id)).toEqual(before.filter(shell).map((r) => r.id));
	});
	it('one seam planned anew stays in its step; a new assembly order takes tacks and runs with it', () => {
		const plan = lidded();
		plan.runs = putInOrder(plan, orderPattern(plan, { pattern: 'one-hit', runLengthMm: 50 }, ['lid-front']), ['lid-front']);
		expect(brokenRule(plan)).toBeUndefined();
		useTackRule(plan, { ...DEFAULT_TACKS, locateMm: 70 }, ['baffle-1-floor']);
		expect(brokenRule(plan)).toBeUndefined();
		plan.fitUp.order = [
			{ id: 'shell', name: 'Shell', parts: plan.parts.map((p) => p.id).filter((id) => id !== 'lid' && id !== 'baffle-1') },
			{ id: 'baffle', name: 'Baffle', parts: ['baffle-1'] },
			{ id: 'lid', name: 'Lid', parts: ['lid'] }
		];
		expect(brokenRule(plan)).toBeDefined();
		expect(followAssembly(plan)).toEqual(['Tacks and runs follow the order of the assembly.']);
		expect(brokenRule(plan)).toBeUndefined();
	});
});

describe('a rolled sheet is closed before it meets another', () => {
	it('long seams before the girth, tacks and runs, in the plan as made and after any school', () => {
		const plan = make('cylinder', { courses: 2, bottom: 'conical' });
		const first = (list: readonly { joint: string }[], what: RegExp) => list.findIndex((x) => what.test(x.joint));
		expect(first(plan.runs, /^girth|^bottom$/)).toBeGreaterThan(plan.runs.findLastIndex((r) => /long/.test(r.joint)));
		plan.runs.reverse();
		expect(brokenRule(plan)?.words).toMatch(/closes a rolled sheet, before it meets another/);
		for (const pattern of ORDER_PATTERNS) {
			if (orderDoesNotApply(plan, { pattern, runLengthMm: 60 })) continue;
			plan.runs = orderPattern(plan, { pattern, runLengthMm: 60 });
			expect(first(plan.runs, /^girth|^bottom$/), pattern).toBeGreaterThan(plan.runs.findLastIndex((r) => /long/.test(r.joint)));
		}
	});
});

describe('no school and no edit by hand breaks the order of the assembly', () => {
	it('10,000 cases over random pieces with random assembly orders', { timeout: 300_000 }, () => {
		const random = uniformFrom(11);
		const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
		const pieces = [
			make('open-trough', { lengthMm: 200, widthMm: 120, depthMm: 60, body: 'five-plates', rimFlangeMm: 0 }),
			make('open-trough', { lengthMm: 300, widthMm: 200, depthMm: 90, baffles: 1, baffleHeightMm: 60, lid: true, rimFlangeMm: 0 }),
			make('butt-panel', { widthsMm: [80, 60, 70], lengthMm: 150 }),
			make('stiffened-plate', { stiffeners: 2, bothSides: true })
		];
		let cases = 0;
		let applied = 0;
		let refused = 0;
		while (cases < 10_000) {
			const plan = copyOf(pick(pieces));
			// parts shuffled into one to four steps
			const steps = 1 + Math.floor(random() * 4);
			const parts: string[][] = Array.from({ length: steps }, () => []);
			for (const p of plan.parts) pick(parts).push(p.id);
			plan.fitUp.order = parts.filter((s) => s.length).map((s, i) => ({ id: `s${i}`, name: `Step ${i + 1}`, parts: s }));
			if (random() < 0.3) plan.fitUp.adjustingJoint = pick(plan.joints).id;
			followAssembly(plan);
			for (let k = 0; k < 25; k++, cases++) {
				const before = copyOf(plan.runs);
				const one = random() < 0.5 ? [pick(plan.joints).id] : undefined;
				const what = random();
				if (what < 0.12) {
					const rule = { pattern: pick(ORDER_PATTERNS), runLengthMm: 30 + 40 * random(), pitchMm: 120 };
					if (orderDoesNotApply(plan, rule, one)) continue;
					const fresh = orderPattern(plan, rule, one);
					plan.runs = one ? putInOrder(plan, fresh, one) : fresh;
				} else if (what < 0.2) {
					const rule = { ...DEFAULT_TACKS, pattern: pick(TACK_PATTERNS), order: pick(TACK_ORDERS), locateMm: 40 + 60 * random() };
					if (tacksDoNotApply(plan, rule, one)) continue;
					useTackRule(plan, rule, one);
				} else {
					const ids = new Set(Array.from({ length: 1 + Math.floor(3 * random()) }, () => pick(plan.runs).id));
					try {
						const runs =
							random() < 0.5 ? moveRuns(plan.runs, ids, Math.floor(random() * (plan.runs.length + 1))) : nudgeRuns(plan.runs, ids, pick([-1, 1]));
						// as the desk does: an order that breaks a rule is not made
						if (brokenRule({ ...plan, runs })) refused++;
						else plan.runs = runs;
						expect(Boolean(brokenRule({ ...plan, runs }))).toBe(breaks({ ...plan, runs }));
					} catch (e) {
						if (!(e instanceof Refusal)) throw e;
						plan.runs = before;
					}
				}
				applied++;
				if (brokenRule(plan) || (k === 24 && breaks(plan))) expect.fail(`case ${cases}: ${brokenRule(plan)?.words}`);
			}
		}
		expect(applied).toBeGreaterThan(8000);
		expect(refused).toBeGreaterThan(500);
	});
});

describe('when a hold-down is on', () => {
	const clamp = (plan: PlanDocument, joint: string, on: string, off: string): AnyHoldDown => {
		const h: AnyHoldDown = {
			id: `c-${plan.holdDowns.length}`,
			name: 'C',
			kind: 'clamp',
			joint,
			stationMm: 20,
			holds: 'normal',
			stiffnessNPerMm: 5000,
			life: { on, off }
		};
		plan.holdDowns.push(h);
		return h;
	};
	it('words to moments, in one step', () => {
		const plan = make('open-trough');
		const t = new Timeline(plan);
		const [first, second] = plan.runs.map((r) => r.id);
		expect(t.momentOf('start')).toBe(0);
		expect(t.momentOf(`before-run:${first}`)).toBe(1);
		expect(t.momentOf(`after-run:${first}`)).toBe(t.momentOf(`before-run:${second}`));
		expect(t.momentOf('when-cold')).toBe(plan.runs.length + 2);
		expect(t.momentOf('after-run:nobody')).toBeUndefined();
		expect(t.momentOf('before-step:all')).toBeUndefined();
		const h = clamp(plan, plan.runs[0].joint, `before-run:${second}`, 'stays');
		const u = new Timeline(plan);
		expect([u.isOnDuringTacks(h, plan.runs[0].joint), u.isOnDuringRun(h, 0), u.isOnDuringRun(h, 1)]).toEqual([false, false, true]);
		const g = clamp(plan, plan.runs[0].joint, 'start', 'after-tacks');
		expect(u.isOnDuringTacks(g, plan.runs[0].joint)).toBe(true);
	});
	it('a clamp on the lid goes on with the lid, and what comes off before the lid is off then', () => {
		const plan = lidded();
		const lid = clamp(plan, 'lid-front', 'start', 'when-cold');
		const inside = clamp(plan, 'baffle-1-floor', 'start', 'before-step:lid');
		expect(checkPlan(plan)).toEqual([]);
		const t = new Timeline(plan);
		const firstLid = plan.runs.findIndex((r) => r.joint.startsWith('lid'));
		expect([t.isOnDuringRun(lid, firstLid - 1), t.isOnDuringRun(lid, firstLid)]).toEqual([false, true]);
		expect([t.isOnDuringRun(inside, firstLid - 1), t.isOnDuringRun(inside, firstLid)]).toEqual([true, false]);
		expect(t.isOnDuringTacks(inside, 'lid-front')).toBe(false);
		const kinds = t
			.acts()
			.map((a) => (a.kind === 'on' || a.kind === 'off' ? `${a.kind}:${a.holdDown.id}` : a.kind === 'parts' ? `parts:${a.step.id}` : a.kind));
		expect(kinds.indexOf('off:c-1')).toBeLessThan(kinds.indexOf('parts:lid'));
		expect(kinds.indexOf('on:c-0')).toBeGreaterThan(kinds.indexOf('parts:lid'));
		expect(lifeWords('before-step:lid', plan)).toBe('before “Lid” comes on');
		expect(livesOf(plan).off).toContain('before-step:lid');
	});
	it('a step that is gone: what came off before it comes off when cold, and says so', () => {
		const plan = lidded();
		const inside = clamp(plan, 'baffle-1-floor', 'start', 'before-step:lid');
		plan.fitUp.order = [{ id: 'all', name: 'All', parts: plan.parts.map((p) => p.id) }];
		expect(checkPlan(plan)[0]).toMatchObject({ field: 'holdDowns[0].life.off' });
		expect(followAssembly(plan).join()).toMatch(/“C” comes off when cold: the step it came off before is gone/);
		expect(inside.life.off).toBe('when-cold');
		expect(checkPlan(plan)).toEqual([]);
	});
});
