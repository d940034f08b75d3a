/** Checks that several kinds share. */
import type { HoldCheck } from './hold';

/** A stretch may end this far beyond its seam, mm (roundings). */
const SLACK_MM = 0.05;

export function checkStretch(h: { joint: string; fromMm: number; toMm: number }, c: HoldCheck): void {
	const length = c.seamLength(h.joint);
	if (length === undefined) return;
	const { name } = c.plan.joints.find((j) => j.id === h.joint)!;
	if (!(h.toMm > h.fromMm)) c.add('toMm', h.toMm, `must be beyond ${h.fromMm} mm`);
	if (h.toMm > length + SLACK_MM) c.add('toMm', h.toMm, `must be on seam “${name}”, at most ${length.toFixed(1)} mm`);
}
