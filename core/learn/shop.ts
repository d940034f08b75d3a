/**
 * What a shop's readings say of its factors, all at once: one set of factors for every context, going together as far as the contexts
 * are alike; pieces that come out each a little their own way; a forecast that errs besides, by how much is learned from the readings.
 * Gaussian in the factors' logarithms, Gauss-Newton on the log-posterior, Huber's leash on what is far off (docs/theory/learning.md).
 */
import { FACTOR_NAMES, multipliers, priorFactors, Z90, type ShopFactors } from '../factors/factors';
import type { Sensitivity } from './sensitivity';
import { DenseCholesky } from '../linalg/dense';
import { alike, isSame, type Context } from './context';

export interface Evidence {
	reading: string;
	piece: string;
	context: Context;
	/** kind of the feature: how far the forecast errs is learned by it */
	kind: string;
	label: string;
	unit: 'mm' | '°';
	measured: number;
	/** standard uncertainty of the reading */
	sigma: number;
	/** the forecast with every factor at 1 */
	predicted: number;
	/** the same in the other shape that the piece may take */
	other?: number;
	/** change of the value for each unit of the multiplier on force, shrinkage and angle */
	slopes: readonly [number, number, number];
	/** standard uncertainty of the forecast, its factors apart */
	spread: number;
	/** ms since 1970 */
	at: number;
}

export interface Weighed extends Evidence {
	/** with the factors of its context, as learned from all pieces */
	after: number;
	/** standard uncertainty of that for the next piece, the reading's own apart */
	afterSigma: number;
	/** predicted from all other pieces, and the standard uncertainty of that, the reading's own in it */
	alone: number;
	aloneSigma: number;
	/** farther than three of these from it: kept, on a leash */
	isOutlier: boolean;
	/** what it does to each factor of its context, by the logarithm: with it less without it, all other readings kept */
	moves: number[];
}

export interface Shop {
	/** factors for each context that was asked about, in that order */
	asked: ShopFactors[];
	rows: Weighed[];
	/** by kind: how many times as far as its own band says the forecast errs, factors apart */
	form: Record<string, { times: number; readings: number }>;
	iterations: number;
	converged: boolean;
}

const N = FACTOR_NAMES.length;
/** Beyond this many standard deviations a reading pulls with a constant force (Huber 1964). */
const HUBER = 2;
const FLAGGED = 3;
/** How far a piece's own factors lie from its shop's, logarithm, one standard deviation: force, shrinkage, angle (own estimate). */
const OWN_WAY = 0.08;
/** The forecast's own doubt, before any reading, counts as much as this many readings of a kind. */
const DOUBT_WORTH = 6;
/** Rounds of learning how far the forecast errs. */
const ROUNDS = 4;
const MOST_STEPS = 40;
const SETTLED = 1e-9;
/** of a factor's prior variance, so that like contexts leave the matrix sound */
const JITTER = 1e-9;

/** @param asked contexts that no reading need have been made in */
export function learnShop(evidence: readonly Evidence[], asked: readonly Context[]): Shop {
	const contexts: Context[] = [];
	const indexOf = (c: Context) => {
		const found = contexts.findIndex(
			(o) => o.group === c.group && o.thicknessMm === c.thicknessMm && o.technique === c.technique && o.isOnBar === c.isOnBar
		);
		return found >= 0 ? found : contexts.push(c) - 1;
	};
	const rows = evidence.map((e) => ({ ...e, c: indexOf(e.context) }));
	const wanted = asked.map(indexOf);
	const byPiece = new Map<string, Row[]>();
	for (const r of rows) byPiece.set(r.piece, [...(byPiece.get(r.piece) ?? []), r]);
	const pieces = [...byPiece.values()];
	const inverse = inversePrior(contexts);
	const times = new Map(rows.map((r) => [r.kind, 1]));
	let fit = fitted(pieces, contexts.length, inverse, times);
	let alone = leftOut(pieces, fit, times);
	for (let round = 1; round < ROUNDS && rows.length; round++) {
		learnForm(rows, alone, times);
		fit = fitted(pieces, contexts.length, inverse, times, fit.x);
		alone = leftOut(pieces, fit, times);
	}
	const count = (kind: string) => rows.filter((r) => r.kind === kind).length;
	return {
		asked: wanted.map((c) => factorsIn(c, contexts, rows, fit, times)),
		rows: rows.map(({ c, ...e }) => {
			const { value, sigma, moves } = alone.get(e.reading)!;
			return {
				...e,
				moves,
				after: valueAt(e, logOf(fit.x, c)),
				afterSigma: Math.sqrt(spreadOf(e, slopesAt(e, logOf(fit.x, c)), fit.blocks[c], times)),
				alone: value,
				aloneSigma: sigma,
				isOutlier: Math.abs(e.measured - value) > FLAGGED * sigma
			};
		}),
		form: Object.fromEntries([...times].map(([kind, t]) => [kind, { times: t, readings: count(kind) }])),
		iterations: fit.iterations,
		converged: fit.converged
	};
}

type Row = Evidence & { c: number };
type Times = ReadonlyMap<string, number>;

interface Fit {
	/** logarithms, FACTOR_NAMES by context */
	x: Float64Array;
	/** of them, the covariance within each context */
	blocks: Float64Array[];
	/** by piece: what it adds to the information of its context, and its pull on it at x */
	own: { c: number; info: Float64Array; pull: Float64Array }[];
	iterations: number;
	converged: boolean;
}

const logOf = (x: Float64Array, c: number) => x.subarray(N * c, N * c + N);

/** The forecast with given logarithms of the factors; of two shapes the one that is nearer to what was measured. */
export function valueAt(e: Pick<Evidence, 'predicted' | 'other' | 'slopes' | 'measured'>, log: ArrayLike<number>): number {
	const m = multipliers(log);
	const moved = e.slopes[0] * (m.force - 1) + e.slopes[1] * (m.shrinkage - 1) + e.slopes[2] * (m.angle - 1);
	if (e.other === undefined) return e.predicted + moved;
	const off = (v: number) => Math.abs(v + moved - e.measured);
	return (off(e.other) < off(e.predicted) ? e.other : e.predicted) + moved;
}

/** Change of the value for each unit of each logarithm. */
function slopesAt(e: Pick<Evidence, 'slopes'>, log: ArrayLike<number>): number[] {
	const m = multipliers(log);
	const by = [e.slopes[0] * m.force, e.slopes[1] * m.shrinkage, e.slopes[2] * m.angle];
	return [by[0] + by[1] + by[2], ...by];
}

/** Standard deviations of a piece's own way, by logarithm: the heat has none of its own. */
const OWN = [0, OWN_WAY, OWN_WAY, OWN_WAY];

/** From one piece to the next, one standard deviation: each goes its own way, and so does each of its seams where the depth tells them apart. */
export function pieceScatter({ slopes, causes }: Pick<Sensitivity, 'slopes' | 'causes'>): number {
	return Math.hypot(...slopes.map((v) => v * OWN_WAY), seamScatter({ causes }));
}
/** The part of that which is a seam's own, and which a forecast's spread already holds. */
export const seamScatter = ({ causes }: Pick<Sensitivity, 'causes'>): number =>
	Math.hypot(...causes.filter((c) => c.label.startsWith('seam ')).map((c) => (c.high - c.low) / (2 * Z90)));

const doubt = (e: Evidence, times: Times) => Math.hypot(e.sigma, times.get(e.kind)! * e.spread);

/** Covariances of each factor over the contexts, inverted. */
function inversePrior(contexts: readonly Context[]): Float64Array[] {
	const n = contexts.length;
	const { covariance } = priorFactors();
	return FACTOR_NAMES.map((_, i) => {
		const k = new Float64Array(n * n);
		for (let p = 0; p < n; p++)
			for (let q = 0; q < n; q++) k[n * p + q] = covariance[i * N + i] * (alike(contexts[p], contexts[q]) + (p === q ? JITTER : 0));
		return inverted(k, n);
	});
}

function inverted(a: Float64Array, n: number): Float64Array {
	const out = new Float64Array(n * n);
	const f = new DenseCholesky(a, n);
	for (let c = 0; c < n; c += 4) {
		const e = unitColumns(f, c);
		for (let r = 0; r < n; r++) for (let k = 0; k < 4 && c + k < n; k++) out[n * r + c + k] = e[4 * r + k];
	}
	return out;
}

/** Columns of the inverse, four side by side. */
function unitColumns(f: DenseCholesky, from: number): Float64Array {
	const e = new Float64Array(4 * f.n);
	for (let k = 0; k < 4 && from + k < f.n; k++) e[4 * (from + k) + k] = 1;
	f.solveLeading4(e, f.n);
	return e;
}

/** What the readings of one piece say together of their context's factors: a piece that goes its own way tells less than as many pieces. */
function ofPiece(rows: readonly Row[], x: Float64Array, times: Times) {
	const { c } = rows[0];
	const log = logOf(x, c);
	const n = rows.length;
	const slopes = rows.map((r) => slopesAt(r, log));
	const off = rows.map((r) => r.measured - valueAt(r, log));
	const cov = new Float64Array(n * n);
	for (let i = 0; i < n; i++) {
		const s = doubt(rows[i], times);
		const owned = slopes[i].reduce((sum, v, k) => sum + (v * OWN[k]) ** 2, 0);
		// beyond HUBER its doubt grows with its distance, so that it pulls no harder
		const far = Math.max(1, Math.abs(off[i]) / (HUBER * Math.sqrt(s * s + owned)));
		for (let j = 0; j < n; j++) cov[n * i + j] = slopes[i].reduce((sum, v, k) => sum + v * slopes[j][k] * OWN[k] ** 2, 0);
		cov[n * i + i] += s * s * far + owned * (far - 1);
	}
	const weight = inverted(cov, n);
	const info = new Float64Array(N * N);
	const pull = new Float64Array(N);
	for (let i = 0; i < n; i++)
		for (let j = 0; j < n; j++) {
			const w = weight[n * i + j];
			for (let p = 0; p < N; p++) {
				pull[p] += slopes[i][p] * w * off[j];
				for (let q = 0; q < N; q++) info[N * p + q] += slopes[i][p] * w * slopes[j][q];
			}
		}
	return { c, info, pull };
}

function fitted(pieces: readonly Row[][], contexts: number, inverse: readonly Float64Array[], times: Times, from?: Float64Array): Fit {
	const size = N * contexts;
	const x = from?.slice() ?? new Float64Array(size);
	let iterations = 0;
	let converged = false;
	for (;;) {
		const own = pieces.map((rows) => ofPiece(rows, x, times));
		const H = new Float64Array(size * size);
		const g = new Float64Array(size);
		for (let i = 0; i < N; i++)
			for (let p = 0; p < contexts; p++)
				for (let q = 0; q < contexts; q++) {
					H[(N * p + i) * size + N * q + i] += inverse[i][contexts * p + q];
					g[N * p + i] -= inverse[i][contexts * p + q] * x[N * q + i];
				}
		for (const { c, info, pull } of own)
			for (let p = 0; p < N; p++) {
				g[N * c + p] += pull[p];
				for (let q = 0; q < N; q++) H[(N * c + p) * size + N * c + q] += info[N * p + q];
			}
		const factor = new DenseCholesky(H, size);
		if (converged || iterations >= MOST_STEPS || !size)
			return { x, blocks: blocksIn(factor, contexts), own, iterations, converged: converged || !size };
		iterations++;
		const side = new Float64Array(4 * size);
		g.forEach((v, k) => (side[4 * k] = v));
		factor.solveLeading4(side, size);
		const step = g.map((_, k) => side[4 * k]);
		// far from the answer the straight line is a poor guide: a factor moves by at most e at a time
		const largest = step.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
		const share = largest > 1 ? 1 / largest : 1;
		for (let k = 0; k < size; k++) x[k] += share * step[k];
		converged = share === 1 && largest < SETTLED;
	}
}

function blocksIn(factor: DenseCholesky, contexts: number): Float64Array[] {
	// four factors, four columns at a time
	return Array.from({ length: contexts }, (_, c) => unitColumns(factor, N * c).slice(4 * N * c, 4 * N * (c + 1)));
}

interface LeftOut {
	value: number;
	sigma: number;
	moves: number[];
}
/** Every reading as predicted from all other pieces: its own piece's information is taken out of its context again, exactly. */
function leftOut(pieces: readonly Row[][], fit: Fit, times: Times): Map<string, LeftOut> {
	const out = new Map<string, LeftOut>();
	pieces.forEach((rows, k) => {
		const { c, info, pull } = fit.own[k];
		const rest = inverted(fit.blocks[c], N);
		for (let i = 0; i < N * N; i++) rest[i] -= info[i];
		const cov = inverted(rest, N);
		const log = Float64Array.from(logOf(fit.x, c), (v, p) => v - pull.reduce((s, w, q) => s + cov[N * p + q] * w, 0));
		for (const r of rows) {
			const sigma = Math.hypot(r.sigma, Math.sqrt(spreadOf(r, slopesAt(r, log), cov, times)));
			out.set(r.reading, { value: valueAt(r, log), sigma, moves: movedBy(rows, r, rest, pull, fit.x, times) });
		}
	});
	return out;
}

/** What a reading moves the factors by: its piece is put back without it. @param rest information of all other pieces @param pull of its piece */
function movedBy(rows: readonly Row[], r: Row, rest: Float64Array, pull: Float64Array, x: Float64Array, times: Times): number[] {
	const others = rows.filter((o) => o !== r);
	const { info, pull: left } = others.length ? ofPiece(others, x, times) : { info: new Float64Array(N * N), pull: new Float64Array(N) };
	const cov = inverted(
		rest.map((v, i) => v + info[i]),
		N
	);
	return stepOf(
		cov,
		pull.map((v, i) => v - left[i])
	);
}
const stepOf = (cov: Float64Array, pull: Float64Array): number[] =>
	Array.from({ length: N }, (_, p) => pull.reduce((sum, w, q) => sum + cov[N * p + q] * w, 0));

/** The same for a feature that nobody has read yet, by factors in force. */
export const varianceBy = (e: Pick<Evidence, 'slopes' | 'spread' | 'kind'>, { mean, covariance }: ShopFactors): number =>
	spreadOf(e, slopesAt(e, mean), covariance, new Map([[e.kind, 1]]));

/** Variance of what a piece comes to: the factors', its own way, and how far the forecast errs besides. */
function spreadOf(e: Pick<Evidence, 'kind' | 'spread'>, slopes: readonly number[], cov: ArrayLike<number>, times: Times): number {
	let variance = (times.get(e.kind)! * e.spread) ** 2;
	for (let p = 0; p < N; p++) {
		variance += (slopes[p] * OWN[p]) ** 2;
		for (let q = 0; q < N; q++) variance += slopes[p] * cov[N * p + q] * slopes[q];
	}
	return variance;
}

/**
 * By kind, how many times as far as its own band says the forecast errs: the mean square of what is left of the readings predicted
 * from other pieces, the prior of 1 counting as DOUBT_WORTH of them (scaled inverse chi-squared; textbook). An outlier counts at its leash.
 */
function learnForm(rows: readonly Row[], alone: ReadonlyMap<string, { value: number; sigma: number }>, times: Map<string, number>): void {
	for (const [kind, before] of times) {
		const own = rows.filter((r) => r.kind === kind);
		let sum = DOUBT_WORTH;
		for (const r of own) {
			const { value, sigma } = alone.get(r.reading)!;
			const off = Math.min(Math.abs(r.measured - value), FLAGGED * sigma);
			sum += before ** 2 * (off / sigma) ** 2;
		}
		times.set(kind, Math.sqrt(sum / (DOUBT_WORTH + own.length)));
	}
}

function factorsIn(c: number, contexts: readonly Context[], rows: readonly Row[], fit: Fit, times: Times): ShopFactors {
	const near = rows.filter((r) => isSame(contexts[r.c], contexts[c]));
	return {
		mean: [...logOf(fit.x, c)],
		covariance: [...fit.blocks[c]],
		readings: near.length,
		pieces: new Set(near.map((r) => r.piece)).size,
		borrowed: new Set(rows.filter((r) => !near.includes(r)).map((r) => r.piece)).size,
		form: Object.fromEntries(times)
	};
}
