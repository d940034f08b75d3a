/**
 * Conduction across a seam: half a sheet, with loss from both faces and, if there is one, a bar in contact with it.
 * Backward Euler on cells across the width; sheet and bar are solved together, cell by cell (2 x 2 block tridiagonal).
 */
export interface SectionBar {
	/** mm, full width of the bar; half of it lies under this side */
	width: number;
	thickness: number;
	/** W/mm.K */
	conductivity: number;
	/** J/mm3.K */
	rhoC: number;
	/** W/mm2.K */
	contact: number;
}

export interface Section {
	/** mm, from the seam to the edge of the sheet */
	halfWidth: number;
	thickness: number;
	lambda: number;
	rhoC: number;
	/** W/mm2.K, both faces together */
	loss: number;
	/** J/mm, all of it: half goes this way */
	netHeat: number;
	/** seconds the arc takes to pass a point */
	passing: number;
	bar?: SectionBar;
}

export interface SectionHistory {
	/** mm, cell middles */
	y: Float64Array;
	/** K, highest rise of each cell of the sheet */
	peakRise: Float64Array;
	/** share of the heat that has gone into the bar by the time given */
	barShare: (afterSeconds: number) => number;
	/** |heat in - (sheet + bar + lost)| / heat in, at the end */
	energyError: number;
}

const CELL_MM = 0.75;

export function sectionHistory(s: Section): SectionHistory {
	const n = Math.max(20, Math.round(s.halfWidth / CELL_MM));
	const dx = s.halfWidth / n;
	const T = new Float64Array(n);
	const B = new Float64Array(n);
	const peak = new Float64Array(n);
	const barCells = s.bar ? Math.min(n, Math.round(s.bar.width / 2 / dx)) : 0;
	const cs = s.rhoC * s.thickness * dx; // J/K per mm of seam
	const cb = s.bar ? s.bar.rhoC * s.bar.thickness * dx : 1;
	const ks = (s.lambda * s.thickness) / dx; // W/K between cells
	const kb = s.bar ? (s.bar.conductivity * s.bar.thickness) / dx : 0;
	const contact = s.bar ? s.bar.contact * dx : 0;
	const loss = s.loss * dx;
	const heat = s.netHeat / 2;
	const hotCells = Math.max(1, Math.round(1.5 / dx)); // the pool's half width, or one cell
	let time = 0;
	let given = 0;
	let lost = 0;
	let inBar = 0;
	const trace: [number, number][] = [[0, 0]];
	const end = Math.max(60, (4 * 80 * 80 * s.rhoC) / (2 * s.lambda));
	// per cell: [a b; c d] after elimination, for the block sweep
	const m = new Float64Array(4 * n);
	const r = new Float64Array(2 * n);
	let dt = s.passing / 40;
	while (time < end) {
		const source = time < s.passing - 1e-9 ? heat / s.passing : 0;
		if (time >= s.passing - 1e-9) dt = Math.min(end - time + 1e-9, dt * 1.06);
		for (let i = 0; i < n; i++) {
			const left = i > 0 ? ks : 0;
			const right = i < n - 1 ? ks : 0;
			const under = i < barCells;
			const h = under ? contact : 0;
			const bl = under && i > 0 ? kb : 0;
			const br = under && i < barCells - 1 ? kb : 0;
			// a covered back face loses to the bar instead of the air: half the loss remains
			const air = under ? loss / 2 : loss;
			let a = cs / dt + left + right + h + air;
			let b = -h;
			let c = -h;
			let d = under ? cb / dt + bl + br + h + air : 1;
			let f = (cs / dt) * T[i] + (i < hotCells ? source / hotCells : 0);
			let g = under ? (cb / dt) * B[i] : 0;
			if (i > 0) {
				// subtract diag(left, bl) M^-1 diag(left, bl) and the matching right side of the cell before
				const [ia, ib, ic, id] = [m[4 * i - 4], m[4 * i - 3], m[4 * i - 2], m[4 * i - 1]];
				a -= left * ia * left;
				b -= left * ib * bl;
				c -= bl * ic * left;
				d -= bl * id * bl;
				f += left * (ia * r[2 * i - 2] + ib * r[2 * i - 1]);
				g += bl * (ic * r[2 * i - 2] + id * r[2 * i - 1]);
			}
			const det = a * d - b * c;
			m.set([d / det, -b / det, -c / det, a / det], 4 * i);
			r[2 * i] = f;
			r[2 * i + 1] = g;
		}
		let [nextT, nextB] = [0, 0];
		for (let i = n - 1; i >= 0; i--) {
			const f = r[2 * i] + (i < n - 1 ? ks * nextT : 0);
			const g = r[2 * i + 1] + (i < barCells - 1 ? kb * nextB : 0);
			nextT = m[4 * i] * f + m[4 * i + 1] * g;
			nextB = m[4 * i + 2] * f + m[4 * i + 3] * g;
			T[i] = nextT;
			B[i] = i < barCells ? nextB : 0;
			if (T[i] > peak[i]) peak[i] = T[i];
			const air = i < barCells ? loss / 2 : loss;
			lost += dt * air * (T[i] + (i < barCells ? B[i] : 0));
			if (i < barCells) inBar += dt * contact * (T[i] - B[i]);
		}
		given += source * dt;
		time += dt;
		trace.push([time, inBar]);
	}
	let stored = 0;
	for (let i = 0; i < n; i++) stored += cs * T[i] + (i < barCells ? cb * B[i] : 0);
	return {
		y: Float64Array.from({ length: n }, (_, i) => (i + 0.5) * dx),
		peakRise: peak,
		barShare(after) {
			let best = 0;
			for (const [t, e] of trace) if (t <= after) best = e;
			return best / given;
		},
		energyError: Math.abs(given - stored - lost) / given
	};
}

/**
 * Okerblom's plastic strain from peak temperatures: nothing below the yield rise, `alpha T - eY` up to twice that, `eY` above.
 * @returns its integral over one side's width, mm (times E t gives one side's tendon force)
 */
export function plasticIntegral(h: SectionHistory, alpha: number, yieldStrain: number): number {
	const dx = h.y.length > 1 ? h.y[1] - h.y[0] : 0;
	let sum = 0;
	for (const rise of h.peakRise) sum += Math.min(yieldStrain, Math.max(0, alpha * rise - yieldStrain)) * dx;
	return sum;
}
