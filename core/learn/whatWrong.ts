/**
 * Why a piece came out otherwise than its band: each cause that could be behind it, weighed by how well it explains all the readings of
 * the finished piece together. What a cause moves is the forecast's own sensitivity; how much of it there was is left open, as wide as
 * things are when they have gone wrong. Against "nothing in particular", by Bayes factors (R. E. Kass and A. E. Raftery 1995, Journal of
 * the American Statistical Association 90, 773-795).
 */
import jStat from 'jstat';
import { DenseCholesky } from '../linalg/dense';
import type { FeatureKind } from '../document/words';
import { Z90 } from '../factors/factors';
import type { PieceReading } from './readings';
import type { Sensitivity } from './sensitivity';

export interface Suspect {
	label: string;
	/** natural logarithm of how many times better than nothing in particular it explains all readings: a wild slip goes beyond any number */
	logBayes: number;
	/** of its usual 90 % end: how much of it there would have been */
	amount: number;
	/** by feature: how far the finished piece is off, and would be if this were so, in the feature's unit */
	explains: { feature: string; name: string; off: number; left: number; unit: 'mm' | '°' }[];
}

export interface WhatWrong {
	suspects: Suspect[];
	/** the cheapest reading that would tell the first two apart, else the one that says most a minute: how far they part there, in standard deviations */
	next?: { feature: string; name: string; apart: number; minutes: number };
	/** of pieces with nothing in particular wrong, the share whose readings lie together as far from the forecast (chi-squared) */
	chance: number;
	count: number;
}

/** A piece that one in twenty is as odd as is odd enough to look for a cause. */
export const IS_ODD = 0.05;

/** What has gone wrong is so many times as far out as its usual doubt (own estimate). */
const GONE_WRONG = 4;
/** A slip of a reading, a wrong digit or a wrong unit, is so many times as far out as its own doubt (own estimate). */
const SLIP = 100;
/** A slip of a reading is so many times rarer than any other cause: what explains as well comes before it (own estimate). */
export const SLIP_RARER = 5;
/** Less than this is not worth a bare mention (Kass and Raftery, table on p. 777: 1 to 3.2). */
export const BARE_MENTION = 3.2;
/** Below this share of the doubt of each reading a cause says nothing. */
const NOTHING = 1e-3;

/** The part of its doubt by which a forecast errs in each feature by itself, whatever causes it knows: they never move all together as it says (own estimate). */
const OF_ITS_OWN = 0.25;

interface Cause {
	label: string;
	/** what is put right by reading this feature once more */
	reading?: string;
	/** by row, one standard deviation of it */
	moves: number[];
	/** how many standard deviations out it is when it has gone wrong */
	wide: number;
}

/**
 * @param sensitivities of the plan as it was run, with the shop's factors in `expected` @param readings of the finished piece
 * @param expected by feature, with the shop's factors
 * @param form by kind of feature, how many times as far as its own band says the forecast errs, as the shop's readings have it
 */
export function whatWentWrong(
	sensitivities: readonly Sensitivity[],
	readings: readonly PieceReading[],
	expected: (s: Sensitivity) => number,
	form: (kind: string) => number = () => 1
): WhatWrong {
	const free = sensitivities.filter((s) => s.moment === 'unclamped' && s.depth !== 'quick');
	// the last reading of a feature is how the piece is
	const last = new Map(readings.filter((r) => r.moment === 'unclamped').map((r) => [r.feature, r]));
	const rows = free.flatMap((s) => {
		const reading = last.get(s.feature);
		return reading ? [{ s, reading, off: reading.value - expected(s) }] : [];
	});
	const n = rows.length;
	if (!n) return { suspects: [], chance: 1, count: 0 };
	const errs = formOf(free, form);
	const causes = [...causesOf(free), ...errs];
	const at = (c: Cause) => rows.map(({ s }) => c.moves[free.indexOf(s)]);
	const usual = covarianceOf(
		rows.map(({ reading }) => reading.uncertainty90 / Z90),
		causes.map(at)
	);
	const off = rows.map((r) => r.off);
	const factor = new DenseCholesky(usual, n);
	const plain = solved(factor, off);
	const distance = dot(plain, off);
	const slips = rows.map(({ s, reading }, i): Cause & { own: number } => ({
		label: `the reading of “${s.name}” is wrong`,
		reading: s.feature,
		moves: free.map((f) => (f === s ? reading.uncertainty90 / Z90 : 0)),
		wide: SLIP,
		own: i
	}));
	const suspects = [...causes, ...slips]
		.flatMap((c): { cause: Cause; suspect: Suspect }[] => {
			const d = at(c);
			if (!d.some((v, i) => Math.abs(v) > NOTHING * Math.sqrt(usual[n * i + i]))) return [];
			// usual covariance and what this adds to it when it has gone wrong: a rank-one change (matrix determinant lemma)
			const w = c.wide ** 2 - 1;
			const s = solved(factor, d);
			const [dd, dy] = [dot(d, s), dot(d, plain)];
			const grown = 1 + w * dd;
			const logFactor = -0.5 * Math.log(grown) + (0.5 * w * dy ** 2) / grown;
			// how much of it there was, all told: its usual scatter and what came on top
			const amount = ((1 + w) * dy) / grown;
			return [
				{
					cause: c,
					suspect: {
						label: c.label,
						logBayes: logFactor,
						amount: amount / Z90,
						explains: rows.map(({ s: f, off: o }, i) => ({ feature: f.feature, name: f.name, off: o, left: o - amount * d[i], unit: f.unit }))
					}
				}
			];
		})
		.filter(({ suspect }) => suspect.logBayes > Math.log(BARE_MENTION))
		.sort((p, q) => likely(q) - likely(p));
	return { suspects: suspects.map((x) => x.suspect), next: tellApart(rows, free, suspects), chance: 1 - jStat.chisquare.cdf(distance, n), count: n };
}

/** Every cause of the bands by its name, and the heat as a whole: more of it pulls, shrinks and turns more. */
function causesOf(free: readonly Sensitivity[]): Cause[] {
	const labels = [...new Set(free.flatMap((s) => s.causes.map((c) => c.label)))];
	const named = labels.map((label): Cause => {
		const moves = free.map((s) => {
			const c = s.causes.find((x) => x.label === label);
			// one-sided causes by the end that is farther out
			return c ? (Math.abs(c.high) >= Math.abs(c.low) ? c.high : c.low) / Z90 : 0;
		});
		return { label, moves, wide: GONE_WRONG };
	});
	const heat = free.map((s) => 0.1 * (s.slopes[0] + s.slopes[1] + s.slopes[2]));
	return [{ label: 'more or less heat went in than is set', moves: heat, wide: GONE_WRONG }, ...named];
}

const likely = ({ cause, suspect }: { cause: Cause; suspect: Suspect }) => suspect.logBayes - (cause.reading ? Math.log(SLIP_RARER) : 0);

/** The forecast's own error in one feature alone. */
const formOf = (free: readonly Sensitivity[], form: (kind: string) => number): Cause[] =>
	free.map((s) => {
		const own = Math.hypot(OF_ITS_OWN, Math.sqrt(Math.max(0, form(s.kind) ** 2 - 1)));
		return {
			label: `the forecast itself errs in “${s.name}”`,
			moves: free.map((f) => (f === s ? own * s.spread : 0)),
			// as far out as any cause gone wrong, of its whole doubt
			wide: (GONE_WRONG * Math.max(1, form(s.kind))) / own
		};
	});

function covarianceOf(own: readonly number[], causes: readonly (readonly number[])[]): Float64Array {
	const n = own.length;
	const a = new Float64Array(n * n);
	for (let i = 0; i < n; i++) {
		a[n * i + i] = own[i] ** 2;
		for (let j = 0; j < n; j++) for (const d of causes) a[n * i + j] += d[i] * d[j];
	}
	return a;
}

function solved(f: DenseCholesky, b: readonly number[]): number[] {
	const side = new Float64Array(4 * f.n);
	b.forEach((v, i) => (side[4 * i] = v));
	f.solveLeading4(side, f.n);
	return b.map((_, i) => side[4 * i]);
}
const dot = (a: readonly number[], b: readonly number[]) => a.reduce((s, v, i) => s + v * b[i], 0);

/** Minutes to set up and read a feature by its usual way (own estimates). */
const MINUTES: Record<FeatureKind, number> = { flatness: 5, straightness: 2, length: 1, squareness: 2, angle: 1, twist: 1 };
/** Two causes that part by so many standard deviations are told apart by one reading. */
const TELLS = 2;
const HARDLY = 0.5;

interface Row {
	s: Sensitivity;
	reading: PieceReading;
	off: number;
}
/** The cheapest reading on which the first two part enough, else where a minute says most: a feature that nobody has read, or once more the one whose reading may be wrong. */
function tellApart(
	rows: readonly Row[],
	free: readonly Sensitivity[],
	[first, second]: readonly { cause: Cause; suspect: Suspect }[]
): WhatWrong['next'] {
	if (!first || !second) return undefined;
	const doubted = [first, second].flatMap(({ cause }) => cause.reading ?? []);
	const could = free.flatMap((s, k) => {
		const minutes = MINUTES[s.kind as FeatureKind];
		const read = rows.find((r) => r.s === s);
		if (!read)
			return [
				{
					s,
					minutes,
					apart: (Math.abs(first.suspect.amount * first.cause.moves[k] - second.suspect.amount * second.cause.moves[k]) * Z90) / s.spread
				}
			];
		// wrong, it comes out as foretold this time; right, as it did
		return doubted.includes(s.feature) ? [{ s, minutes, apart: Math.abs(read.off) / Math.hypot(s.spread, read.reading.uncertainty90 / Z90) }] : [];
	});
	const telling = could.filter((u) => u.apart >= TELLS).sort((p, q) => p.minutes - q.minutes || q.apart - p.apart);
	// what a reading says goes with the square of how far they part in it
	const worth = (u: (typeof could)[0]) => u.apart ** 2 / u.minutes;
	const best = telling[0] ?? [...could].sort((p, q) => worth(q) - worth(p))[0];
	return best && best.apart > HARDLY ? { feature: best.s.feature, name: best.s.name, apart: best.apart, minutes: best.minutes } : undefined;
}
