// @ts-nocheck AssemblyScript, not TypeScript: compiled by scripts/build-kernel.mjs into bytes.ts.
// The numeric kernels of supernodal.ts and dense.ts with two lanes of doubles: the same sums in another order of addition
// within a dot product, so results agree with the TypeScript to rounding. Raw memory, no runtime, nothing allocated here;
// all addresses are bytes, sizes count numbers. Panels are row-major; m, n and k are multiples of 6 (of 3 for rows).

const STEP: i32 = 24;
const LOWER: usize = memory.data(24 * 24 * 8, 16);
const THREE: usize = memory.data(3 * 24 * 8, 16);

@inline function sum2(a: v128): f64 {
	return f64x2.extract_lane(a, 0) + f64x2.extract_lane(a, 1);
}
@inline function subtractAt(p: usize, v: f64): void {
	store<f64>(p, load<f64>(p) - v);
}
@inline function at(p: usize, i: i32): usize {
	return p + (<usize>i << 3);
}
@inline function intAt(p: usize, i: i32): i32 {
	return load<i32>(p + (<usize>i << 2));
}
@inline function setInt(p: usize, i: i32, v: i32): void {
	store<i32>(p + (<usize>i << 2), v);
}

/** C[m x n] (-)= A[m x k] B[n x k]^T in 3 x 3 tiles; `lower` leaves out tiles above the diagonal. */
export function multiplyTransposed(A: usize, lda: i32, B: usize, ldb: i32, C: usize, ldc: i32, m: i32, n: i32, k: i32, lower: i32, subtract: i32): void {
	// columns of B in bites that stay in the cache
	let bite: i32 = k > 0 ? 24576 / k : n;
	bite -= bite % 3;
	if (bite < 12) bite = 12;
	const la: usize = <usize>lda << 3;
	const lb: usize = <usize>ldb << 3;
	const lc: usize = <usize>ldc << 3;
	const kb: usize = <usize>k << 3;
	for (let j0: i32 = 0; j0 < n; j0 += bite) {
		const j1: i32 = min<i32>(j0 + bite, n);
		for (let i: i32 = lower ? j0 : 0; i < m; i += 3) {
			const a = A + <usize>i * la;
			const end = a + kb;
			const je: i32 = lower && i + 3 < j1 ? i + 3 : j1;
			for (let j: i32 = j0; j < je; j += 3) {
				let p0 = a;
				let p1 = a + la;
				let p2 = p1 + la;
				let q0 = B + <usize>j * lb;
				let q1 = q0 + lb;
				let q2 = q1 + lb;
				let c00 = f64x2.splat(0);
				let c01 = c00;
				let c02 = c00;
				let c10 = c00;
				let c11 = c00;
				let c12 = c00;
				let c20 = c00;
				let c21 = c00;
				let c22 = c00;
				while (p0 < end) {
					const x = v128.load(q0);
					const y = v128.load(q1);
					const z = v128.load(q2);
					let u = v128.load(p0);
					c00 = f64x2.add(c00, f64x2.mul(u, x));
					c01 = f64x2.add(c01, f64x2.mul(u, y));
					c02 = f64x2.add(c02, f64x2.mul(u, z));
					u = v128.load(p1);
					c10 = f64x2.add(c10, f64x2.mul(u, x));
					c11 = f64x2.add(c11, f64x2.mul(u, y));
					c12 = f64x2.add(c12, f64x2.mul(u, z));
					u = v128.load(p2);
					c20 = f64x2.add(c20, f64x2.mul(u, x));
					c21 = f64x2.add(c21, f64x2.mul(u, y));
					c22 = f64x2.add(c22, f64x2.mul(u, z));
					p0 += 16;
					p1 += 16;
					p2 += 16;
					q0 += 16;
					q1 += 16;
					q2 += 16;
				}
				let c = C + <usize>i * lc + (<usize>j << 3);
				if (subtract) {
					subtractAt(c, sum2(c00));
					subtractAt(c + 8, sum2(c01));
					subtractAt(c + 16, sum2(c02));
					c += lc;
					subtractAt(c, sum2(c10));
					subtractAt(c + 8, sum2(c11));
					subtractAt(c + 16, sum2(c12));
					c += lc;
					subtractAt(c, sum2(c20));
					subtractAt(c + 8, sum2(c21));
					subtractAt(c + 16, sum2(c22));
				} else {
					store<f64>(c, sum2(c00));
					store<f64>(c, sum2(c01), 8);
					store<f64>(c, sum2(c02), 16);
					c += lc;
					store<f64>(c, sum2(c10));
					store<f64>(c, sum2(c11), 8);
					store<f64>(c, sum2(c12), 16);
					c += lc;
					store<f64>(c, sum2(c20));
					store<f64>(c, sum2(c21), 8);
					store<f64>(c, sum2(c22), 16);
				}
			}
		}
	}
}

/**
 * L S L^T of one panel in place, column block by column block. `diagonal` holds the size each pivot is compared with.
 * Returns the count of negative pivots, or -1 - (place of the first tiny one).
 */
export function panel(L: usize, rows: i32, width: i32, sign: usize, diagonal: usize, floor: f64, work: usize): i32 {
	let negative: i32 = 0;
	for (let j: i32 = 0; j < width; j += STEP) {
		const nb: i32 = min<i32>(STEP, width - j);
		const D = at(L, j * width + j);
		if (j) {
			let B = at(L, j * width);
			let ldb = width;
			if (negative) {
				for (let r: i32 = 0; r < nb; r++)
					for (let c: i32 = 0; c < j; c++) store<f64>(at(work, r * j + c), load<f64>(at(B, r * width + c)) * load<f64>(at(sign, c)));
				B = work;
				ldb = j;
			}
			multiplyTransposed(at(L, j * width), width, B, ldb, D, width, rows - j, nb, j, 0, 1);
		}
		for (let c: i32 = 0; c < nb; c++) {
			const a = at(D, c * width);
			for (let q: i32 = 0; q < c; q++) {
				const b = at(D, q * width);
				let s = load<f64>(at(a, q));
				for (let t: i32 = 0; t < q; t++) s -= load<f64>(at(a, t)) * load<f64>(at(b, t)) * load<f64>(at(sign, j + t));
				store<f64>(at(a, q), (s * load<f64>(at(sign, j + q))) / load<f64>(at(b, q)));
			}
			let d = load<f64>(at(a, c));
			for (let t: i32 = 0; t < c; t++) {
				const v = load<f64>(at(a, t));
				d -= v * v * load<f64>(at(sign, j + t));
			}
			if (!(abs<f64>(d) > floor * load<f64>(at(diagonal, j + c)))) return -1 - (j + c);
			if (d < 0) {
				negative++;
				d = -d;
				store<f64>(at(sign, j + c), -1);
			} else store<f64>(at(sign, j + c), 1);
			store<f64>(at(a, c), sqrt<f64>(d));
		}
		// inverse of the small triangle, then every row below times its transpose
		for (let c: i32 = 0; c < nb; c++) {
			for (let r: i32 = 0; r < nb; r++) store<f64>(at(LOWER, r * STEP + c), 0);
			store<f64>(at(LOWER, c * STEP + c), 1 / load<f64>(at(D, c * width + c)));
			for (let r: i32 = c + 1; r < nb; r++) {
				let s: f64 = 0;
				for (let t: i32 = c; t < r; t++) s += load<f64>(at(D, r * width + t)) * load<f64>(at(LOWER, t * STEP + c));
				store<f64>(at(LOWER, r * STEP + c), -s / load<f64>(at(D, r * width + r)));
			}
		}
		for (let r: i32 = 0; r < nb; r++)
			if (load<f64>(at(sign, j + r)) < 0) for (let c: i32 = 0; c <= r; c++) store<f64>(at(LOWER, r * STEP + c), -load<f64>(at(LOWER, r * STEP + c)));
		for (let i: i32 = j + nb; i < rows; i += 3) {
			const R = at(L, i * width + j);
			for (let r: i32 = 0; r < 3; r++) memory.copy(at(THREE, r * STEP), at(R, r * width), <usize>nb << 3);
			multiplyTransposed(THREE, STEP, LOWER, STEP, R, width, 3, nb, nb, 0, 0);
		}
	}
	return negative;
}

/** Adds the 6 x 6 blocks of the matrix where they belong in the panels; `turned` says which are read across. */
export function scatter(count: i32, values: usize, target: usize, width: usize, turned: usize, L: usize): void {
	for (let b: i32 = 0; b < count; b++) {
		const ld = intAt(width, b);
		const d = at(L, <i32>load<f64>(at(target, b)));
		const v = at(values, 36 * b);
		const t = load<u8>(turned + b);
		for (let r: i32 = 0; r < 6; r++)
			for (let c: i32 = 0; c < 6; c++) {
				const p = at(d, r * ld + c);
				store<f64>(p, load<f64>(p) + load<f64>(at(v, t ? c * 6 + r : r * 6 + c)));
			}
	}
}

/** Left-looking factorisation of all panels. Returns negative pivots, or -1 - (freedom, new numbering) of a tiny one. */
export function factorise(
	ns: i32,
	start: usize,
	rowStart: usize,
	rows: usize,
	panelStart: usize,
	snOf: usize,
	L: usize,
	sign: usize,
	diagonal: usize,
	floor: f64,
	position: usize,
	head: usize,
	next: usize,
	offset: usize,
	hasNegative: usize,
	product: usize,
	signed: usize
): i32 {
	let negative: i32 = 0;
	for (let s: i32 = 0; s < ns; s++) setInt(head, s, -1);
	for (let s: i32 = 0; s < ns; s++) {
		const c0 = intAt(start, s);
		const c1 = intAt(start, s + 1);
		const width = 6 * (c1 - c0);
		const r0 = intAt(rowStart, s);
		const nr = intAt(rowStart, s + 1) - r0;
		const P = at(L, <i32>load<f64>(at(panelStart, s)));
		for (let p: i32 = 0; p < nr; p++) setInt(position, intAt(rows, r0 + p), p);
		let d = intAt(head, s);
		while (d != -1) {
			const following = intAt(next, d);
			const from = intAt(offset, d);
			const list = rows + (<usize>intAt(rowStart, d) << 2);
			const length = intAt(rowStart, d + 1) - intAt(rowStart, d);
			const k = 6 * (intAt(start, d + 1) - intAt(start, d));
			let to = from;
			while (to < length && intAt(list, to) < c1) to++;
			const m = length - from;
			const n = to - from;
			const A = at(L, <i32>load<f64>(at(panelStart, d)) + 6 * from * k);
			let B = A;
			if (intAt(hasNegative, d)) {
				const sd = at(sign, 6 * intAt(start, d));
				for (let r: i32 = 0; r < 6 * n; r++)
					for (let c: i32 = 0; c < k; c++) store<f64>(at(signed, r * k + c), load<f64>(at(A, r * k + c)) * load<f64>(at(sd, c)));
				B = signed;
			}
			const first = intAt(position, intAt(list, from));
			if (intAt(position, intAt(list, length - 1)) - first == m - 1)
				// the rows lie together in the target: no detour
				multiplyTransposed(A, k, B, k, at(P, 6 * first * width + 6 * (intAt(list, from) - c0)), width, 6 * m, 6 * n, k, 1, 1);
			else {
				const ldc = 6 * n;
				multiplyTransposed(A, k, B, k, product, ldc, 6 * m, ldc, k, 1, 0);
				for (let p: i32 = 0; p < m; p++) {
					const target = at(P, 6 * intAt(position, intAt(list, from + p)) * width);
					const source = at(product, 6 * p * ldc);
					const last = p < n ? p + 1 : n;
					for (let q: i32 = 0; q < last; q++) {
						let e = at(target, 6 * (intAt(list, from + q) - c0));
						let f = at(source, 6 * q);
						for (let r: i32 = 0; r < 6; r++) {
							v128.store(e, f64x2.sub(v128.load(e), v128.load(f)));
							v128.store(e, f64x2.sub(v128.load(e, 16), v128.load(f, 16)), 16);
							v128.store(e, f64x2.sub(v128.load(e, 32), v128.load(f, 32)), 32);
							e += <usize>width << 3;
							f += <usize>ldc << 3;
						}
					}
				}
			}
			setInt(offset, d, to);
			if (to < length) {
				const owner = intAt(snOf, intAt(list, to));
				setInt(next, d, intAt(head, owner));
				setInt(head, owner, d);
			}
			d = following;
		}
		const found = panel(P, 6 * nr, width, at(sign, 6 * c0), at(diagonal, 6 * c0), floor, signed);
		if (found < 0) return found - 6 * c0;
		setInt(hasNegative, s, found);
		negative += found;
		setInt(offset, s, c1 - c0);
		if (nr > c1 - c0) {
			const owner = intAt(snOf, intAt(rows, r0 + c1 - c0));
			setInt(next, s, intAt(head, owner));
			setInt(head, owner, s);
		}
	}
	return negative;
}

/** L y = b for four columns side by side; supernodes nothing has reached are passed over. */
export function forward4(ns: i32, start: usize, rowStart: usize, rows: usize, panelStart: usize, L: usize, X: usize, touched: usize): void {
	for (let s: i32 = 0; s < ns; s++) {
		const c0 = intAt(start, s);
		const c1 = intAt(start, s + 1);
		let any: u8 = 0;
		for (let k: i32 = c0; k < c1; k++) any |= load<u8>(touched + k);
		if (!any) continue;
		const x0 = X + <usize>c0 * 192;
		const width = 6 * (c1 - c0);
		const stride = <usize>width << 3;
		let P = at(L, <i32>load<f64>(at(panelStart, s)));
		for (let j: i32 = 0; j < width; j++, P += stride) {
			const xj = x0 + (<usize>j << 5);
			let a = v128.load(xj);
			let b = v128.load(xj, 16);
			let x = x0;
			for (let l = P, e = P + (<usize>j << 3); l < e; l += 8, x += 32) {
				const v = v128.load64_splat(l);
				a = f64x2.sub(a, f64x2.mul(v, v128.load(x)));
				b = f64x2.sub(b, f64x2.mul(v, v128.load(x, 16)));
			}
			const inv = f64x2.splat(1 / load<f64>(at(P, j)));
			v128.store(xj, f64x2.mul(a, inv));
			v128.store(xj, f64x2.mul(b, inv), 16);
		}
		const r1 = intAt(rowStart, s + 1);
		for (let p: i32 = intAt(rowStart, s) + c1 - c0; p < r1; p++) {
			const row = intAt(rows, p);
			store<u8>(touched + row, 1);
			let y = X + <usize>row * 192;
			for (let r: i32 = 0; r < 2; r++, y += 96, P += 3 * stride) {
				let a0 = v128.load(y);
				let a1 = v128.load(y, 16);
				let b0 = v128.load(y, 32);
				let b1 = v128.load(y, 48);
				let d0 = v128.load(y, 64);
				let d1 = v128.load(y, 80);
				let x = x0;
				for (let l = P, e = P + stride; l < e; l += 8, x += 32) {
					const u = v128.load(x);
					const w = v128.load(x, 16);
					let v = v128.load64_splat(l);
					a0 = f64x2.sub(a0, f64x2.mul(v, u));
					a1 = f64x2.sub(a1, f64x2.mul(v, w));
					v = v128.load64_splat(l + stride);
					b0 = f64x2.sub(b0, f64x2.mul(v, u));
					b1 = f64x2.sub(b1, f64x2.mul(v, w));
					v = v128.load64_splat(l + 2 * stride);
					d0 = f64x2.sub(d0, f64x2.mul(v, u));
					d1 = f64x2.sub(d1, f64x2.mul(v, w));
				}
				v128.store(y, a0);
				v128.store(y, a1, 16);
				v128.store(y, b0, 32);
				v128.store(y, b1, 48);
				v128.store(y, d0, 64);
				v128.store(y, d1, 80);
			}
		}
	}
}

/** S L^T x = y for four columns side by side. */
export function backward4(ns: i32, start: usize, rowStart: usize, rows: usize, panelStart: usize, L: usize, sign: usize, X: usize): void {
	for (let s: i32 = ns - 1; s >= 0; s--) {
		const c0 = intAt(start, s);
		const c1 = intAt(start, s + 1);
		const x0 = X + <usize>c0 * 192;
		const width = 6 * (c1 - c0);
		const stride = <usize>width << 3;
		const P0 = at(L, <i32>load<f64>(at(panelStart, s)));
		for (let j: i32 = 0; j < width; j++) {
			const f = v128.load64_splat(at(sign, 6 * c0 + j));
			const xj = x0 + (<usize>j << 5);
			v128.store(xj, f64x2.mul(v128.load(xj), f));
			v128.store(xj, f64x2.mul(v128.load(xj, 16), f), 16);
		}
		let P = at(P0, width * width);
		const r1 = intAt(rowStart, s + 1);
		for (let p: i32 = intAt(rowStart, s) + c1 - c0; p < r1; p++) {
			let y = X + <usize>intAt(rows, p) * 192;
			for (let r: i32 = 0; r < 2; r++, y += 96, P += 3 * stride) {
				const a0 = v128.load(y);
				const a1 = v128.load(y, 16);
				const b0 = v128.load(y, 32);
				const b1 = v128.load(y, 48);
				const d0 = v128.load(y, 64);
				const d1 = v128.load(y, 80);
				let x = x0;
				for (let l = P, e = P + stride; l < e; l += 8, x += 32) {
					const u = v128.load64_splat(l);
					const v = v128.load64_splat(l + stride);
					const w = v128.load64_splat(l + 2 * stride);
					v128.store(x, f64x2.sub(v128.load(x), f64x2.add(f64x2.add(f64x2.mul(u, a0), f64x2.mul(v, b0)), f64x2.mul(w, d0))));
					v128.store(x, f64x2.sub(v128.load(x, 16), f64x2.add(f64x2.add(f64x2.mul(u, a1), f64x2.mul(v, b1)), f64x2.mul(w, d1))), 16);
				}
			}
		}
		for (let j: i32 = width - 1; j >= 0; j--) {
			const q = P0 + <usize>j * stride;
			const inv = f64x2.splat(1 / load<f64>(at(q, j)));
			const xj = x0 + (<usize>j << 5);
			const a = f64x2.mul(v128.load(xj), inv);
			const b = f64x2.mul(v128.load(xj, 16), inv);
			v128.store(xj, a);
			v128.store(xj, b, 16);
			let x = x0;
			for (let l = q, e = q + (<usize>j << 3); l < e; l += 8, x += 32) {
				const v = v128.load64_splat(l);
				v128.store(x, f64x2.sub(v128.load(x), f64x2.mul(v, a)));
				v128.store(x, f64x2.sub(v128.load(x, 16), f64x2.mul(v, b)), 16);
			}
		}
	}
}

/** L y = b with the leading m x m of a dense n-wide lower factor, four columns side by side; b is zero before row `from`. */
export function forwardLeading4(L: usize, n: i32, from: i32, m: i32, X: usize): void {
	const stride = <usize>n << 3;
	const X0 = X + (<usize>from << 5);
	for (let i: i32 = from; i < m; i++) {
		const q = L + <usize>i * stride;
		const xi = X + (<usize>i << 5);
		let a = v128.load(xi);
		let b = v128.load(xi, 16);
		let x = X0;
		for (let l = at(q, from), e = at(q, i); l < e; l += 8, x += 32) {
			const v = v128.load64_splat(l);
			a = f64x2.sub(a, f64x2.mul(v, v128.load(x)));
			b = f64x2.sub(b, f64x2.mul(v, v128.load(x, 16)));
		}
		const inv = f64x2.splat(1 / load<f64>(at(q, i)));
		v128.store(xi, f64x2.mul(a, inv));
		v128.store(xi, f64x2.mul(b, inv), 16);
	}
}

/** L^T x = y, likewise. */
export function backwardLeading4(L: usize, n: i32, m: i32, X: usize): void {
	const stride = <usize>n << 3;
	for (let i: i32 = m - 1; i >= 0; i--) {
		const q = L + <usize>i * stride;
		const xi = X + (<usize>i << 5);
		const inv = f64x2.splat(1 / load<f64>(at(q, i)));
		const a = f64x2.mul(v128.load(xi), inv);
		const b = f64x2.mul(v128.load(xi, 16), inv);
		v128.store(xi, a);
		v128.store(xi, b, 16);
		let x = X;
		for (let l = q, e = at(q, i); l < e; l += 8, x += 32) {
			const v = v128.load64_splat(l);
			v128.store(x, f64x2.sub(v128.load(x), f64x2.mul(v, a)));
			v128.store(x, f64x2.sub(v128.load(x, 16), f64x2.mul(v, b)), 16);
		}
	}
}

/**
 * Cholesky factor in place of a symmetric positive definite band matrix by rows, A[i (b + 1) + j - i + b] for j = i - b .. i, four
 * columns at a time; the diagonal of the factor holds its reciprocal. `work` takes 4 (b + 4) numbers. Returns how many pivots were
 * not positive (each stands as one so large that its place does not move).
 */
export function bandFactor(A: usize, n: i32, b: i32, work: usize): i32 {
	const w: i32 = b + 1;
	const ld: usize = <usize>(b + 4) << 3;
	let bad: i32 = 0;
	for (let j0: i32 = 0; j0 < n; j0 += 4) {
		const nb: i32 = min<i32>(4, n - j0);
		const end: i32 = min<i32>(n, j0 + nb - 1 + b + 1);
		memory.fill(work, 0, ld << 2);
		for (let c: i32 = 0; c < nb; c++) {
			const j: i32 = j0 + c;
			const lc = work + <usize>c * ld;
			let d = load<f64>(at(A, j * w + b));
			for (let q: i32 = 0; q < c; q++) {
				const v = load<f64>(at(work + <usize>q * ld, c));
				d -= v * v;
			}
			if (!(d > 0)) {
				bad++;
				d = 1e30;
			}
			const inv = 1 / sqrt<f64>(d);
			store<f64>(at(A, j * w + b), inv);
			const last: i32 = min<i32>(n, j + b + 1);
			for (let r: i32 = j + 1; r < last; r++) {
				const p = at(A, r * w + j - r + b);
				let s = load<f64>(p);
				for (let q: i32 = 0; q < c; q++) {
					const lq = work + <usize>q * ld;
					s -= load<f64>(at(lq, r - j0)) * load<f64>(at(lq, c));
				}
				s *= inv;
				store<f64>(p, s);
				store<f64>(at(lc, r - j0), s);
			}
		}
		const w0 = work;
		const w1 = w0 + ld;
		const w2 = w1 + ld;
		const w3 = w2 + ld;
		for (let r: i32 = j0 + nb; r < end; r++) {
			const k: i32 = r - j0;
			const l0 = f64x2.splat(load<f64>(at(w0, k)));
			const l1 = f64x2.splat(load<f64>(at(w1, k)));
			const l2 = f64x2.splat(load<f64>(at(w2, k)));
			const l3 = f64x2.splat(load<f64>(at(w3, k)));
			let p = at(A, r * w + j0 + nb - r + b);
			let o: usize = <usize>nb << 3;
			// one number past the diagonal may be written: it gets back what it was
			const kept = load<f64>(at(A, r * w + b + 1));
			const stop = at(A, r * w + b);
			for (; p <= stop; p += 16, o += 16) {
				let v = v128.load(p);
				v = f64x2.sub(v, f64x2.mul(l0, v128.load(w0 + o)));
				v = f64x2.sub(v, f64x2.mul(l1, v128.load(w1 + o)));
				v = f64x2.sub(v, f64x2.mul(l2, v128.load(w2 + o)));
				v = f64x2.sub(v, f64x2.mul(l3, v128.load(w3 + o)));
				v128.store(p, v);
			}
			store<f64>(at(A, r * w + b + 1), kept);
		}
	}
	return bad;
}

/** Solves L L^T x = x in place with the factor of `bandFactor`. */
export function bandSolve(A: usize, n: i32, b: i32, X: usize): void {
	const w: i32 = b + 1;
	for (let i: i32 = 0; i < n; i++) {
		const first: i32 = max<i32>(0, i - b);
		let a = at(A, i * w + first - i + b);
		let x = at(X, first);
		const stop = at(X, i);
		let s = f64x2.splat(0);
		for (; x + 8 < stop; x += 16, a += 16) s = f64x2.add(s, f64x2.mul(v128.load(a), v128.load(x)));
		let v = load<f64>(stop) - sum2(s);
		if (x < stop) v -= load<f64>(a) * load<f64>(x);
		store<f64>(stop, v * load<f64>(at(A, i * w + b)));
	}
	for (let i: i32 = n - 1; i >= 0; i--) {
		const first: i32 = max<i32>(0, i - b);
		const v = load<f64>(at(X, i)) * load<f64>(at(A, i * w + b));
		store<f64>(at(X, i), v);
		const lanes = f64x2.splat(v);
		let a = at(A, i * w + first - i + b);
		let x = at(X, first);
		const stop = at(X, i);
		for (; x + 8 < stop; x += 16, a += 16) v128.store(x, f64x2.sub(v128.load(x), f64x2.mul(lanes, v128.load(a))));
		if (x < stop) store<f64>(x, load<f64>(x) - v * load<f64>(a));
	}
}
