/**
 * How stiff the piece is along a seam at the moment it is welded: its bending stiffness there, from the condensed piece with
 * everything that is joined or clamped by then (tacks, other seams, clamps, jigs, strongbacks, the sheets' own folds). The section
 * that is being welded bows and folds against it (response/layeredStrip.ts). What holds the sheets against turning or closing only is
 * left to the shell itself.
 */
import { DenseCholesky } from '../linalg/dense';
import type { SeamMesh } from '../mesh/seamMesh';
import type { Condensed } from './condense';
import type { StageEvent } from './events';

/** Factors of link rows in joining order, so that restraint and staging share them. */
export class JoinFactors {
	private readonly known = new Map<string, DenseCholesky>();
	constructor(private readonly c: Condensed) {}

	of(order: readonly number[]): DenseCholesky {
		const key = order.join(' ');
		let found = this.known.get(key);
		if (!found) {
			const n = order.length;
			const a = new Float64Array(n * n);
			const { flexibility, compliance, rowCount } = this.c;
			for (let i = 0; i < n; i++)
				for (let j = 0; j <= i; j++) a[i * n + j] = flexibility[order[i] * rowCount + order[j]] + (i === j ? compliance[order[i]] : 0);
			this.known.set(key, (found = new DenseCholesky(a, n, this.c.model.factor.kernel)));
		}
		return found;
	}
}

/** Rows that hold now, and those that will join before anything lets go, in the order of their joining. */
export function joiningOrder(
	active: readonly number[],
	events: readonly StageEvent[],
	from: number,
	rowsOf: (seam: number, pair: number) => readonly number[]
): number[] {
	const order = [...active];
	const taken = new Set(order);
	for (let i = from; i < events.length && events[i].type !== 'off'; i++) {
		const e = events[i];
		for (const r of e.type === 'on' ? e.rows : e.type === 'weld' ? rowsOf(e.seam, e.pair) : [])
			if (!taken.has(r)) {
				taken.add(r);
				order.push(r);
			}
	}
	return order;
}

/** Link rows of a pair; none where both sides are one node. */
export const pairRows = (seams: readonly SeamMesh[], c: Condensed, seam: number, pair: number): number[] => {
	const first = c.pairRow[seam][pair];
	return seams[seam].a[pair] === seams[seam].b[pair] ? [] : [0, 1, 2, 3, 4, 5].map((d) => first + d);
};

/** Out of the plane of sheet A and of sheet B, N.mm2. */
export type BendingStiffness = readonly [number, number];

/** @returns by run: the bending stiffness of the piece along its seam when its arc starts, its own sheets included */
export function bendingStiffness(
	seams: readonly SeamMesh[],
	c: Condensed,
	events: readonly StageEvent[],
	factors: JoinFactors
): Map<string, BendingStiffness> {
	const out = new Map<string, BendingStiffness>();
	const { row, self, scale } = c.bends;
	const probes = self.length;
	let active: number[] = [];
	let i = 0;
	while (i < events.length) {
		// one stretch between two releases
		const order = joiningOrder(active, events, i, (s, p) => pairRows(seams, c, s, p));
		const chol = factors.of(order);
		const n = order.length;
		/** by probe: how far its own load still moves it with the first so many rows joined */
		const given: Float64Array[] = [];
		for (let k0 = 0; k0 < probes; k0 += 4) {
			const b = new Float64Array(4 * n);
			const count = Math.min(4, probes - k0);
			for (let q = 0; q < count; q++) order.forEach((r, j) => (b[4 * j + q] = row[r * probes + k0 + q]));
			if (n) chol.forward4(b, n);
			for (let q = 0; q < count; q++) {
				const sum = new Float64Array(n + 1);
				sum[0] = self[k0 + q];
				// in joining order each joined row takes its square off
				for (let j = 0; j < n; j++) sum[j + 1] = sum[j] - b[4 * j + q] ** 2;
				given.push(sum);
			}
		}
		const on = new Set(active);
		/** nothing left but rounding: as stiff as can be told */
		const stiffness = (probe: number) => (scale[probe] === Infinity ? Infinity : scale[probe] / Math.max(given[probe][on.size], 1e-9 * self[probe]));
		for (; i < events.length && events[i].type !== 'off'; i++) {
			const e = events[i];
			if (e.type === 'weld' && !e.tack && !out.has(e.owner)) out.set(e.owner, [stiffness(2 * e.seam), stiffness(2 * e.seam + 1)]);
			for (const r of e.type === 'on' ? e.rows : e.type === 'weld' ? pairRows(seams, c, e.seam, e.pair) : []) on.add(r);
		}
		active = order;
		for (; i < events.length; i++) {
			const e = events[i];
			if (e.type !== 'off') break;
			active = active.filter((r) => !e.rows.includes(r));
		}
	}
	return out;
}
