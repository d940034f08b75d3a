/**
 * Linear buckling: the load factors at which the stress of a load just loses its stable shape, K phi = -factor K_g phi.
 * Subspace iteration on K^-1 K_g (Bathe 1996, section 11.6); K_g is the difference of two tangents, so that every term of
 * the potential takes part.
 */
import { directionOf, nodeOf } from '../shell/freedoms';
import { generalisedEigen } from '../linalg/smallSymmetric';
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
/** relative change of the factors between two iterations at which they have settled */
const SETTLED = 1e-5;

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

	const m = Math.min(count + 8, n);
	const X: Float64Array[] = Array.from({ length: m }, (_, c) =>
		Float64Array.from({ length: n }, (_, i) => Math.sin(0.37 * (c + 1) * (1 + nodeOf(i)) + 1.7 * directionOf(i)) * (directionOf(i) < 3 ? 1 : 0.05))
	);
	let values: number[] = [];
	const MAX = 60;
	for (let it = 0; it < MAX; it++) {
		// Y = K^-1 Kg X, orthonormal in K
		const R = X.map((x) => Kg.multiply(x));
		const b = new Float64Array(n * m);
		R.forEach((r, c) => {
			for (let i = 0; i < n; i++) b[i * m + c] = -r[i];
		});
		const y = system.factor.solveMany(b, m);
		const Y = Array.from({ length: m }, (_, c) => Float64Array.from({ length: n }, (_, i) => y[i * m + c]));
		const KY = Y.map((v) => K.multiply(v));
		const A = gram(Y, KY);
		const B = gram(
			Y,
			Y.map((v) => Kg.multiply(v)).map((v) => v.map((z) => -z))
		);
		// B q = (1/factor) A q
		const { vectors, values: lambda } = generalisedEigen(B, A, m);
		const order = [...lambda.keys()].sort((p, q) => Math.abs(lambda[q]) - Math.abs(lambda[p]));
		const next = order.map((c) => 1 / lambda[c]);
		order.forEach((c, k) => {
			X[k] = new Float64Array(n);
			for (let j = 0; j < m; j++) {
				const f = vectors[j * m + c];
				if (f !== 0) for (let i = 0; i < n; i++) X[k][i] += f * Y[j][i];
			}
		});
		const settled = values.length > 0 && next.slice(0, count).every((v, k) => Math.abs(v - values[k]) < SETTLED * Math.abs(v));
		values = next;
		if (settled) break;
	}
	const out: BucklingMode[] = [];
	for (let k = 0; k < count && k < m; k++) {
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

const gram = (P: readonly Float64Array[], Q: readonly Float64Array[]) => {
	const m = P.length;
	const out = new Float64Array(m * m);
	for (let i = 0; i < m; i++)
		for (let j = 0; j <= i; j++) {
			let s = 0;
			for (let k = 0; k < P[i].length; k++) s += P[i][k] * Q[j][k];
			out[i * m + j] = out[j * m + i] = s;
		}
	return out;
};
