/**
 * Which coupon next: how much narrower each would make what is in doubt on the jobs that are open, a minute of work. Nothing is guessed:
 * the coupon's readings are put in as they are foretold, and the shop is learned anew with them; only the width of what comes out counts.
 */
import { Z90 } from '../factors/factors';
import { contextOf, type Context } from '../learn/context';
import { learnShop, varianceBy, type Evidence } from '../learn/shop';
import type { Sensitivity } from '../learn/sensitivity';
import { evidenceOf } from '../learn/fromPiece';
import { COUPONS, type Coupon } from './coupons';

/** A feature of an open job whose band takes up a good part of what its limits allow. */
export interface InDoubt {
	job: string;
	name: string;
	context: Context;
	said: Sensitivity;
	/** half its band over what its limits allow, at most 1: how much it counts */
	weight: number;
}

export interface Worth {
	coupon: Coupon;
	/** share by which the bands go down in the mean, each as much as it counts, and the same an hour of work */
	gain: number;
	anHour: number;
	/** the feature it does most for: half its band now and then */
	best?: Narrowed;
}

/** Most worth an hour first. @param evidence of the shop's lessons in force */
export function worthOf(coupons: readonly Coupon[], doubts: readonly InDoubt[], evidence: readonly Evidence[]): Worth[] {
	const contexts = doubts.map((d) => d.context);
	const now = halves(doubts, evidence, contexts);
	return coupons
		.map((coupon): Worth => {
			const then = halves(doubts, [...evidence, ...foretold(coupon)], contexts);
			const gains = doubts.map((_, i) => 1 - then[i] / now[i]);
			const weights = doubts.reduce((s, d) => s + d.weight, 0);
			const gain = weights ? gains.reduce((s, g, i) => s + doubts[i].weight * g, 0) / weights : 0;
			const most = gains.reduce((b, g, i) => (b < 0 || g > gains[b] ? i : b), -1);
			const { job, name, said } = doubts[most] ?? {};
			return {
				coupon,
				gain,
				anHour: (60 * gain) / COUPONS[coupon.kind].minutes,
				best: said && { job: job!, name: name!, unit: said.unit, now: now[most], then: then[most] }
			};
		})
		.sort((p, q) => q.anHour - p.anHour);
}

export interface Narrowed {
	job: string;
	name: string;
	unit: 'mm' | '°';
	now: number;
	then: number;
}
/** What more evidence does to what is in doubt: half of each band, without it and with it, the most narrowed first. */
export function narrowed(doubts: readonly InDoubt[], without: readonly Evidence[], withIt: readonly Evidence[]): Narrowed[] {
	const contexts = doubts.map((d) => d.context);
	const [now, then] = [halves(doubts, without, contexts), halves(doubts, withIt, contexts)];
	return doubts
		.map(({ job, name, said }, i) => ({ job, name, unit: said.unit, now: now[i], then: then[i] }))
		.sort((p, q) => p.then / p.now - q.then / q.now);
}

/** Half of each band at 90 %: the factors as far as they are known, and all else that the forecast is not sure of. */
function halves(doubts: readonly InDoubt[], evidence: readonly Evidence[], contexts: readonly Context[]): number[] {
	const { asked } = learnShop(evidence, contexts);
	return doubts.map(({ said }, i) => Z90 * Math.sqrt(varianceBy(said, asked[i])));
}

/** Its readings as they are foretold. */
const foretold = (coupon: Coupon): Evidence[] =>
	coupon.readings.map((r) => {
		const said = coupon.sensitivities.find((s) => s.feature === r.feature && s.moment === 'unclamped')!;
		const reading = {
			id: `to-come-${r.feature}`,
			feature: r.feature,
			moment: 'unclamped' as const,
			value: said.predicted,
			uncertainty90: r.doubt,
			at: 0
		};
		return evidenceOf('to-come', contextOf(coupon.plan), said, reading);
	});
