/** How good the forecast has been: what left-out readings say of its bands, by kind of feature and over time. */
import { Z90 } from '../factors/factors';
import { isRefusal } from '../refusal/refusal';
import { apart, MORE_THAN_CHANCE, sampleOf } from '../trials/compare';
import type { Shop, Weighed } from './shop';

/** A share of so many, and the band that holds the true share at 90 %. */
export interface Share {
	inside: number;
	count: number;
	low: number;
	high: number;
}

/** E. B. Wilson 1927, Journal of the American Statistical Association 22, 209-212. */
export function shareOf(inside: number, count: number): Share {
	if (!count) return { inside, count, low: 0, high: 1 };
	const p = inside / count;
	const z = Z90 ** 2 / count;
	const middle = (p + z / 2) / (1 + z);
	const half = (Z90 / (1 + z)) * Math.sqrt((p * (1 - p)) / count + z / (4 * count));
	return { inside, count, low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}

export interface KindSummary {
	kind: string;
	unit: 'mm' | '°';
	readings: number;
	/** mean of |measured - forecast|: with every factor at 1, and predicted from all other pieces */
	asMade: number;
	fromOthers: number;
	/** left-out readings inside the 90 % band, the reading's own doubt in it */
	covered: Share;
	/** how many times as far as it says the forecast errs, its factors apart */
	times: number;
}

const meanOf = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
const isInside = (r: Weighed) => Math.abs(r.measured - r.alone) <= Z90 * r.aloneSigma;
/** A left-out reading against what the others foretold, in its own standard deviations. */
const offBy = (r: Weighed) => (r.measured - r.alone) / r.aloneSigma;
const closest = (r: Weighed) => Math.min(...[r.predicted, r.other ?? Infinity].map((p) => Math.abs(r.measured - p)));

export function summaries(shop: Shop): KindSummary[] {
	return [...new Set(shop.rows.map((r) => r.kind))].sort().map((kind) => {
		const rows = shop.rows.filter((r) => r.kind === kind);
		return {
			kind,
			unit: rows[0].unit,
			readings: rows.length,
			asMade: meanOf(rows.map(closest)),
			fromOthers: meanOf(rows.map((r) => Math.abs(r.measured - r.alone))),
			covered: shareOf(rows.filter(isInside).length, rows.length),
			times: shop.form[kind].times
		};
	});
}

export const covered = (shop: Shop): Share => shareOf(shop.rows.filter(isInside).length, shop.rows.length);

export interface Drift {
	/** ms since 1970: the first piece after the change */
	since: number;
	pieces: [before: number, after: number];
	/** mean of what left-out readings are off by, in their own standard deviations, by piece */
	before: number;
	after: number;
	/** share of shops without any drift that would show as much at the best place to cut */
	chance: number;
}

/** Fewer pieces on a side say nothing. */
const LEAST = 3;

/**
 * Whether pieces come out otherwise since some moment: another batch, another welder, a nozzle. Cut where the two sides part most; the
 * chance is that of one cut (Welch), times the cuts tried (Bonferroni's inequality), so that it is not looked for until found.
 */
export function driftOf(shop: Shop): Drift | undefined {
	const pieces = [...new Set(shop.rows.map((r) => r.piece))]
		.map((piece) => {
			const own = shop.rows.filter((r) => r.piece === piece);
			// which way more or less of the pull moves a feature is its slopes' sign: only so can kinds be put together
			const way = (r: Weighed) => Math.sign(r.slopes[0] + r.slopes[1] + r.slopes[2]) || 1;
			return { at: Math.min(...own.map((r) => r.at)), off: meanOf(own.map((r) => way(r) * offBy(r))) };
		})
		.sort((p, q) => p.at - q.at);
	const cuts = pieces.length - 2 * LEAST + 1;
	let best: Drift | undefined;
	for (let k = LEAST; k < LEAST + cuts; k++) {
		const [a, b] = [pieces.slice(0, k), pieces.slice(k)].map((side) => sampleOf(side.map((p) => p.off)));
		try {
			const chance = Math.min(1, cuts * apart(a, b).chance);
			if (!best || chance < best.chance) best = { since: pieces[k].at, pieces: [k, pieces.length - k], before: a.mean, after: b.mean, chance };
		} catch (e) {
			// all alike: nothing has moved
			if (!isRefusal(e)) throw e;
		}
	}
	return best && best.chance < MORE_THAN_CHANCE ? best : undefined;
}

/** A plain table of everything behind the page, one reading a row. */
export function learnedCsv(shop: Shop): string[][] {
	const n = (v: number) => String(Number(v.toPrecision(6)));
	return [
		[
			'reading',
			'piece',
			'read at',
			'metal',
			'thickness mm',
			'technique',
			'on a bar',
			'kind',
			'feature',
			'unit',
			'measured',
			'reading 90 %',
			'forecast as made',
			'slope force',
			'slope shrinkage',
			'slope angle',
			'forecast spread',
			'from other pieces',
			'its 90 %',
			'with all pieces',
			'outlier'
		],
		...shop.rows.map((r) => [
			r.reading,
			r.piece,
			new Date(r.at).toISOString(),
			r.context.group,
			n(r.context.thicknessMm),
			r.context.technique,
			r.context.isOnBar ? 'yes' : 'no',
			r.kind,
			r.label,
			r.unit,
			n(r.measured),
			n(Z90 * r.sigma),
			n(r.predicted),
			...r.slopes.map(n),
			n(r.spread),
			n(r.alone),
			n(Z90 * r.aloneSigma),
			n(r.after),
			r.isOutlier ? 'yes' : 'no'
		])
	];
}
