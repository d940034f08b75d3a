/**
 * Linear buckling: the load factors at which the stress of a load just loses its stable shape, K phi = -factor K_g phi.
 * Block Krylov on K^-1 K_g (Grimes, Lewis & Simon 1994); K_g is the difference of two tangents, so that every term of
 * the potential takes part.
 */
import { directionOf, nodeOf } from '../shell/freedoms';
import { symmetricEigen } from '../linalg/smallSymmetric';
import { BlockMatrix } from '../linalg/blockMatrix';
import type { State } from './state';
import type { EquilibriumSystem } from './system';

export interface BucklingMode {
	/** times the load; negative: under the reversed load */
	factor: number;
	/** 6 per node */
	shape: Float64Array;
	/** |K phi + factor K_g phi| / |K phi| */
	residual: number;
}

/** Share of the load at which the stress stiffness is read off; the tangent is linear in it to this order. */
const PROBE = 1e-4;
/** relative change of the factors from one block to the next at which they have settled */
const SETTLED = 1e-5;
const BLOCK_WIDTH = 4;
const MOST_BLOCKS = 30;
/** A vector of which less than this share (squared) is new adds nothing to the basis. */
const NOTHING_NEW = 1e-20;

/**
 * @param count how many of the lowest factors (in size) to find
 * @param lay lays a share of the load on, where the terms do not grow with it by themselves
 * @returns sorted by size of the factor; only those that converged
 */
export function bucklingModes(system: EquilibriumSystem, start: State, count: number, lay?: (share: number) => void): BucklingMode[] {
	const n = system.freedoms;
	// terms that lay their own load are taken whole at that load
	const at = (share: number) => {
		lay?.(share);
		return lay ? 1 : share;
	};
	system.foresee(start, at(0));
	system.fillTangent(start, at(0));
	const K = new BlockMatrix(system.matrix.graph);
	K.val.set(system.matrix.val);
	system.factor.factorise(system.matrix);
	const probe = at(PROBE);
	const { gradient } = system.gradient(start, probe);
	const u = system.factor.solve(gradient.map((v) => -v));
	const Kg = new BlockMatrix(system.matrix.graph);
	// forces as the linear solution foresees them, at the undeformed shape: no second-order stretch in the way
	system.foresee(start, probe, u);
	system.fillTangent(start, probe);
	for (let i = 0; i < Kg.val.length; i++) Kg.val[i] = (system.matrix.val[i] - K.val[i]) / PROBE;
	system.foresee(start, at(0));

	const { values, X } = krylov(system, Kg, n, count);
	const out: BucklingMode[] = [];
	for (let k = 0; k < values.length; k++) {
		const a = K.multiply(X[k]);
		const g = Kg.multiply(X[k]);
		let [top, size] = [0, 0];
		for (let i = 0; i < n; i++) {
			top += (a[i] + values[k] * g[i]) ** 2;
			size += a[i] ** 2;
		}
		const residual = Math.sqrt(top / size);
		if (Number.isFinite(values[k]) && residual < 1e-2) out.push({ factor: values[k], shape: X[k], residual });
	}
	return out.sort((p, q) => Math.abs(p.factor) - Math.abs(q.factor));
}

/**
 * The largest eigenvalues of T = -K^-1 K_g, which is symmetric under K: a basis is grown block by block, [X, T X, T^2 X, ...], each
 * block made orthonormal in K to all before it, twice over; T seen in it is a small symmetric matrix. Blocks of four find modes that
 * come in pairs, and one pass through the factor serves all four.
 * @returns factors (one over the eigenvalue) and shapes, lowest in size first
 */
function krylov(system: EquilibriumSystem, Kg: BlockMatrix, n: number, count: number): { values: number[]; X: Float64Array[] } {
	/** the basis, and K times it */
	const V: Float64Array[] = [];
	const KV: Float64Array[] = [];
	/** -K_g times it; its products with the basis are T as the basis sees it */
	const R: Float64Array[] = [];
	const rows: number[][] = [];
	const grow = (candidates: readonly (readonly [Float64Array, Float64Array])[]) => {
		for (const [v, kv] of candidates) {
			const before = dot(v, kv);
			for (let pass = 0; pass < 2; pass++)
				for (let j = 0; j < V.length; j++) {
					const f = dot(v, KV[j]);
					for (let i = 0; i < n; i++) v[i] -= f * V[j][i];
					for (let i = 0; i < n; i++) kv[i] -= f * KV[j][i];
				}
			const size = dot(v, kv);
			// nothing new in it
			if (!(size > NOTHING_NEW * before)) continue;
			const f = 1 / Math.sqrt(size);
			V.push(v.map((x) => f * x));
			KV.push(kv.map((x) => f * x));
		}
	};
	const solve = (right: readonly Float64Array[]) => {
		const w = right.length;
		const b = new Float64Array(n * w);
		right.forEach((r, c) => {
			for (let i = 0; i < n; i++) b[i * w + c] = r[i];
		});
		const y = system.factor.solveMany(b, w);
		return right.map((r, c) => [Float64Array.from({ length: n }, (_, i) => y[i * w + c]), r.slice()] as const);
	};
	// the same start every time, held nowhere that is fixed: solved for loads that have no symmetry
	const loads = Array.from({ length: Math.min(BLOCK_WIDTH, n) }, (_, c) =>
		Float64Array.from({ length: n }, (_, i) => Math.sin(0.37 * (c + 1) * (1 + nodeOf(i)) + 1.7 * directionOf(i)) * (directionOf(i) < 3 ? 1 : 0.05))
	);
	for (const load of loads) for (const f of system.fixedList) load[f] = 0;
	grow(solve(loads));
	let values: number[] = [];
	let vectors: Float64Array[] = [];
	for (let block = 0; block < MOST_BLOCKS && V.length > R.length; block++) {
		const first = R.length;
		for (let j = first; j < V.length; j++) R.push(Kg.multiply(V[j]).map((x) => -x));
		const m = V.length;
		for (let i = 0; i < m; i++) {
			rows[i] ??= [];
			for (let j = Math.max(first, rows[i].length); j < m; j++) rows[i][j] = dot(V[i], R[j]);
		}
		const H = Float64Array.from({ length: m * m }, (_, k) => {
			const [i, j] = [Math.floor(k / m), k % m];
			return i <= j ? rows[i][j] : rows[j][i];
		});
		const { values: lambda, vectors: q } = symmetricEigen(H, m);
		const order = [...lambda.keys()].sort((a, b) => Math.abs(lambda[b]) - Math.abs(lambda[a])).slice(0, count);
		const next = order.map((c) => 1 / lambda[c]);
		const settled = values.length === next.length && m >= 3 * count && next.every((v, k) => Math.abs(v - values[k]) < SETTLED * Math.abs(v));
		values = next;
		vectors = order.map((c) => Float64Array.from({ length: m }, (_, i) => q[i * m + c]));
		if (settled) break;
		grow(solve(R.slice(first)));
	}
	const X = vectors.map((q) => {
		const x = new Float64Array(n);
		q.forEach((f, j) => {
			for (let i = 0; i < n; i++) x[i] += f * V[j][i];
		});
		return x;
	});
	return { values, X };
}

const dot = (p: Float64Array, q: Float64Array): number => {
	let s = 0;
	for (let i = 0; i < p.length; i++) s += p[i] * q[i];
	return s;
};
