/** The schools against their own rules. The figures they start from are common practice, no source. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { newPlan } from '../families/newPlan';
import { regenerate } from '../compose/resize';
import { pathLength } from '../geometry/polyline';
import { distance } from '../geometry/vec';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { checkPlan } from '../plan/check';
import { backStepRuns, boundRange, coolBefore, joinRuns, lockRuns, moveBound, moveRuns, nudgeRuns, reverseRuns, splitRuns } from './orderEdit';
import { DEFAULT_LENGTH_MM, DEFAULT_PITCH_MM, intermittent } from './orders/intermittent';
import { endsInTurn } from './orders/laying';
import { ORDER_PATTERNS } from './orders';
import { orderDoesNotApply, orderPattern, putInOrder } from './orderPattern';
import { tackStart } from './tacks';
import { tackPattern, tacksDoNotApply } from './tackPattern';
import { flipsOf, groupByPosition, liesFor, positionsOf, UP_AXES } from '../layout/positions';
import type { PlanDocument, Run } from '../document/schema';
import { centreOf, holeDistance, isCurved, isRing, mitredCorners, ringsInRow, twoSided, weldedSeams } from '../layout/seamShape';
import { seamsInSpace, trueCorner } from '../layout/space';
import { TACK_ORDERS, TACK_PATTERNS } from '../document/words';

function planOf(kind: MadeFamily, change: object = {}): PlanDocument {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
}
const plans: Partial<Record<MadeFamily, PlanDocument>> = {};
const of = (kind: MadeFamily) => structuredClone((plans[kind] ??= planOf(kind)));
const KINDS: MadeFamily[] = ['open-trough', 'enclosure', 'butt-panel', 'cylinder', 'manifold', 'mitred-frame', 'stiffened-plate'];
const seamOf = (plan: PlanDocument, id: string) => seamsInSpace(plan).find((s) => s.joint.id === id)!;

describe('order schools', () => {
	it('whatever applies to a family covers its seams once and is in order; whatever does not says why', () => {
		for (const kind of KINDS)
			for (const pattern of ORDER_PATTERNS) {
				const plan = of(kind);
				const rule = { pattern, runLengthMm: 50 };
				const why = orderDoesNotApply(plan, rule);
				if (why) {
					expect(why.length).toBeGreaterThan(20);
					expect(() => orderPattern(plan, rule)).toThrow(why);
					continue;
				}
				plan.runs = orderPattern(plan, rule);
				expect(checkPlan(plan)).toEqual([]);
				for (const s of weldedSeams(plan).seams)
					expect(plan.runs.filter((r) => r.joint === s.joint.id).reduce((t, r) => t + Math.abs(r.toMm - r.fromMm), 0)).toBeCloseTo(s.lengthMm, 1);
			}
	}, 180_000);
	it('one hit: a run a seam', () => {
		const plan = of('open-trough');
		const runs = orderPattern(plan, { pattern: 'one-hit', runLengthMm: 50 });
		expect(new Set(runs.map((r) => r.joint)).size).toBe(runs.length);
	});
	it('quarters are balanced: each is followed by the one opposite', () => {
		const plan = of('cylinder');
		const runs = orderPattern(plan, { pattern: 'quarters', runLengthMm: 50 });
		const rings = weldedSeams(plan).seams.filter(isRing);
		expect(rings.length).toBeGreaterThan(0);
		for (const ring of rings) {
			const own = runs.filter((r) => r.joint === ring.joint.id);
			expect(own).toHaveLength(4);
			const middle = (r: Run) => ring.at((r.fromMm + r.toMm) / 2);
			const across = distance(ring.at(0), ring.at(ring.lengthMm / 2));
			expect(distance(middle(own[0]), middle(own[1]))).toBeGreaterThan(0.95 * across);
			expect(distance(middle(own[2]), middle(own[3]))).toBeGreaterThan(0.95 * across);
		}
	});
	it('cross-hatch alternates: from ring to ring over the middle of the row, and no quarter next to the last one laid on its ring', () => {
		const plan = of('manifold');
		const row = ringsInRow(weldedSeams(plan).seams)!;
		expect(row.length).toBeGreaterThanOrEqual(3);
		const runs = orderPattern(plan, { pattern: 'cross-hatch', runLengthMm: 50 }).filter((r) => row.some((s) => s.joint.id === r.joint));
		expect(runs).toHaveLength(4 * row.length);
		const place = (r: Run) => row.findIndex((s) => s.joint.id === r.joint);
		const turns = runs.filter((r, i) => i === 0 || r.joint !== runs[i - 1].joint).map(place);
		expect(turns.slice(0, row.length)).toEqual(endsInTurn(row.length));
		for (const ring of row) {
			const own = runs.filter((r) => r.joint === ring.joint.id).map((r) => Math.round(Math.min(r.fromMm, r.toMm) / (ring.lengthMm / 4)));
			expect((own[1] - own[0] + 4) % 4).toBe(2);
			expect((own[3] - own[2] + 4) % 4).toBe(2);
		}
		expect(endsInTurn(5)).toEqual([0, 4, 1, 3, 2]);
	});
	it('mitre schools end each corner on its inside fillet, faces from inside out', () => {
		const plan = of('mitred-frame');
		const corners = mitredCorners(weldedSeams(plan).seams);
		expect(corners).toHaveLength(4);
		const centre = centreOf(weldedSeams(plan).seams);
		for (const pattern of ['mitre-outside-first', 'mitre-face-first'] as const) {
			const runs = orderPattern(plan, { pattern, runLengthMm: 50 });
			for (const c of corners) {
				const ids = [...c.outside, ...c.faces, ...c.inside].map((s) => s.joint.id);
				const own = runs.filter((r) => ids.includes(r.joint));
				const named = own.map((r) =>
					c.inside.some((s) => s.joint.id === r.joint) ? 'inside' : c.outside.some((s) => s.joint.id === r.joint) ? 'outside' : 'face'
				);
				expect(named[named.length - 1]).toBe('inside');
				expect(named[0]).toBe(pattern === 'mitre-outside-first' ? 'outside' : 'face');
				if (pattern === 'mitre-face-first') expect(named).toEqual(['face', 'outside', 'face', 'inside']);
				for (const r of own) {
					if (!c.faces.some((s) => s.joint.id === r.joint)) continue;
					const s = seamOf(plan, r.joint);
					expect(distance(s.at(r.fromMm), centre)).toBeLessThan(distance(s.at(r.toMm), centre));
				}
			}
		}
	});
	it('spread, then join: no two runs that touch among the first half of a long girth', () => {
		const plan = of('cylinder');
		const runs = orderPattern(plan, { pattern: 'spread-then-join', runLengthMm: 50 });
		const ring = weldedSeams(plan)
			.seams.filter(isRing)
			.sort((p, q) => q.lengthMm - p.lengthMm)[0];
		const own = runs.filter((r) => r.joint === ring.joint.id);
		const dots = own.slice(0, Math.floor(own.length / 2)).map((r) => [Math.min(r.fromMm, r.toMm), Math.max(r.fromMm, r.toMm)]);
		for (const [i, p] of dots.entries()) for (const q of dots.slice(i + 1)) expect(Math.min(p[1], q[1]) - Math.max(p[0], q[0])).toBeLessThan(-1);
	});
	it('both sides in turn, where a stiffener is welded on both', () => {
		const plan = of('stiffened-plate');
		const pairs = twoSided(weldedSeams(plan).seams);
		if (!pairs.length) {
			expect(orderDoesNotApply(plan, { pattern: 'alternate-sides', runLengthMm: 50 })).toMatch(/both sides/);
			// a second fillet on the other side of the same web
			const j = plan.joints[0];
			plan.joints.push({ ...structuredClone(j), id: `${j.id}-b`, name: `${j.name}, back`, weldSide: j.weldSide === 'front' ? 'back' : 'front' });
		}
		const [[p, q]] = twoSided(weldedSeams(plan).seams);
		const own = orderPattern(plan, { pattern: 'alternate-sides', runLengthMm: 50 }).filter((r) => [p, q].some((s) => s.joint.id === r.joint));
		own.slice(1).forEach((r, i) => expect(r.joint).not.toBe(own[i].joint));
		// intermittent on two sides: staggered lengths lie over the gaps of the other side, chained ones face each other
		for (const s of [p, q]) plan.joints.find((j) => j.id === s.joint.id)!.intermittent = true;
		const both = [p.joint.id, q.joint.id];
		const at = (pattern: 'chained' | 'staggered', id: string) =>
			orderPattern(plan, { pattern, runLengthMm: DEFAULT_LENGTH_MM, pitchMm: DEFAULT_PITCH_MM }, both)
				.filter((r) => r.joint === id)
				.map((r) => Math.min(r.fromMm, r.toMm))
				.sort((x, y) => x - y);
		expect(at('chained', p.joint.id)).toEqual(at('chained', q.joint.id));
		expect(at('staggered', q.joint.id)[0] - at('staggered', p.joint.id)[0]).toBeCloseTo(DEFAULT_PITCH_MM / 2, 0);
	});
	it('intermittent lengths are refused where strength or tightness forbids them', () => {
		expect(orderDoesNotApply(of('open-trough'), { pattern: 'chained', runLengthMm: 25, pitchMm: 75 })).toMatch(/must be welded all along/);
		const plan = of('open-trough');
		for (const j of plan.joints) j.intermittent = true;
		expect(orderDoesNotApply(plan, { pattern: 'chained', runLengthMm: 25, pitchMm: 20 })).toMatch(/pitch \(20 mm\) must be longer/);
		expect(intermittent(300, 25, 75, false)).toEqual([
			[25, 50],
			[100, 125],
			[175, 200],
			[250, 275]
		]);
	});
	it('a pattern keeps locked runs as they are and where they are', () => {
		const plan = of('open-trough');
		plan.runs = plan.runs.map((r, i) => (i === 5 ? { ...r, locked: true } : r));
		const kept = plan.runs[5];
		plan.runs = orderPattern(plan, { pattern: 'skip-round', runLengthMm: 40 });
		expect(plan.runs[5]).toEqual(kept);
		expect(checkPlan(plan)).toEqual([]);
		// and so does a pattern on that one seam: what stands before it comes from the others
		const joints = [kept.joint];
		const before = plan.runs;
		plan.runs = putInOrder(plan, orderPattern(plan, { pattern: 'straight-through', runLengthMm: 70 }, joints), joints);
		expect(plan.runs[5]).toEqual(kept);
		expect(checkPlan(plan)).toEqual([]);
		expect(plan.runs.filter((r) => r.joint !== kept.joint)).toEqual(before.filter((r) => r.joint !== kept.joint));
	});
	it('a locked run goes with its seam when the seam changes its length', () => {
		const plan = of('open-trough');
		const i = plan.runs.findLastIndex((r) => r.joint === 'bl');
		plan.runs[i] = { ...plan.runs[i], locked: true };
		const r = regenerate(plan, 'open-trough', { ...plan.family!.parameters, widthMm: 160 });
		expect(r.faults).toEqual([]);
		expect(r.plan!.runs.some((x) => x.locked)).toBe(false);
		expect(checkPlan(r.plan!)).toEqual([]);
	});
});

describe('opposite seams in turn', () => {
	it('run in the opposite sense round the piece: both away from the true corner, so one goes round one way and the other the other', () => {
		for (const end of ['datum', 'far'] as const)
			for (const pattern of ['back-step', 'one-hit'] as const) {
				const plan = planOf('open-trough', { body: 'five-plates', lengthMm: 300, widthMm: 180, depthMm: 90 });
				plan.fitUp.trueEnd = end;
				plan.runs = orderPattern(plan, { pattern, runLengthMm: 60 });
				const seams = seamsInSpace(plan);
				/** moment of the progress along a seam about the upright through the middle of the floor */
				const sense = (joint: string) => {
					const own = plan.runs.filter((r) => r.joint === joint);
					const at = seams.find((s) => s.joint.id === joint)!.at;
					const mid = (r: Run) => at((r.fromMm + r.toMm) / 2);
					const [p, q] = own.length > 1 ? [mid(own[0]), mid(own[own.length - 1])] : [at(own[0].fromMm), at(own[0].toMm)];
					return Math.sign((p[0] - 150) * (q[1] - p[1]) - (p[1] - 90) * (q[0] - p[0]));
				};
				for (const [one, other] of [
					['bf', 'bb'],
					['bl', 'br']
				]) {
					expect(sense(one) * sense(other), `${pattern} ${one} ${other}`).toBe(-1);
				}
			}
	});
});

describe('tack schools', () => {
	it('every spacing with every order stays on its seam, clear of its ends, or says why it does not apply', () => {
		for (const kind of KINDS)
			for (const pattern of TACK_PATTERNS)
				for (const order of TACK_ORDERS) {
					const plan = of(kind);
					const rule = { ...tackStart(pattern), order };
					if (tacksDoNotApply(plan, rule)) {
						expect(() => tackPattern(plan, rule)).toThrow(RangeError);
						continue;
					}
					plan.tacks = tackPattern(plan, rule);
					expect(checkPlan(plan)).toEqual([]);
					expect(new Set(plan.tacks.map((t) => t.joint))).toEqual(new Set(weldedSeams(plan).seams.map((s) => s.joint.id)));
					expect(plan.tacks.findLastIndex((t) => t.stage === 1)).toBeLessThan(
						plan.tacks.some((t) => t.stage === 2) ? plan.tacks.findIndex((t) => t.stage === 2) : Infinity
					);
				}
	}, 180_000);
	it('the trade’s figures as they start', () => {
		expect(tackStart('two-stage')).toMatchObject({ locateMm: 75, closeMm: 20, lengthMm: 5 });
		expect(tackStart('long-tacks')).toMatchObject({ locateMm: 35, lengthMm: 10 });
	});
	it('curves first: no tack on a straight seam before the last on a curved one, but for the long seam that gives a shell its curve', () => {
		const shell = of('cylinder');
		const order = tackPattern(shell, { ...tackStart('corners-and-middles'), order: 'curve-first' }).map((t) => t.joint);
		expect(order.lastIndexOf('long-1')).toBeLessThan(order.indexOf('bottom'));
		const plan = planOf('open-trough', { portMm: 50 });
		const tacks = tackPattern(plan, { ...tackStart('corners-and-middles'), order: 'curve-first' });
		const curved = new Set(
			weldedSeams(plan)
				.seams.filter(isCurved)
				.map((s) => s.joint.id)
		);
		expect(tacks.findLastIndex((t) => curved.has(t.joint))).toBeLessThan(tacks.findIndex((t) => !curved.has(t.joint)));
		expect(tacksDoNotApply(of('open-trough'), { ...tackStart('two-stage'), order: 'curve-first' })).toMatch(/No seam here is curved/);
	});
	it('opposite ends: each tack lies farther from the last than from-the-corner order leaves it', () => {
		const plan = of('open-trough');
		const reach = (order: 'opposite-ends' | 'from-true-corner') => {
			const tacks = tackPattern(plan, { ...tackStart('corners-and-middles'), order });
			const at = tacks.map((t) => seamOf(plan, t.joint).at(t.stationMm));
			return at.slice(1).reduce((s, p, i) => s + distance(p, at[i]), 0) / (at.length - 1);
		};
		expect(reach('opposite-ends')).toBeGreaterThan(1.5 * reach('from-true-corner'));
	});
	it('bisection: ends, then the middle', () => {
		const plan = of('butt-panel');
		const [seam] = weldedSeams(plan).seams;
		const own = tackPattern(plan, { ...tackStart('long-tacks'), order: 'bisection' }).filter((t) => t.joint === seam.joint.id);
		const at = own.slice(0, 3).map((t) => t.stationMm / seam.lengthMm);
		expect(Math.min(at[0], at[1])).toBeLessThan(0.1);
		expect(Math.max(at[0], at[1])).toBeGreaterThan(0.9);
		expect(Math.abs(at[2] - 0.5)).toBeLessThan(0.1);
	});
	it('stitches are rows of three', () => {
		const plan = of('butt-panel');
		const own = tackPattern(plan, tackStart('stitch')).map((t) => t.stationMm);
		expect(own.length % 3).toBe(0);
		expect(tacksDoNotApply(plan, { ...tackStart('stitch'), locateMm: 15 })).toMatch(/as long as/);
	});
	it('tacks keep clear of places where runs start and stop, where there is room', () => {
		const plan = of('open-trough');
		const tacks = tackPattern(plan, { ...tackStart('long-tacks'), otherClearMm: 4 });
		const close = tacks.filter((t) =>
			plan.runs.some(
				(r) =>
					r.joint === t.joint && [r.fromMm, r.toMm].some((b) => b > 12 && b < seamOf(plan, t.joint).lengthMm - 12 && Math.abs(b - t.stationMm) < 8.5)
			)
		);
		expect(close).toHaveLength(0);
	});
	it('the distance to a hole counts, but not to the one a seam runs along', () => {
		const plan = of('manifold');
		for (const s of weldedSeams(plan).seams.slice(0, 2)) expect(holeDistance(plan, s)(s.lengthMm / 3)).toBeGreaterThan(1);
	});
	it('work starts at the true corner', () => {
		const plan = of('open-trough');
		const corner = trueCorner(plan, seamsInSpace(plan));
		const [first] = tackPattern(plan, tackStart('long-tacks'));
		expect(distance(seamOf(plan, first.joint).at(first.stationMm), corner)).toBeLessThan(15);
	});
});

describe('positions and flips', () => {
	const plan = of('open-trough');
	const positions = positionsOf(assemblyMesh(plan));
	it('a seam on the left end is welded with that end up or one beside it', () => {
		for (const j of plan.joints) expect(positions.get(j.id)!.length).toBeGreaterThan(0);
		expect(positions.get('bl')).not.toContain('right');
	});
	it('grouping keeps every run and never adds a flip', () =>
		fc.assert(
			fc.property(fc.shuffledSubarray([...plan.runs.keys()], { minLength: plan.runs.length }), (order) => {
				const runs = order.map((i) => plan.runs[i]);
				const grouped = groupByPosition(runs, positions);
				expect(grouped.map((r) => r.id).sort()).toEqual(runs.map((r) => r.id).sort());
				expect(flipsOf(liesFor(grouped, positions))).toBeLessThanOrEqual(flipsOf(liesFor(runs, positions)));
			}),
			{ numRuns: 30 }
		));
	it('each run lies in a position it may be welded in', () => {
		liesFor(plan.runs, positions).forEach((u, i) => expect(positions.get(plan.runs[i].joint) ?? UP_AXES).toContain(u));
	});
});

describe('edits by hand', () => {
	const runs = of('open-trough').runs;
	const ids = (...at: number[]) => new Set(at.map((i) => runs[i].id));
	it('moves a group and keeps its own sequence', () => {
		const out = moveRuns(runs, ids(1, 4), 8);
		expect(out.map((r) => r.id).sort()).toEqual(runs.map((r) => r.id).sort());
		const at = [1, 4].map((i) => out.findIndex((r) => r.id === runs[i].id));
		expect(at[1]).toBe(at[0] + 1);
		expect(nudgeRuns(nudgeRuns(runs, ids(3), 1), ids(3), -1).map((r) => r.id)).toEqual(runs.map((r) => r.id));
		expect(nudgeRuns(runs, ids(0), -1)).toEqual(runs);
	});
	it('nothing moves a locked run', () => {
		const locked = lockRuns(runs, ids(3), true);
		expect(() => moveRuns(locked, ids(3), 0)).toThrow(/locked/);
		expect(moveRuns(locked, ids(6), 0)[3]).toEqual(locked[3]);
		expect(lockRuns(locked, ids(3), false)).toEqual(runs);
		for (const edit of [() => splitRuns(locked, ids(3), 2), () => joinRuns(locked, ids(3, 4)), () => backStepRuns(locked, ids(3, 4))])
			expect(edit).toThrow(/locked/i);
	});
	it('split and join undo each other', () => {
		const split = splitRuns(runs, ids(0), 2);
		expect(split).toHaveLength(runs.length + 1);
		const back = joinRuns(split, new Set([split[0].id, split[1].id]));
		expect(back).toEqual(runs);
		expect(() => splitRuns(runs, ids(0), 50)).toThrow(/at least 5 mm/);
		expect(() => joinRuns(runs, ids(0))).toThrow(/two or more/);
		const other = runs.findIndex((r) => r.joint !== runs[0].joint);
		expect(() => joinRuns(runs, ids(0, other))).toThrow(/different seams/);
		const own = runs.flatMap((r, i) => (r.joint === runs[0].joint ? [i] : []));
		if (own.length > 2) expect(() => joinRuns(runs, ids(own[0], own[2]))).toThrow(/only runs that touch/);
	});
	it('a bound moves with the run that meets it: the seam stays covered, once, whatever is dragged where', () => {
		const plan = of('open-trough');
		const runs = orderPattern(plan, { pattern: 'back-step', runLengthMm: 60 });
		const covered = (list: typeof runs) =>
			plan.joints.map((j) =>
				list
					.filter((r) => r.joint === j.id)
					.map((r) => [Math.min(r.fromMm, r.toMm), Math.max(r.fromMm, r.toMm)])
					.sort((p, q) => p[0] - q[0])
			);
		fc.assert(
			fc.property(
				fc.nat(runs.length - 1),
				fc.constantFrom('low' as const, 'high' as const),
				fc.double({ min: 0, max: 1, noNaN: true }),
				(i, end, share) => {
					const run = runs[i];
					const seamMm = pathLength(plan.joints.find((j) => j.id === run.joint)!.a.path);
					const [lo, hi] = boundRange(runs, run.id, end, seamMm)!;
					const to = lo + share * (hi - lo);
					const next = moveBound(runs, run.id, end, to);
					expect(next.map((r) => r.id)).toEqual(runs.map((r) => r.id));
					const mine = next[i];
					expect(end === 'low' ? Math.min(mine.fromMm, mine.toMm) : Math.max(mine.fromMm, mine.toMm)).toBeCloseTo(to, 9);
					// directions stay, nothing is shorter than an arc is worth, and runs still meet end to end
					next.forEach((r, k) => {
						expect(Math.sign(r.toMm - r.fromMm)).toBe(Math.sign(runs[k].toMm - runs[k].fromMm));
						expect(Math.abs(r.toMm - r.fromMm)).toBeGreaterThanOrEqual(5 - 1e-9);
					});
					for (const list of covered(next)) for (let k = 1; k < list.length; k++) expect(list[k][0]).toBeCloseTo(list[k - 1][1], 6);
				}
			),
			{ numRuns: 60 }
		);
		const locked = runs.map((r, i) => (i === 0 ? { ...r, locked: true } : r));
		expect(boundRange(locked, runs[0].id, 'low', 500)).toBeUndefined();
		expect(() => moveBound(locked, runs[0].id, 'high', 20)).toThrow(/unlock/);
	});
	it('reverse twice is nothing; back-step points against the progress', () => {
		expect(reverseRuns(reverseRuns(runs, ids(2, 3)), ids(2, 3))).toEqual(runs);
		const forward = orderPattern(of('open-trough'), { pattern: 'straight-through', runLengthMm: 50 });
		const own = new Set(forward.filter((r) => r.joint === forward[0].joint).map((r) => r.id));
		const stepped = backStepRuns(forward, own).filter((r) => own.has(r.id));
		const progress = Math.sign(stepped[1].toMm - stepped[0].toMm);
		for (const r of stepped) expect(Math.sign(r.toMm - r.fromMm)).toBe(-progress);
	});
	it('cooling is set and taken away', () => {
		const cooled = coolBefore(runs, ids(1), 'fan');
		expect(cooled[1].cooling).toBe('fan');
		expect(coolBefore(cooled, ids(1), 'still')).toEqual(runs);
	});
});
