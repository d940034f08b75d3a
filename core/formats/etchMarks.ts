/** Marks to etch on the blanks: tacks as ticks, run bounds with numbers and arrows, seam names. One layer each, beside the seam's own line. */
import { isInside, pathLength, pointAt } from '../geometry/polyline';
import type { Vec2 } from '../geometry/vec';
import type { PlanDocument } from '../document/schema';
import type { DxfMark } from './dxfOut';

/** Lengths of the marks and how far inside the edge they stand, mm. */
const TACK_MM = 4;
const BOUND_MM = 8;
const ARROW_IN_MM = 6;
const TEXT_MM = 4;
/** Arrowhead, mm. */
const HEAD_MM = 2.5;

const unit = (v: Vec2): Vec2 => {
	const l = Math.hypot(v[0], v[1]) || 1;
	return [v[0] / l, v[1] / l];
};
const plus = (p: Vec2, d: Vec2, f: number): Vec2 => [p[0] + f * d[0], p[1] + f * d[1]];

/**
 * Marks of one part in its layout, mm.
 * @param names a short and a long name of each seam
 */
export function etchMarks(plan: PlanDocument, partId: string, names: ReadonlyMap<string, string>): DxfMark[] {
	const part = plan.parts.find((p) => p.id === partId)!;
	const isOn = (p: Vec2) => isInside(p, part.outline) && !part.holes.some((h) => isInside(p, h));
	const out: DxfMark[] = [];
	for (const joint of plan.joints) {
		if (joint.stock) continue;
		const whole = pathLength(joint.a.path);
		for (const side of [joint.a, joint.b]) {
			if (side.part !== partId) continue;
			const length = pathLength(side.path);
			const at = (station: number) => Math.min(length, Math.max(0, (station * length) / whole));
			/** direction along the seam, and into the sheet, at a station */
			const frame = (s: number): { p: Vec2; along: Vec2; into: Vec2 } => {
				const p = pointAt(side.path, s);
				const [q, r] = [pointAt(side.path, Math.max(0, s - 0.5)), pointAt(side.path, Math.min(length, s + 0.5))];
				const along = unit([r[0] - q[0], r[1] - q[1]]);
				const left: Vec2 = [-along[1], along[0]];
				return { p, along, into: isOn(plus(p, left, 2)) || !isOn(plus(p, left, -2)) ? left : [-left[0], -left[1]] };
			};
			const tick = (layer: DxfMark['layer'], s: number, size: number, label?: string) => {
				const { p, into } = frame(s);
				out.push({ layer, from: p, to: plus(p, into, size), label });
			};
			for (const t of plan.tacks) if (t.joint === joint.id) tick('etchTacks', at(t.stationMm), TACK_MM);
			plan.runs.forEach((r, i) => {
				if (r.joint !== joint.id) return;
				tick('etchRuns', at(r.fromMm), BOUND_MM);
				tick('etchRuns', at(r.toMm), BOUND_MM);
				const size = Math.min(20, 0.5 * Math.abs(at(r.toMm) - at(r.fromMm)));
				const { p, along, into } = frame((at(r.fromMm) + at(r.toMm)) / 2);
				const d: Vec2 = r.toMm > r.fromMm ? along : [-along[0], -along[1]];
				const middle = plus(p, into, ARROW_IN_MM);
				const [tail, tip] = [plus(middle, d, -size / 2), plus(middle, d, size / 2)];
				out.push({ layer: 'etchRuns', from: tail, to: tip });
				for (const f of [1, -1]) out.push({ layer: 'etchRuns', from: plus(plus(tip, d, -HEAD_MM), into, f * HEAD_MM * 0.5), to: tip });
				out.push({ layer: 'etchRuns', from: plus(middle, into, 2), to: plus(middle, into, 2), label: String(i + 1), textMm: TEXT_MM });
			});
			const { p, into } = frame(Math.min(length, 4));
			out.push({ layer: 'etchNames', from: plus(p, into, 14), to: plus(p, into, 14), label: names.get(joint.id) ?? joint.name, textMm: TEXT_MM });
		}
	}
	return out;
}
