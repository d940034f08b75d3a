/**
 * What the linear, condensed piece says of a feature, brought to what the final shape says of it: through the value of one
 * order, and as steeply as the final shapes of several orders go with their linear values, where they do.
 */
import type { AnyFeature } from '../plan/schema';

const FORM: readonly AnyFeature['kind'][] = ['flatness', 'straightness', 'twist', 'squareness'];

/** Share of the final values' variance that a straight line must explain to be followed. */
const EXPLAINED = 0.5;

export type Level = (linear: number) => number;

/** @param slope of the final values over the linear ones, where it is known */
export function levelOf(feature: Pick<AnyFeature, 'kind'>, linear: number, final: number, slope?: number): Level {
	const isForm = FORM.includes(feature.kind);
	// a form error that comes out better is scaled, so that it stays above nothing
	if (slope === undefined) return isForm && final < linear ? (v) => (v * final) / linear : (v) => v + final - linear;
	const line = (v: number) => final + slope * (v - linear);
	// a form error has no sign: what the line would put below nothing is nothing
	return isForm ? (v) => Math.max(0, line(v)) : line;
}

/** Least squares of final over linear values of some orders. @returns undefined where they do not rise together */
export function slopeOf(pairs: readonly { linear: number; final: number }[]): number | undefined {
	const n = pairs.length;
	if (n < 4) return undefined;
	const mx = pairs.reduce((s, p) => s + p.linear, 0) / n;
	const my = pairs.reduce((s, p) => s + p.final, 0) / n;
	let [xx, xy, yy] = [0, 0, 0];
	for (const { linear, final } of pairs) {
		xx += (linear - mx) ** 2;
		xy += (linear - mx) * (final - my);
		yy += (final - my) ** 2;
	}
	if (!(xx > 0) || !(yy > 0) || !(xy > 0) || xy ** 2 / (xx * yy) < EXPLAINED) return undefined;
	return xy / xx;
}
