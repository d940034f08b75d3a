/** Edits by hand, in any sequence: no length of seam is lost or welded twice, locked runs stay, and what is refused changes nothing. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { backStepRuns, boundRange, coolBefore, joinRuns, lockRuns, moveBound, moveRuns, nudgeRuns, reverseRuns, splitRuns } from './orderEdit';
import type { Run } from '../document/schema';

const SEAM_MM = 200;
const run = (id: string, joint: string, fromMm: number, toMm: number): Run =>
	({ id, joint, fromMm, toMm, pass: 1, technique: 'forehand' }) as unknown as Run;
/** two seams, four runs each */
const start = (): Run[] => ['a', 'b'].flatMap((joint) => [0, 1, 2, 3].map((i) => run(`${joint}${i}`, joint, i * 50, (i + 1) * 50)));
const ids = (...list: string[]) => new Set(list);
const low = (r: Run) => Math.min(r.fromMm, r.toMm);
const high = (r: Run) => Math.max(r.fromMm, r.toMm);
/** every seam from end to end, once */
function whole(runs: readonly Run[]) {
	expect(new Set(runs.map((r) => r.id)).size).toBe(runs.length);
	for (const joint of ['a', 'b']) {
		const own = runs.filter((r) => r.joint === joint).sort((p, q) => low(p) - low(q));
		expect(low(own[0])).toBe(0);
		expect(high(own[own.length - 1])).toBe(SEAM_MM);
		own.slice(1).forEach((r, i) => expect(low(r)).toBeCloseTo(high(own[i]), 9));
	}
}

type Edit = (runs: Run[]) => Run[];
const pick = fc.uniqueArray(fc.nat({ max: 11 }), { minLength: 1, maxLength: 4 });
const some = (runs: readonly Run[], at: readonly number[]) => new Set(at.map((i) => runs[i % runs.length].id));
const edits: fc.Arbitrary<Edit> = fc.oneof(
	fc.tuple(pick, fc.nat({ max: 12 })).map(
		([p, to]): Edit =>
			(r) =>
				moveRuns(r, some(r, p), Math.min(to, r.length))
	),
	fc.tuple(pick, fc.constantFrom(-1 as const, 1 as const)).map(
		([p, by]): Edit =>
			(r) =>
				nudgeRuns(r, some(r, p), by)
	),
	pick.map(
		(p): Edit =>
			(r) =>
				reverseRuns(r, some(r, p))
	),
	fc.tuple(pick, fc.integer({ min: 2, max: 4 })).map(
		([p, n]): Edit =>
			(r) =>
				splitRuns(r, some(r, p), n)
	),
	pick.map(
		(p): Edit =>
			(r) =>
				joinRuns(r, some(r, p))
	),
	pick.map(
		(p): Edit =>
			(r) =>
				backStepRuns(r, some(r, p))
	),
	fc.tuple(pick, fc.boolean()).map(
		([p, on]): Edit =>
			(r) =>
				lockRuns(r, some(r, p), on)
	),
	fc.tuple(pick, fc.constantFrom('still' as const, 'fan' as const)).map(
		([p, c]): Edit =>
			(r) =>
				coolBefore(r, some(r, p), c)
	),
	fc
		.tuple(fc.nat({ max: 11 }), fc.constantFrom('low' as const, 'high' as const), fc.double({ min: 0, max: 1, noNaN: true }))
		.map(([i, end, share]): Edit => (r) => {
			const one = r[i % r.length];
			const range = boundRange(r, one.id, end, SEAM_MM);
			// the seam's own ends stay where they are: here every seam is welded all along
			const outer = end === 'low' ? low(one) === 0 : high(one) === SEAM_MM;
			return !range || outer || range[1] < range[0] ? r : moveBound(r, one.id, end, range[0] + share * (range[1] - range[0]));
		})
);

describe('edits of an order', () => {
	it('any sequence of them leaves every seam whole, and each leaves locked runs where and as they were', () =>
		fc.assert(
			fc.property(fc.array(edits, { maxLength: 25 }), (list) => {
				let runs = start();
				for (const edit of list) {
					const before = structuredClone(runs);
					let next: Run[];
					try {
						next = edit(runs);
					} catch (e) {
						// refused in words, and nothing is touched
						expect(e).toBeInstanceOf(RangeError);
						expect((e as Error).message.length).toBeGreaterThan(20);
						expect(runs).toEqual(before);
						continue;
					}
					expect(runs).toEqual(before);
					whole(next);
					const isLockChange = next.some((r) => before.some((b) => b.id === r.id && Boolean(b.locked) !== Boolean(r.locked)));
					if (!isLockChange && next.length === before.length)
						before.forEach((r, i) => {
							if (r.locked) expect([next[i].id, low(next[i]), high(next[i])]).toEqual([r.id, low(r), high(r)]);
						});
					runs = next;
				}
			}),
			{ numRuns: 300 }
		));
	it('a group keeps its own sequence when it moves, and stands before the place it was put', () => {
		const out = moveRuns(start(), ids('a3', 'a0', 'b1'), 6).map((r) => r.id);
		expect(out).toEqual(['a1', 'a2', 'b0', 'a0', 'a3', 'b1', 'b2', 'b3']);
	});
	it('at the ends a nudge does nothing', () => {
		expect(nudgeRuns(start(), ids('a0'), -1)).toEqual(start());
		expect(nudgeRuns(start(), ids('b3'), 1)).toEqual(start());
		expect(nudgeRuns(start(), ids(), 1)).toEqual(start());
	});
	it('split and joined again it is the run it was, but for its wait, which the first part keeps', () => {
		const runs = start().map((r) => (r.id === 'a1' ? { ...r, waitBeforeS: 60 } : r));
		const parts = splitRuns(runs, ids('a1'), 3);
		expect(parts.filter((r) => r.waitBeforeS === 60)).toHaveLength(1);
		const made = parts.filter((r) => r.joint === 'a' && low(r) >= 50 && high(r) <= 100).map((r) => r.id);
		expect(made).toHaveLength(3);
		expect(joinRuns(parts, new Set(made))).toEqual(runs);
	});
	it('back-stepping points each run against the way they progress, whichever way that is', () => {
		for (const list of [start(), [...start()].reverse()]) {
			const out = backStepRuns(list, ids('a0', 'a1', 'a2', 'a3')).filter((r) => r.joint === 'a');
			const onwards = low(out[1]) > low(out[0]);
			for (const r of out) expect(r.toMm < r.fromMm).toBe(onwards);
		}
	});
	it.each([
		[() => splitRuns(start(), ids('a0'), 20), /at least 5 mm/],
		[() => joinRuns(start(), ids('a0')), /two or more/],
		[() => joinRuns(start(), ids('a0', 'b0')), /different seams/],
		[() => joinRuns(start(), ids('a0', 'a2')), /Between 50 and 100 mm/],
		[() => moveRuns(lockRuns(start(), ids('a0'), true), ids('a0'), 3), /unlock it first/],
		[() => moveBound(lockRuns(start(), ids('a1'), true), 'a0', 'high', 40), /unlock it first/]
	])('says why it cannot be: %#', (edit, why) => {
		expect(edit).toThrow(why);
	});
});
