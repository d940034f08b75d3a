/** Why an order is better, in plain words, each checked by weighing the order that would have it the other way. */
import type { Analysis } from '../forecast/analysis';
import { unitOf } from '../features';
import type { OrderSearch, Weighed } from './search';
import { exceedance } from './cost';
import type { AnyFeature } from '../document/schema';
import type { Laying } from './walk';

/** Reasons given at most. */
const MOST = 4;
/** Of the whole gain, a reason must account for this share to be worth naming. */
const WORTH = 0.08;

/** A run's move of a feature below this share of half its limits is not spoken of. */
const LEAST_MOVE = 0.05;

interface Counted {
	words: string;
	gain: number;
}

export function reasonsFor(search: OrderSearch, a: Analysis, best: readonly Laying[], now: Weighed, before: Weighed): string[] {
	const { plan } = search;
	const gain = before.cost - now.cost;
	if (!(gain > 1e-6) || !plan.features.length) return ['No order tried is better than the plan as it stands by what was asked.'];
	const seamOf = (l: Laying) => plan.runs[l.run].joint;
	const name = (id: string) => `“${plan.joints.find((j) => j.id === id)!.name}”`;
	const shown = (k: number, v: number, sign = false) =>
		`${sign && v > 0 ? '+' : ''}${v.toFixed(2)}${unitOf(plan.features[k]) === 'mm' ? ' mm' : '°'}`;
	/** by feature: what each run of an order moves it by, still held */
	const influence = (order: readonly Laying[]) => {
		const steps = search.model.history(search.model.columns(order), search.timed(order).forces);
		const values = steps.map((y) => plan.features.map((f) => a.valueOf(f, y)));
		return order.map((_, i) => plan.features.map((__, k) => values[i + 1][k] - values[i][k]));
	};
	/** the feature that an order makes worst against the best one */
	const worst = (w: Weighed) =>
		plan.features.reduce(
			(top, f, k) => {
				const loss = exceedance(f, w.values[k]) ** 2 - exceedance(f, now.values[k]) ** 2;
				return loss > top.loss ? { k, loss } : top;
			},
			{ k: 0, loss: -Infinity }
		).k;

	const out: Counted[] = [];
	const held = influence(best);
	const seams = [...new Set(best.map(seamOf))];
	const mean = (order: readonly Laying[], seam: string) => {
		const at = order.flatMap((l, i) => (seamOf(l) === seam ? [i] : []));
		return at.reduce((s, i) => s + i, 0) / at.length;
	};
	const given = search.given;
	seams.forEach((p, i) => {
		for (const q of seams.slice(i + 1)) {
			const [first, second] = mean(best, p) < mean(best, q) ? [p, q] : [q, p];
			if (mean(given, first) < mean(given, second)) continue;
			// the same order with these two seams in each other's turn
			const slots = best.flatMap((l, k) => (seamOf(l) === first || seamOf(l) === second ? [k] : []));
			const turned = [...best.filter((l) => seamOf(l) === second), ...best.filter((l) => seamOf(l) === first)];
			const other = [...best];
			slots.forEach((k, n) => (other[k] = turned[n]));
			if (!search.isAllowed(other)) continue;
			const w = search.weigh(other);
			if (w.cost - now.cost < WORTH * gain) continue;
			const k = worst(w);
			if (shown(k, w.values[k]) === shown(k, now.values[k])) continue;
			const then = influence(other);
			const by = (order: readonly Laying[], inf: number[][], seam: string) => order.reduce((s, l, n) => s + (seamOf(l) === seam ? inf[n][k] : 0), 0);
			const [s1, s2] = [by(best, held, second), by(other, then, second)];
			const [f1, f2] = [by(best, held, first), by(other, then, first)];
			const isSame = shown(k, s1) === shown(k, s2) && shown(k, f1) === shown(k, f2);
			const cause = isSame
				? 'of the heat that each finds there'
				: Math.abs(s2 - s1) >= Math.abs(f2 - f1)
					? `${name(second)} then moves it by ${shown(k, s1, true)} instead of ${shown(k, s2, true)}, held by ${name(first)}`
					: `${name(first)} then moves it by ${shown(k, f1, true)} instead of ${shown(k, f2, true)}, before ${name(second)} is there to pass it on`;
			out.push({
				gain: w.cost - now.cost,
				words: `${name(first)} before ${name(second)}: the other way round “${plan.features[k].name}” would come to ${shown(k, w.values[k])} instead of ${shown(k, now.values[k])}, because ${cause}.`
			});
		}
	});
	for (const seam of seams) {
		const turned = best.filter((l) => seamOf(l) === seam && l.reversed);
		if (!turned.length) continue;
		const other = best.map((l) => (turned.includes(l) ? { ...l, reversed: false } : l));
		const w = search.weigh(other);
		if (w.cost - now.cost < WORTH * gain) continue;
		const k = worst(w);
		if (shown(k, w.values[k]) === shown(k, now.values[k])) continue;
		out.push({
			gain: w.cost - now.cost,
			words: `${turned.length === 1 ? 'One run' : `${turned.length} runs`} of ${name(seam)} laid the other way: as before, “${plan.features[k].name}” would come to ${shown(k, w.values[k])} instead of ${shown(k, now.values[k])}.`
		});
	}
	out.sort((x, y) => y.gain - x.gain);
	const words = out.slice(0, MOST).map((x) => x.words);
	const pair = cancelling(held, plan.features);
	if (pair) {
		const f = plan.features[pair.k];
		words.push(
			`Runs ${pair.i + 1} and ${pair.j + 1} of the new order cancel on “${f.name}”: ${shown(pair.k, held[pair.i][pair.k], true)} and ${shown(pair.k, held[pair.j][pair.k], true)}.`
		);
	}
	if (before.hottestC - now.hottestC > 10)
		words.push(
			`No run starts on metal hotter than ${now.hottestC.toFixed(0)} °C, instead of ${before.hottestC.toFixed(0)} °C: less left-over heat, less pull.`
		);
	if (before.waitS - now.waitS > 30) words.push(`It waits ${Math.round((before.waitS - now.waitS) / 60)} min less for the metal.`);
	if (before.flips > now.flips) words.push(`${before.flips - now.flips} ${before.flips - now.flips === 1 ? 'flip' : 'flips'} fewer.`);
	return words.length ? words : ['Many small moves together; no pair of seams or direction stands out.'];
}

/** The pair of runs whose moves of one feature are largest and opposite, and worth speaking of against its limit. */
function cancelling(influence: readonly number[][], features: readonly AnyFeature[]): { k: number; i: number; j: number } | undefined {
	let best: { k: number; i: number; j: number; size: number } | undefined;
	for (let k = 0; k < (influence[0]?.length ?? 0); k++) {
		const scale = Math.max(...influence.map((v) => Math.abs(v[k])));
		if (!(scale > 0)) continue;
		influence.forEach((v, i) => {
			for (let j = i + 1; j < influence.length; j++) {
				const [x, y] = [v[k], influence[j][k]];
				if (x * y >= 0) continue;
				const size = Math.min(Math.abs(x), Math.abs(y)) / scale;
				const counts = Math.abs(exceedance(features[k], x) - exceedance(features[k], 0)) > LEAST_MOVE;
				if (counts && size > 0.3 && size > (best?.size ?? 0) && Math.abs(x + y) < 0.4 * Math.abs(x)) best = { k, i, j, size };
			}
		});
	}
	return best;
}
