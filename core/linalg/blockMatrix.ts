/** Symmetric node-block matrix: lower triangle by rows, 6 x 6 blocks, row-major inside a block. */
import { BLOCK } from './symbolic';
import type { Graph } from './ordering';

const B2 = BLOCK * BLOCK;

export class BlockMatrix {
	readonly ptr: Int32Array;
	readonly col: Int32Array;
	readonly val: Float64Array;
	readonly n: number;

	constructor(readonly graph: Graph) {
		this.n = graph.n;
		this.ptr = new Int32Array(graph.n + 1);
		const col: number[] = [];
		for (let i = 0; i < graph.n; i++) {
			for (let p = graph.ptr[i]; p < graph.ptr[i + 1] && graph.ind[p] < i; p++) col.push(graph.ind[p]);
			col.push(i);
			this.ptr[i + 1] = col.length;
		}
		this.col = Int32Array.from(col);
		this.val = new Float64Array(B2 * col.length);
	}

	/** Start of the block (i, j), j <= i. */
	private at(i: number, j: number): number {
		let lo = this.ptr[i];
		let hi = this.ptr[i + 1] - 1;
		while (lo < hi) {
			const mid = (lo + hi) >> 1;
			if (this.col[mid] < j) lo = mid + 1;
			else hi = mid;
		}
		if (this.col[lo] !== j) throw new RangeError(`Block (${i}, ${j}) is not in the matrix's graph`);
		return B2 * lo;
	}

	/** Adds an element matrix over `nodes`, (6 k) x (6 k), row-major. */
	addElement(nodes: ArrayLike<number>, k: Float64Array) {
		const w = BLOCK * nodes.length;
		for (let a = 0; a < nodes.length; a++)
			for (let b = 0; b < nodes.length; b++) {
				if (nodes[b] > nodes[a]) continue;
				const o = this.at(nodes[a], nodes[b]);
				for (let r = 0; r < BLOCK; r++) for (let c = 0; c < BLOCK; c++) this.val[o + r * BLOCK + c] += k[(BLOCK * a + r) * w + BLOCK * b + c];
			}
	}

	addDiagonal(node: number, freedom: number, value: number) {
		this.val[this.at(node, node) + freedom * (BLOCK + 1)] += value;
	}

	/** Adds to one entry of a node's own block. */
	addNodeBlock(node: number, row: number, column: number, value: number) {
		this.val[this.at(node, node) + BLOCK * row + column] += value;
	}

	clear() {
		this.val.fill(0);
	}

	/** The diagonal, one per freedom. */
	diagonal(): Float64Array {
		const out = new Float64Array(BLOCK * this.n);
		for (let k = 0; k < this.n; k++) {
			const o = this.at(k, k);
			for (let r = 0; r < BLOCK; r++) out[BLOCK * k + r] = this.val[o + r * (BLOCK + 1)];
		}
		return out;
	}

	/** Fixes freedoms (index 6 node + freedom): their rows and columns become a scaled identity. */
	fix(freedoms: readonly number[]) {
		const fixed = new Uint8Array(BLOCK * this.n);
		for (const f of freedoms) fixed[f] = 1;
		for (let i = 0; i < this.n; i++)
			for (let p = this.ptr[i]; p < this.ptr[i + 1]; p++) {
				const j = this.col[p];
				for (let r = 0; r < BLOCK; r++)
					for (let c = 0; c < BLOCK; c++)
						if (fixed[BLOCK * i + r] || fixed[BLOCK * j + c]) this.val[B2 * p + r * BLOCK + c] = i === j && r === c ? 1e5 : 0;
			}
	}

	multiply(x: Float64Array): Float64Array {
		const y = new Float64Array(x.length);
		const { val, ptr, col } = this;
		for (let i = 0; i < this.n; i++)
			for (let p = ptr[i]; p < ptr[i + 1]; p++) {
				const xj = BLOCK * col[p];
				const yi = BLOCK * i;
				const off = xj !== yi;
				const x0 = x[xj];
				const x1 = x[xj + 1];
				const x2 = x[xj + 2];
				const x3 = x[xj + 3];
				const x4 = x[xj + 4];
				const x5 = x[xj + 5];
				for (let r = 0, v = B2 * p; r < BLOCK; r++, v += BLOCK) {
					y[yi + r] += val[v] * x0 + val[v + 1] * x1 + val[v + 2] * x2 + val[v + 3] * x3 + val[v + 4] * x4 + val[v + 5] * x5;
					if (!off) continue;
					const xi = x[yi + r];
					y[xj] += val[v] * xi;
					y[xj + 1] += val[v + 1] * xi;
					y[xj + 2] += val[v + 2] * xi;
					y[xj + 3] += val[v + 3] * xi;
					y[xj + 4] += val[v + 4] * xi;
					y[xj + 5] += val[v + 5] * xi;
				}
			}
		return y;
	}
}
