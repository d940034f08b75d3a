/**
 * Which face of its sheet each point of a cloud lies on. Where a sheet was seen from both sides its points lie in two layers, a thickness
 * apart, wherever it has moved to: the middle between them is told from the points alone. Where one side only was seen the part goes by
 * the side that most of its points lie on as it is drawn, which can be the wrong one once it has moved by about half its thickness. A
 * scanner that writes a mesh says it outright: its triangles face outwards.
 */
import type { Surface } from './surface';

/** A cloud on a piece: by point the triangle (-1: none of the piece's), mm off the sheet's middle, shares of the triangle's second and third corner. */
export interface Hits {
	count: number;
	taken: number;
	tri: Int32Array;
	d: Float32Array;
	shares: Float32Array;
	/** by a mesh's own word, the way it is wound: 1 and -1 the two faces, 0 an edge; absent where only points are known */
	facing?: Int8Array;
}

/** Of a point that is not told until its sheet has been found beside it. */
export const UNTOLD = 2;

export interface Told {
	/** 1 front, -1 back, by point, or UNTOLD; changed by `retell` */
	faces: Int8Array;
	/** parts that were seen from one side only, by index */
	oneFaced: number[];
	/** Tells them again about where the sheet has been found. @param off mm that a place of a triangle has moved @returns how many changed */
	retell(off: (tri: number, second: number, third: number) => number): number;
}

/** Points of a triangle from which on it is asked whether they lie in two layers. */
const LEAST_POINTS = 8;
/** Scatter about a triangle's own plane beyond which it was seen from both sides, share of the thickness: half of it where both are seen alike. */
const TWO_LAYERS = 0.3;
/** Share of a part's points in such triangles from which on it counts as seen from both sides. */
const BOTH = 0.05;
const ROUNDS = 6;

/** Sums of a plane over a triangle, and its heights at the corners, by least squares. */
class Planes {
	private readonly sums: Float64Array;
	readonly at: Float64Array;
	constructor(private readonly triangles: number) {
		this.sums = new Float64Array(11 * triangles);
		this.at = new Float64Array(3 * triangles);
	}
	clear() {
		this.sums.fill(0);
	}
	add(tri: number, b: number, c: number, d: number) {
		const { sums } = this;
		const o = 11 * tri;
		const a = 1 - b - c;
		sums[o] += a * a;
		sums[o + 1] += a * b;
		sums[o + 2] += a * c;
		sums[o + 3] += b * b;
		sums[o + 4] += b * c;
		sums[o + 5] += c * c;
		sums[o + 6] += a * d;
		sums[o + 7] += b * d;
		sums[o + 8] += c * d;
		sums[o + 9] += d * d;
		sums[o + 10]++;
	}
	count = (tri: number) => this.sums[11 * tri + 10];
	/** Heights at the corners; a triangle whose points do not span it is level. */
	fit() {
		const { sums, at } = this;
		for (let e = 0; e < this.triangles; e++) {
			const [aa, ab, ac, bb, bc, cc, ad, bd, cd, , n] = sums.subarray(11 * e, 11 * e + 11);
			if (!n) continue;
			// towards level by so little that it only steadies
			const k = 1e-3 * n;
			const [m0, m1, m2] = [aa + k, bb + k, cc + k];
			const mean = (ad + bd + cd) / n;
			const [r0, r1, r2] = [ad + k * mean, bd + k * mean, cd + k * mean];
			const det = m0 * (m1 * m2 - bc * bc) - ab * (ab * m2 - bc * ac) + ac * (ab * bc - m1 * ac);
			at[3 * e] = (r0 * (m1 * m2 - bc * bc) - ab * (r1 * m2 - bc * r2) + ac * (r1 * bc - m1 * r2)) / det;
			at[3 * e + 1] = (m0 * (r1 * m2 - r2 * bc) - r0 * (ab * m2 - bc * ac) + ac * (ab * r2 - r1 * ac)) / det;
			at[3 * e + 2] = (m0 * (m1 * r2 - bc * r1) - ab * (ab * r2 - r1 * ac) + r0 * (ab * bc - m1 * ac)) / det;
		}
	}
	height = (tri: number, b: number, c: number) => (1 - b - c) * this.at[3 * tri] + b * this.at[3 * tri + 1] + c * this.at[3 * tri + 2];
	/** mm of scatter about the plane */
	scatter(e: number): number {
		const { sums, at } = this;
		const [aa, ab, ac, bb, bc, cc, ad, bd, cd, dd, n] = sums.subarray(11 * e, 11 * e + 11);
		const [p, q, r] = at.subarray(3 * e, 3 * e + 3);
		const left = dd - 2 * (p * ad + q * bd + r * cd) + p * p * aa + q * q * bb + r * r * cc + 2 * (p * q * ab + p * r * ac + q * r * bc);
		return Math.sqrt(Math.max(0, left) / Math.max(1, n));
	}
}

export function tellFaces(hits: Hits, s: Surface): Told {
	if (hits.facing) return byFacing(hits, hits.facing, s);
	const { count, tri, d, shares } = hits;
	const triangles = s.tri.length / 3;
	const faces = new Int8Array(count);
	const planes = new Planes(triangles);
	const each = (f: (i: number, e: number, b: number, c: number) => void) => {
		for (let i = 0; i < count; i++) if (tri[i] >= 0) f(i, tri[i], shares[2 * i], shares[2 * i + 1]);
	};
	each((i, e, b, c) => planes.add(e, b, c, d[i]));
	planes.fit();
	const isTwo = new Uint8Array(triangles);
	const inPart = s.halves.map(() => ({ all: 0, two: 0, sum: 0 }));
	for (let e = 0; e < triangles; e++) {
		isTwo[e] = planes.count(e) >= LEAST_POINTS && planes.scatter(e) > TWO_LAYERS * 2 * s.halves[s.triPart[e]] ? 1 : 0;
		inPart[s.triPart[e]].all += planes.count(e);
		if (isTwo[e]) inPart[s.triPart[e]].two += planes.count(e);
	}
	each((i, e) => (inPart[s.triPart[e]].sum += Math.sign(d[i])));
	const isBoth = inPart.map((p) => p.two > BOTH * p.all);
	// two layers: the middle between them comes of itself, round by round
	for (let round = 0; round < ROUNDS; round++) {
		each((i, e, b, c) => {
			if (isTwo[e]) faces[i] = d[i] > planes.height(e, b, c) ? 1 : -1;
		});
		planes.clear();
		each((i, e, b, c) => isTwo[e] && planes.add(e, b, c, d[i] - faces[i] * s.halves[s.triPart[e]]));
		planes.fit();
	}
	// the rest of such a part waits until it is known how that goes on there; a part seen from one side goes as a whole
	each((i, e) => {
		const part = s.triPart[e];
		if (!isTwo[e]) faces[i] = isBoth[part] ? UNTOLD : inPart[part].sum >= 0 ? 1 : -1;
	});
	return {
		faces,
		oneFaced: inPart.flatMap((p, k) => (p.all && !isBoth[k] ? [k] : [])),
		retell(off) {
			let changed = 0;
			each((i, e, b, c) => {
				if (!isBoth[s.triPart[e]]) return;
				const face = d[i] > off(e, b, c) ? 1 : -1;
				if (face !== faces[i]) changed++;
				faces[i] = face;
			});
			return changed;
		}
	};
}

/** A mesh wound inwards says it all the other way round: its fronts then lie behind its backs. */
function byFacing({ count, tri, d }: Hits, facing: Int8Array, s: Surface): Told {
	let outwards = 0;
	for (let i = 0; i < count; i++) if (tri[i] >= 0) outwards += facing[i] * Math.max(-1, Math.min(1, d[i] / s.halves[s.triPart[tri[i]]]));
	const way = outwards < 0 ? -1 : 1;
	const faces = facing.map((f) => way * f);
	// what faces neither way is an edge of a sheet: no point of a face
	for (let i = 0; i < count; i++) if (!faces[i]) tri[i] = -1;
	return { faces, oneFaced: [], retell: () => 0 };
}
