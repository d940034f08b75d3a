/**
 * Several readings of one thing, by whatever method, as one: each way counts by how well it is known (weighted mean, JCGM 100 E.4 and G).
 * What was read again with the same instrument in the same way is averaged first: that steadies the hand, not the instrument, whose error
 * is the same each time (JCGM 100, F.1.2.3).
 */
import { Refusal } from '../refusal/refusal';

export interface Known {
	value: number;
	/** 90 % half-width */
	uncertainty90: number;
	/** the way and the instrument; alone where nothing is said */
	by?: string;
}
export interface Combined extends Known {
	/** they lie further apart than their bands say: one of them is wrong, or the piece moved between */
	disagree: boolean;
}

/** The share of a normal band of 90 % that one standard uncertainty is. */
const Z90 = 1.6449;
/** Scatter about the mean, in standard uncertainties a degree of freedom, above which readings disagree: exceeded by chance once in about forty. */
const MOST_RATIO = 5;

/** @throws Refusal where there is none */
export function combine(read: readonly Known[]): Combined {
	if (!read.length) throw new Refusal('There is no reading to go by');
	const ways = new Map<string | Known, Known[]>();
	for (const r of read) ways.set(r.by ?? r, [...(ways.get(r.by ?? r) ?? []), r]);
	const readings = [...ways.values()].map(averaged);
	const weights = readings.map((r) => (Z90 / Math.max(r.uncertainty90, 1e-9)) ** 2);
	const sum = weights.reduce((s, w) => s + w, 0);
	const value = readings.reduce((s, r, i) => s + weights[i] * r.value, 0) / sum;
	const chi = readings.reduce((s, r, i) => s + weights[i] * (r.value - value) ** 2, 0);
	const ratio = readings.length > 1 ? chi / (readings.length - 1) : 0;
	const disagree = ratio > MOST_RATIO || readings.some((r) => r.isScattered);
	// where they disagree the band is as wide as they lie apart (Birge)
	return { value, uncertainty90: (Z90 / Math.sqrt(sum)) * Math.sqrt(Math.max(1, ratio > MOST_RATIO ? ratio : 1)), disagree };
}

/** One way's readings as one; where they scatter by more than they are known, as uncertain as they lie apart. */
function averaged(same: readonly Known[]): Known & { isScattered: boolean } {
	const n = same.length;
	const value = same.reduce((s, r) => s + r.value, 0) / n;
	const own = Math.max(...same.map((r) => r.uncertainty90));
	const apart = Math.max(...same.map((r) => Math.abs(r.value - value)));
	return { value, uncertainty90: Math.max(own, apart), isScattered: apart > SCATTERED * own };
}
/** Readings by one way differ by chance by less than this many of its half-widths from their middle (own rule). */
const SCATTERED = 2;
