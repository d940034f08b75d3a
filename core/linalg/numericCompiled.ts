/** The numeric kernels compiled: everything they touch lies in one memory of this factor's own. */
import type { BlockMatrix } from './blockMatrix';
import type { Kernel, KernelFactory } from './kernel/kernel';
import { PIVOT_FLOOR, SingularError, type Numeric } from './numeric';
import type { Graph } from './ordering';
import { BLOCK, type Symbolic } from './symbolic';

export class CompiledNumeric implements Numeric {
	negative = 0;
	private readonly k: Kernel;
	private readonly ns: number;
	private readonly count: number;
	/** addresses */
	private readonly a: Record<
		| 'start'
		| 'rowStart'
		| 'rows'
		| 'panelStart'
		| 'snOf'
		| 'values'
		| 'target'
		| 'width'
		| 'turned'
		| 'sign'
		| 'diagonal'
		| 'position'
		| 'head'
		| 'next'
		| 'offset'
		| 'hasNegative'
		| 'product'
		| 'signed'
		| 'panels'
		| 'X'
		| 'touched'
		| 'end',
		number
	>;

	constructor(
		private readonly symbolic: Symbolic,
		graph: Graph,
		factory: KernelFactory
	) {
		const S = symbolic;
		const k = (this.k = factory());
		this.ns = S.start.length - 1;
		const { target, width, turned } = placesOf(S, graph);
		this.count = width.length;
		const work = 8 * BLOCK * BLOCK * S.maxRows * Math.max(S.maxCols, 4);
		const turnedAt = k.reserve(turned.length);
		k.u8(turnedAt, turned.length).set(turned);
		this.a = {
			start: k.putInt(S.start),
			rowStart: k.putInt(S.rowStart),
			rows: k.putInt(S.rows),
			panelStart: k.putNumbers(S.panelStart),
			snOf: k.putInt(S.snOf),
			target: k.putNumbers(target),
			width: k.putInt(width),
			turned: turnedAt,
			values: k.reserve(8 * BLOCK * BLOCK * this.count),
			sign: k.reserve(8 * BLOCK * S.n),
			diagonal: k.reserve(8 * BLOCK * S.n),
			position: k.reserve(4 * S.n),
			head: k.reserve(4 * this.ns),
			next: k.reserve(4 * this.ns),
			offset: k.reserve(4 * this.ns),
			hasNegative: k.reserve(4 * this.ns),
			product: k.reserve(work),
			signed: k.reserve(work),
			panels: k.reserve(8 * S.panelSize),
			X: k.reserve(32 * BLOCK * S.n),
			touched: k.reserve(S.n),
			end: 0
		};
		this.a.end = k.reserve(0);
	}

	get bytes() {
		return this.k.bytes;
	}
	get sign() {
		return this.k.f64(this.a.sign, BLOCK * this.symbolic.n);
	}
	get X() {
		return this.k.f64(this.a.X, 4 * BLOCK * this.symbolic.n);
	}
	get touched() {
		return this.k.u8(this.a.touched, this.symbolic.n);
	}

	factorise(A: BlockMatrix) {
		const { k, a, symbolic: S } = this;
		k.f64(a.values, A.val.length).set(A.val);
		k.f64(a.panels, S.panelSize).fill(0);
		const old = A.diagonal();
		const diagonal = k.f64(a.diagonal, BLOCK * S.n);
		for (let i = 0; i < S.n; i++) for (let r = 0; r < BLOCK; r++) diagonal[BLOCK * i + r] = Math.abs(old[BLOCK * S.perm[i] + r]);
		k.run.scatter(this.count, a.values, a.target, a.width, a.turned, a.panels);
		const found = k.run.factorise(
			this.ns,
			a.start,
			a.rowStart,
			a.rows,
			a.panelStart,
			a.snOf,
			a.panels,
			a.sign,
			a.diagonal,
			PIVOT_FLOOR,
			a.position,
			a.head,
			a.next,
			a.offset,
			a.hasNegative,
			a.product,
			a.signed
		);
		if (found < 0) {
			const index = -1 - found;
			throw new SingularError(BLOCK * S.perm[Math.floor(index / BLOCK)] + (index % BLOCK));
		}
		this.negative = found;
	}

	forward4() {
		const { a } = this;
		this.k.run.forward4(this.ns, a.start, a.rowStart, a.rows, a.panelStart, a.panels, a.X, a.touched);
	}
	backward4() {
		const { a } = this;
		this.k.run.backward4(this.ns, a.start, a.rowStart, a.rows, a.panelStart, a.panels, a.sign, a.X);
	}

	square(V: Float64Array, signed: Float64Array, rows: number, width: number): Float64Array {
		const { k } = this;
		const [v, s, p] = [8 * rows * width, 8 * rows * width, 8 * rows * rows].map((bytes) => k.reserve(bytes));
		k.f64(v, rows * width).set(V);
		k.f64(s, rows * width).set(signed);
		k.run.multiplyTransposed(v, width, s, width, p, rows, rows, rows, width, 1, 0);
		const P = k.f64(p, rows * rows).slice();
		k.release(this.a.end);
		return P;
	}
}

/** Where each 6 x 6 block of the matrix goes in the panels (in numbers), the width of its panel, and whether it is read across. */
function placesOf(S: Symbolic, graph: Graph) {
	const target: number[] = [];
	const width: number[] = [];
	const turned: number[] = [];
	// the same order of blocks as BlockMatrix keeps: lower triangle by rows, the diagonal last
	const a: number[] = [];
	const b: number[] = [];
	for (let i = 0; i < graph.n; i++) {
		for (let p = graph.ptr[i]; p < graph.ptr[i + 1] && graph.ind[p] < i; p++) {
			a.push(S.inverse[i]);
			b.push(S.inverse[graph.ind[p]]);
		}
		a.push(S.inverse[i]);
		b.push(S.inverse[i]);
	}
	const byOwner: number[][] = Array.from({ length: S.start.length - 1 }, () => []);
	a.forEach((x, q) => byOwner[S.snOf[Math.min(x, b[q])]].push(q));
	const position = new Int32Array(S.n);
	byOwner.forEach((list, s) => {
		for (let p = S.rowStart[s]; p < S.rowStart[s + 1]; p++) position[S.rows[p]] = p - S.rowStart[s];
		const w = BLOCK * (S.start[s + 1] - S.start[s]);
		for (const q of list) {
			const [low, high] = [Math.min(a[q], b[q]), Math.max(a[q], b[q])];
			target[q] = S.panelStart[s] + BLOCK * position[high] * w + BLOCK * (low - S.start[s]);
			width[q] = w;
			turned[q] = a[q] < b[q] ? 1 : 0;
		}
	});
	return { target: Float64Array.from(target), width: Int32Array.from(width), turned: Uint8Array.from(turned) };
}
