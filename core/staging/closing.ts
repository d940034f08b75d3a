/**
 * How stiffly the rest of the piece holds a seam's two edges against closing and opening in their sheets, at the moment its first arc
 * starts: what is joined and clamped by then, the seam's own tacks left out. A moving arc is watched against it (core/hot).
 */
import type { SeamMesh } from '../mesh/seamMesh';
import type { PlanDocument } from '../document/schema';
import type { Condensed } from './condense';
import type { StageEvent } from './events';
import { JoinFactors, pairRows } from './restraint';
import { jointDirections } from './weldBook';

/** A pattern of forces on link rows: row and force, N. */
type Pattern = [row: number, force: number][];

/** By seam that is welded: N/mm per mm of seam between the edges; the softer of moving apart evenly and swinging open. */
export function closingStiffness(plan: PlanDocument, seams: readonly SeamMesh[], c: Condensed, events: readonly StageEvent[]): Map<string, number> {
	const out = new Map<string, number>();
	const on = new Set<number>();
	for (const e of events) {
		if (e.type === 'on') for (const r of e.rows) on.add(r);
		else if (e.type === 'off') for (const r of e.rows) on.delete(r);
		else if (e.type === 'weld') {
			const { joint } = seams[e.seam];
			if (!e.tack && !out.has(joint.id)) {
				const own = new Set([...seams[e.seam].stations.keys()].flatMap((i) => pairRows(seams, c, e.seam, i)));
				const others = [...on].filter((r) => !own.has(r));
				out.set(joint.id, stiffnessOf(patternsOf(plan, seams[e.seam], c.pairRow[e.seam]), c, others));
			}
			for (const r of pairRows(seams, c, e.seam, e.pair)) on.add(r);
		}
	}
	return out;
}

interface Patterns {
	lengthMm: number;
	/** both edges moved apart evenly, by one N in all */
	even: Pattern;
	/** swung open, by one N.mm */
	swing: Pattern;
}

function patternsOf(plan: PlanDocument, seam: SeamMesh, pairRow: Int32Array): Patterns {
	const [first, last] = [seam.reach[0][0], seam.reach[seam.reach.length - 1][1]];
	const [middle, L] = [(first + last) / 2, last - first];
	const out: Patterns = { lengthMm: L, even: [], swing: [] };
	seam.stations.forEach((s, i) => {
		if (seam.a[i] === seam.b[i]) return;
		const mm = seam.reach[i][1] - seam.reach[i][0];
		jointDirections(plan, seam, i).shrink.forEach((v, d) => {
			out.even.push([pairRow[i] + d, (v * mm) / L]);
			// in proportion to the distance from the middle: what it does work on is the mean turn
			out.swing.push([pairRow[i] + d, (v * mm * 12 * (s - middle)) / L ** 3]);
		});
	});
	return out;
}

/** N/mm per mm; as stiff as can be where its sheets lie on each other and do not part in their plane */
function stiffnessOf({ lengthMm: L, even, swing }: Patterns, c: Condensed, joined: readonly number[]): number {
	if (!even.some(([, v]) => v !== 0)) return Infinity;
	const factor = joined.length ? new JoinFactors(c).of(joined) : undefined;
	const [apart, turned] = [even, swing].map((pattern) => {
		const f = (i: number, j: number) => c.flexibility[i * c.rowCount + j];
		let free = 0;
		for (const [i, p] of pattern) for (const [j, q] of pattern) free += p * q * f(i, j);
		if (!factor) return free;
		// what the joined rows take off, by the factor's first of four right hand sides
		const b = new Float64Array(4 * joined.length);
		joined.forEach((r, k) => (b[4 * k] = pattern.reduce((s, [j, q]) => s + q * f(r, j), 0)));
		factor.forward4(b, joined.length);
		const held = joined.reduce((s, _, k) => s + b[4 * k] ** 2, 0);
		return Math.max(free - held, ROUNDING * free);
	});
	return Math.min(1 / (apart * L), 12 / (turned * L ** 3));
}

/** Less than this share of what was there is rounding: as stiff as can be told. */
const ROUNDING = 1e-9;
