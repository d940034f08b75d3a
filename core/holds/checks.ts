/** Checks that several kinds share. */
import type { AnyHoldDown } from '../document/schema';
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

/** Two clamps nearer than this are one, mm. */
const ONE_CLAMP_MM = 1;
/** Two things in the same place, both on at once: the second would lie in the first. @param a before @param b after it in the list */
export function inTheWay(a: AnyHoldDown, b: AnyHoldDown): boolean {
	if (a.kind === 'bar' && b.kind === 'bar')
		return a.joint === b.joint && !a.offsetMm && !b.offsetMm && Math.min(a.toMm, b.toMm) - Math.max(a.fromMm, b.fromMm) > SLACK_MM;
	if (a.kind === 'clamp' && b.kind === 'clamp') return a.joint === b.joint && Math.abs(a.stationMm - b.stationMm) < ONE_CLAMP_MM;
	return false;
}
