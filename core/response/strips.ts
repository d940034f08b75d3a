/**
 * Tendon force by elastic-plastic strips: the section across a seam as strips along it, each with its own temperature
 * history, all kept in one plane (axial strain, and a turn in the plane of the sheet unless it is held). What shortens
 * plastically while hot pulls when cold. Above the solid temperature a strip is stress-free and forgets its strain.
 * Method of plane sections: Okerblom (1958); Masubuchi (1980), Analysis of Welded Structures, chapter 5.
 * Limits: plane sections do not hold on runs shorter than about the width of the plastic zone (up to 80 mm a side), and
 * the sheet is taken to stay flat while hot.
 */
import type { SectionHistory } from '../heat/section';
import type { HotMetal } from '../materials/hot';

export interface StripInput {
	history: SectionHistory;
	sheets: readonly { metal: HotMetal; thickness: number }[];
	/** the rest of the piece holds the section against turning in its own plane */
	heldStraight: boolean;
}

export interface StripResult {
	/** N: -E times the plastic strain over the section; what an eigenstrain model of the piece needs */
	inherentForceN: number;
	/** N: tension left in the strips that pull, once this section alone has relieved it */
	relievedTensionN: number;
	/** by sheet: N, and mm of its mean distance from the seam */
	sides: readonly [{ force: number; distance: number }, { force: number; distance: number }];
	/** mm, farthest strip from the seam that yielded on each side */
	plasticHalfWidthMm: number;
	/** largest force left out of balance, over the largest in a strip */
	imbalance: number;
	/** plastic strain by cell, cold */
	plastic: Float64Array;
}

/** Largest change of strain in one round of Newton's method. */
const LONGEST_STRIDE = 2e-3;
const MOST_ROUNDS = 300;
/** Slope of a yielded strip, as a share of E: keeps Newton's matrix regular, far below anything the answer feels. */
const YIELDED = 1e-6;

// eslint-disable-next-line complexity -- one solution in time: its steps share every array
export function stripForce({ history, sheets, heldStraight }: StripInput): StripResult {
	const { x, dx, sheet, temperatures } = history;
	const n = x.length;
	const plastic = new Float64Array(n);
	const area = Float64Array.from(dx, (w, i) => w * sheets[sheet[i]].thickness);
	const yielded = new Uint8Array(n);
	const thermal = new Float64Array(n);
	const E = new Float64Array(n);
	const limit = new Float64Array(n);
	const molten = new Uint8Array(n);
	const stress = new Float64Array(n);
	let a = 0;
	let b = 0;
	let imbalance = 0;
	const cold = new Float64Array(n).fill(20);
	for (const T of [...temperatures, cold]) {
		for (let i = 0; i < n; i++) {
			const m = sheets[sheet[i]].metal;
			thermal[i] = m.elongation(T[i]);
			E[i] = Math.max(m.eModulus(T[i]), 1);
			limit[i] = m.proof(T[i]);
			molten[i] = T[i] >= m.solidC ? 1 : 0;
		}
		let stride = LONGEST_STRIDE;
		let before = 0;
		for (let round = 0; round < MOST_ROUNDS; round++) {
			let [N, M, k00, k01, k11, top] = [0, 0, 0, 0, 0, 0];
			for (let i = 0; i < n; i++) {
				if (molten[i]) {
					stress[i] = 0;
					continue;
				}
				const trial = E[i] * (a + b * x[i] - thermal[i] - plastic[i]);
				const over = Math.abs(trial) > limit[i];
				stress[i] = over ? Math.sign(trial) * limit[i] : trial;
				const k = (over ? YIELDED * E[i] : E[i]) * area[i];
				N += stress[i] * area[i];
				M += stress[i] * area[i] * x[i];
				k00 += k;
				k01 += k * x[i];
				k11 += k * x[i] * x[i];
				top = Math.max(top, Math.abs(stress[i] * area[i]));
			}
			imbalance = top > 0 ? Math.abs(N) / top : 0;
			if (Math.abs(N) <= 1e-7 * top + 1e-9 && (heldStraight || Math.abs(M) <= 1e-6 * top * Math.max(1, Math.abs(x[0])) + 1e-9)) break;
			// where every strip yields the slope is nearly nothing and Newton would leap: the stride is bounded, and shortened
			// each time the balance changes sign
			if (N * before < 0) stride *= 0.6;
			before = N;
			const det = k00 * k11 - k01 * k01;
			let da = heldStraight ? N / k00 : (N * k11 - M * k01) / det;
			let db = heldStraight ? 0 : (M * k00 - N * k01) / det;
			const reach = Math.abs(da) + Math.abs(db) * Math.max(Math.abs(x[0]), Math.abs(x[n - 1]));
			if (reach > stride) {
				da *= stride / reach;
				db *= stride / reach;
			}
			a -= da;
			b -= db;
		}
		for (let i = 0; i < n; i++) {
			const total = a + b * x[i];
			if (molten[i]) plastic[i] = total - thermal[i];
			else {
				const elastic = stress[i] / E[i];
				const now = total - thermal[i] - elastic;
				if (Math.abs(now - plastic[i]) > 1e-9) yielded[i] = 1;
				plastic[i] = now;
			}
		}
	}
	let [tension, half] = [0, 0];
	const [forces, levers] = [new Float64Array(2), new Float64Array(2)];
	for (let i = 0; i < n; i++) {
		const f = -sheets[sheet[i]].metal.eModulus(20) * plastic[i] * area[i];
		forces[sheet[i]] += f;
		levers[sheet[i]] += f * Math.abs(x[i]);
		if (stress[i] > 0) tension += stress[i] * area[i];
		if (yielded[i]) half = Math.max(half, Math.abs(x[i]) + dx[i] / 2);
	}
	const side = (k: number) => ({ force: forces[k], distance: forces[k] !== 0 ? levers[k] / forces[k] : 0 });
	return {
		inherentForceN: forces[0] + forces[1],
		sides: [side(0), side(1)],
		relievedTensionN: tension,
		plasticHalfWidthMm: half,
		imbalance,
		plastic
	};
}
