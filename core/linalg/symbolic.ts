/**
 * Symbolic analysis of a node-block matrix (6 x 6 blocks): elimination tree, postorder, supernodes with relaxed
 * amalgamation, row structures. Liu (1990), SIAM J. Matrix Anal. Appl. 11(1), 134-172; Ashcraft, Grimes (1989).
 */
import type { Graph } from './ordering';

export const BLOCK = 6;

export interface Symbolic {
	/** nodes */
	n: number;
	/** new to old */
	perm: Int32Array;
	/** old to new */
	inverse: Int32Array;
	/** first (new) node of each supernode, one more at the end */
	start: Int32Array;
	/** where each supernode's row list begins in `rows`; its own nodes come first */
	rowStart: Int32Array;
	rows: Int32Array;
	/** where each supernode's panel begins, in numbers; panels are row-major, 6 x (own nodes) wide */
	panelStart: Float64Array;
	panelSize: number;
	snOf: Int32Array;
	/** largest count of rows and of own nodes of a supernode */
	maxRows: number;
	maxCols: number;
	/** numbers in the factor (lower triangle) and multiply-adds to compute it */
	factorSize: number;
	flops: number;
}

function eliminationTree(g: Graph, perm: Int32Array, inverse: Int32Array): Int32Array {
	const parent = new Int32Array(g.n).fill(-1);
	const ancestor = new Int32Array(g.n).fill(-1);
	for (let k = 0; k < g.n; k++)
		for (let p = g.ptr[perm[k]]; p < g.ptr[perm[k] + 1]; p++) {
			let i = inverse[g.ind[p]];
			if (i >= k) continue;
			while (i !== -1 && i < k) {
				const up = ancestor[i];
				ancestor[i] = k;
				if (up === -1) parent[i] = k;
				i = up;
			}
		}
	return parent;
}

function postorder(parent: Int32Array): number[] {
	const n = parent.length;
	const first = new Int32Array(n).fill(-1);
	const sibling = new Int32Array(n).fill(-1);
	for (let k = n - 1; k >= 0; k--)
		if (parent[k] >= 0) {
			sibling[k] = first[parent[k]];
			first[parent[k]] = k;
		}
	const out: number[] = [];
	for (let root = 0; root < n; root++) {
		if (parent[root] >= 0) continue;
		const stack = [root];
		while (stack.length) {
			const u = stack[stack.length - 1];
			if (first[u] >= 0) {
				stack.push(first[u]);
				first[u] = sibling[first[u]];
			} else {
				out.push(u);
				stack.pop();
			}
		}
	}
	return out;
}

/** Merge limits: a supernode of up to `nodes` nodes may hold this share of explicit zeros. */
const RELAX: readonly { nodes: number; zeros: number }[] = [
	{ nodes: 3, zeros: 1 },
	{ nodes: 8, zeros: 0.5 },
	{ nodes: 24, zeros: 0.15 },
	{ nodes: Infinity, zeros: 0.05 }
];

function supernodeStarts(parent: Int32Array, count: Int32Array): number[] {
	const n = parent.length;
	let start = [0];
	for (let k = 1; k < n; k++) if (!(parent[k - 1] === k && count[k - 1] === count[k] + 1)) start.push(k);
	const ns = start.length;
	const end = (s: number) => (s + 1 < ns ? start[s + 1] : n);
	const snOf = new Int32Array(n);
	for (let s = 0; s < ns; s++) for (let k = start[s]; k < end(s); k++) snOf[k] = s;
	const size = Int32Array.from({ length: ns }, (_, s) => end(s) - start[s]);
	const height = Int32Array.from({ length: ns }, (_, s) => count[start[s]]);
	const zeros = new Float64Array(ns);
	const joined = new Uint8Array(ns); // s is merged with s + 1
	for (let s = ns - 2; s >= 0; s--) {
		const up = parent[end(s) - 1];
		if (up < 0) continue;
		let g = s + 1;
		const target = snOf[up];
		while (g !== target && joined[g]) g++;
		if (g !== target) continue;
		g = s + 1;
		const nodes = size[s] + size[g];
		const nz = zeros[s] + zeros[g] + size[s] * (size[s] + height[g] - height[s]);
		const total = (nodes * (nodes + 1)) / 2 + nodes * (height[g] - size[g]);
		if (RELAX.some((r) => nodes <= r.nodes && nz / total <= r.zeros)) {
			joined[s] = 1;
			size[s] = nodes;
			zeros[s] = nz;
			height[s] = nodes + height[g] - size[g];
		}
	}
	start = start.filter((_, s) => s === 0 || !joined[s - 1]);
	start.push(n);
	return start;
}

export function analyse(g: Graph, ordering: Int32Array): Symbolic {
	const n = g.n;
	let perm = ordering;
	const inverse = new Int32Array(n);
	const number = () => perm.forEach((old, k) => (inverse[old] = k));
	number();
	perm = Int32Array.from(postorder(eliminationTree(g, perm, inverse)), (k) => perm[k]);
	number();
	const parent = eliminationTree(g, perm, inverse);
	const mark = new Int32Array(n).fill(-1);
	const count = new Int32Array(n).fill(1);
	for (let k = 0; k < n; k++) {
		mark[k] = k;
		for (let p = g.ptr[perm[k]]; p < g.ptr[perm[k] + 1]; p++) {
			let i = inverse[g.ind[p]];
			if (i >= k) continue;
			while (mark[i] !== k) {
				mark[i] = k;
				count[i]++;
				i = parent[i];
			}
		}
	}
	const start = Int32Array.from(supernodeStarts(parent, count));
	const ns = start.length - 1;
	const snOf = new Int32Array(n);
	for (let s = 0; s < ns; s++) snOf.fill(s, start[s], start[s + 1]);
	const below: number[][] = [];
	const kids: number[][] = Array.from({ length: ns }, () => []);
	mark.fill(-1);
	for (let s = 0; s < ns; s++) {
		const rows: number[] = [];
		const take = (i: number) => {
			if (i < start[s + 1] || mark[i] === s) return;
			mark[i] = s;
			rows.push(i);
		};
		for (let k = start[s]; k < start[s + 1]; k++) for (let p = g.ptr[perm[k]]; p < g.ptr[perm[k] + 1]; p++) take(inverse[g.ind[p]]);
		for (const c of kids[s]) below[c].forEach(take);
		rows.sort((p, q) => p - q);
		below.push(rows);
		if (rows.length) kids[snOf[rows[0]]].push(s);
	}
	const rowStart = new Int32Array(ns + 1);
	const panelStart = new Float64Array(ns + 1);
	let [maxRows, maxCols, factorSize, flops] = [0, 0, 0, 0];
	for (let s = 0; s < ns; s++) {
		const cols = start[s + 1] - start[s];
		const rows = cols + below[s].length;
		rowStart[s + 1] = rowStart[s] + rows;
		panelStart[s + 1] = panelStart[s] + BLOCK * BLOCK * cols * rows;
		maxRows = Math.max(maxRows, rows);
		maxCols = Math.max(maxCols, cols);
		for (let c = 0; c < BLOCK * cols; c++) {
			factorSize += BLOCK * rows - c;
			flops += (BLOCK * rows - c) ** 2;
		}
	}
	const rows = new Int32Array(rowStart[ns]);
	for (let s = 0; s < ns; s++) {
		let p = rowStart[s];
		for (let k = start[s]; k < start[s + 1]; k++) rows[p++] = k;
		rows.set(below[s], p);
	}
	return { n, perm, inverse, start, rowStart, rows, panelStart, panelSize: panelStart[ns], snOf, maxRows, maxCols, factorSize, flops };
}
