/** Several readings of one thing, by whatever method, as one: each counts by how well it is known (weighted mean, JCGM 100 E.4 and G). */
import { Refusal } from '../refusal/refusal';

export interface Known {
	value: number;
	/** 90 % half-width */
	uncertainty90: number;
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
export function combine(readings: readonly Known[]): Combined {
	if (!readings.length) throw new Refusal('There is no reading to go by');
	const weights = readings.map((r) => (Z90 / Math.max(r.uncertainty90, 1e-9)) ** 2);
	const sum = weights.reduce((s, w) => s + w, 0);
	const value = readings.reduce((s, r, i) => s + weights[i] * r.value, 0) / sum;
	const chi = readings.reduce((s, r, i) => s + weights[i] * (r.value - value) ** 2, 0);
	const ratio = readings.length > 1 ? chi / (readings.length - 1) : 0;
	const disagree = ratio > MOST_RATIO;
	// where they disagree the band is as wide as they lie apart (Birge)
	return { value, uncertainty90: (Z90 / Math.sqrt(sum)) * (disagree ? Math.sqrt(ratio) : 1), disagree };
}
