/** Lengths of weld with gaps between; the two schools differ in where the second side's lengths lie. */
import { twoSided } from '../../layout/seamShape';
import type { SeamInSpace } from '../../layout/space';
import { back, inTurn } from './laying';
import type { Laid, Layout, OrderSettings } from './school';

/** Intermittent: 25 mm in 75. */
export const DEFAULT_PITCH_MM = 75;
export const DEFAULT_LENGTH_MM = 25;

/** Lengths of weld at a pitch, the whole set in the middle of the seam; the staggered side lies half a pitch on. */
export function intermittent(lengthMm: number, weldMm: number, pitchMm: number, shifted: boolean): [number, number][] {
	const n = Math.max(1, Math.floor((lengthMm - weldMm) / pitchMm + 1e-9) + 1);
	const start = (lengthMm - ((n - 1) * pitchMm + weldMm)) / 2;
	const round = (x: number) => Math.round(x * 10) / 10;
	return Array.from({ length: n }, (_, i): [number, number] => {
		const from = start + i * pitchMm + (shifted ? pitchMm / 2 : 0);
		return [round(Math.min(from, lengthMm)), round(Math.min(from + weldMm, lengthMm))];
	}).filter(([a, b]) => b - a >= Math.min(weldMm, lengthMm) / 2);
}

export function noGapsAllowed(seams: readonly SeamInSpace[], { runLengthMm, pitchMm = DEFAULT_PITCH_MM }: OrderSettings): string | undefined {
	const barred = seams.find((s) => !s.joint.intermittent);
	if (barred)
		return `“${barred.joint.name}” must be welded all along: tick that strength and tightness allow lengths with gaps between, in its joint.`;
	return pitchMm > runLengthMm ? undefined : `The pitch (${pitchMm} mm) must be longer than each weld (${runLengthMm} mm).`;
}

/** @param shiftsSecond the second side of a sheet welded on both lies half a pitch on */
export function layIntermittent(l: Layout, shiftsSecond: boolean): Laid[] {
	const pairs = twoSided(l.seams);
	const second = new Set(pairs.map(([, q]) => q));
	const { runLengthMm, pitchMm = DEFAULT_PITCH_MM } = l.settings;
	const lengths = (s: SeamInSpace) => l.pieces(s, intermittent(s.lengthMm, runLengthMm, pitchMm, shiftsSecond && second.has(s))).map(back);
	const paired = new Set(pairs.flat());
	return [...pairs.flatMap(([p, q]) => inTurn([lengths(p), lengths(q)])), ...l.seams.filter((s) => !paired.has(s)).flatMap(lengths)];
}
