/** Looking for what went wrong: readings made by a known cause, and the cause found again. */
import { describe, expect, it } from 'vitest';
import { uniformFrom } from '../linalg/random';
import type { PieceReading } from './readings';
import type { Sensitivity } from './sensitivity';
import { BARE_MENTION, IS_ODD, whatWentWrong } from './whatWrong';

const CAUSES = ['gap of “Left”', 'how well “Bar” touches', 'how stiffly the clamps hold'];
/** by feature, what each cause moves at its 90 % end */
const MOVES = [
	[0.3, 0.05, 0.02],
	[0.02, 0.25, 0.05],
	[0.1, 0.1, 0.1],
	[0.05, -0.2, 0.2],
	[0.2, 0.02, -0.1]
];
const sensitivities = MOVES.map((moves, i): Sensitivity => ({
	feature: `f${i}`,
	name: `Feature ${i}`,
	kind: 'length',
	unit: 'mm',
	moment: 'unclamped',
	depth: 'final-shape',
	predicted: i,
	slopes: [0.1, 0.2, 0.05],
	spread: 0.2,
	causes: moves.map((m, k) => ({ label: CAUSES[k], low: -Math.abs(m), high: m }))
}));
const expected = (s: Sensitivity) => s.predicted;
const read = (off: readonly number[], only = [0, 1, 2, 3, 4]): PieceReading[] =>
	only.map((i) => ({ id: `r${i}`, feature: `f${i}`, moment: 'unclamped', value: i + off[i], uncertainty90: 0.08, at: i }));

describe('what went wrong', () => {
	it('each cause, three times as far out as is usual, is named first, with how much of it there was and what it leaves', () => {
		CAUSES.forEach((label, k) => {
			const { suspects } = whatWentWrong(sensitivities, read(MOVES.map((m) => 3 * m[k])), expected);
			expect(suspects[0].label).toBe(label);
			expect(suspects[0].amount).toBeGreaterThan(2);
			expect(suspects[0].amount).toBeLessThan(3.5);
			for (const e of suspects[0].explains) expect(Math.abs(e.left)).toBeLessThanOrEqual(Math.abs(e.off) + 0.05);
		});
	});
	it('the sign is left open: a gap that was closed instead of open is as much the gap', () => {
		const { suspects } = whatWentWrong(sensitivities, read(MOVES.map((m) => -3 * m[0])), expected);
		expect(suspects[0].label).toBe(CAUSES[0]);
		expect(suspects[0].amount).toBeLessThan(-2);
	});
	it('one reading that nothing explains is that reading', () => {
		const { suspects } = whatWentWrong(sensitivities, read([0, 0, 4, 0, 0]), expected);
		expect(suspects[0].label).toBe('the reading of “Feature 2” is wrong');
	});
	it('features that do not go together as the forecast has it: the forecast errs before a reading is blamed', () => {
		// two that the causes move in step, far apart, each within a few of its own doubts
		const step = (i: number): Sensitivity => ({
			...sensitivities[0],
			feature: `f${i}`,
			name: `Feature ${i}`,
			spread: 2,
			causes: [{ label: 'pull', low: -3, high: 3 }]
		});
		const two = [step(0), step(1)];
		const { suspects } = whatWentWrong(two, read([0, -6], [0, 1]), (s) => two.indexOf(s as never));
		expect(suspects[0].label).toBe('the forecast itself errs in “Feature 1”');
		expect(suspects[1].label).toBe('the reading of “Feature 1” is wrong');
	});
	it('a kind that the shop has seen the forecast err in is not odd when it errs again', () => {
		const off = read([0, 0, 0.5, 0, 0]);
		const known = whatWentWrong(sensitivities, off, expected, () => 3);
		expect(known.chance).toBeGreaterThan(10 * whatWentWrong(sensitivities, off, expected).chance);
	});
	it('a reading that may be wrong is read once more', () => {
		const { suspects, next } = whatWentWrong(sensitivities, read([0, 0, 1.2, 0, 0]), expected);
		expect(suspects.slice(0, 2).some((s) => s.label === 'the reading of “Feature 2” is wrong')).toBe(true);
		expect(next?.feature).toBe('f2');
	});
	it('readings as the forecast has them point at nothing; ordinary scatter hardly ever does', () => {
		expect(whatWentWrong(sensitivities, read([0, 0, 0, 0, 0]), expected)).toMatchObject({ suspects: [], chance: 1 });
		const u = uniformFrom(11);
		const next = () => Math.sqrt(-2 * Math.log(1 - u())) * Math.cos(2 * Math.PI * u());
		let strong = 0;
		let odd = 0;
		for (let i = 0; i < 100; i++) {
			const z = [next(), next(), next()];
			const off = MOVES.map((m) => (m[0] * z[0] + m[1] * z[1] + m[2] * z[2]) / 1.645 + (0.08 / 1.645) * next());
			const wrong = whatWentWrong(sensitivities, read(off), expected);
			if (wrong.suspects.some((s) => s.logBayes > Math.log(20))) strong++;
			if (wrong.chance < IS_ODD) odd++;
		}
		// one in twenty by its meaning; the heat’s own share of the doubt makes it fewer
		expect(odd).toBeLessThanOrEqual(9);
		expect(strong).toBeLessThanOrEqual(5);
	});
	it('the Bayes factor is the ratio of two normal densities, written out for one reading', () => {
		// one reading, one cause of standard deviation d: variance s² + d² against s² + 16 d² (the heat moves nothing here)
		const only = [{ ...sensitivities[0], slopes: [0, 0, 0] as [number, number, number], causes: [{ label: 'gap', low: -0.3, high: 0.3 }] }];
		const off = 0.9;
		// the reading's own doubt, and a quarter of the forecast's as its own error in this feature
		const [d2, s2] = [(0.3 / 1.645) ** 2, (0.08 / 1.645) ** 2 + (0.25 * 0.2) ** 2];
		const density = (v: number) => Math.exp((-0.5 * off ** 2) / v) / Math.sqrt(2 * Math.PI * v);
		const { suspects } = whatWentWrong(only, read([off], [0]), expected);
		const gap = suspects.find((s) => s.label === 'gap')!;
		expect(Math.exp(gap.logBayes) / (density(s2 + 16 * d2) / density(s2 + d2))).toBeCloseTo(1, 9);
		expect(gap.logBayes).toBeGreaterThan(Math.log(BARE_MENTION));
	});
	it('where two would do, the unread feature on which they part most is asked for', () => {
		// features 2 and 4 only: gap and clamps both could be it
		const { suspects, next } = whatWentWrong(
			sensitivities,
			read(
				MOVES.map((m) => 3 * m[1]),
				[1]
			),
			expected
		);
		expect(suspects.length).toBeGreaterThan(1);
		expect(next?.feature).not.toBe('f1');
		expect(next!.apart).toBeGreaterThan(0.5);
	});
	it('of two that would tell, the one that is read in a minute; of those that would not, the one that says most a minute', () => {
		const asked = (kinds: string[], apart: number[]) => {
			// the heat moves nothing here; the first cause was read, the others part the two
			const made = [0, ...apart].map((m, i): Sensitivity => ({
				...sensitivities[0],
				feature: `f${i}`,
				kind: i ? kinds[i - 1] : 'length',
				slopes: [0, 0, 0],
				spread: 0.1,
				causes: [
					{ label: 'a', low: i ? -m : -0.3, high: i ? m : 0.3 },
					{ label: 'b', low: i ? m : -0.3, high: i ? -m : 0.3 }
				]
			}));
			return whatWentWrong(made, [{ id: 'r', feature: 'f0', moment: 'unclamped', value: 1.2, uncertainty90: 0.08, at: 0 }], () => 0).next;
		};
		expect(asked(['flatness', 'length'], [0.9, 0.6])).toMatchObject({ feature: 'f2', minutes: 1 });
		expect(asked(['length', 'flatness'], [0.012, 0.014])?.feature).toBe('f1');
		expect(asked(['length', 'flatness'], [0.006, 0.018])?.feature).toBe('f2');
	});
	it('nothing read, nothing said', () => expect(whatWentWrong(sensitivities, [], expected)).toEqual({ suspects: [], chance: 1, count: 0 }));
});
