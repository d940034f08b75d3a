/** Taking rigid motion out of small displacements. */
import { cross, dot, norm, sub, unit, type Vec3 } from '../geometry/vec';
import { solveSmall } from './dense';
import { Refusal } from '../refusal/refusal';

/** Least-squares rigid motion [t, omega] of displacements at fixed points about `centre`: u = t + omega x (p - centre). */
export class RigidFit {
	private readonly arms: Vec3[];
	/** inverse of the normal matrix, 6 x 6 */
	private readonly inverse: Float64Array[];

	constructor(
		readonly points: readonly Vec3[],
		readonly centre: Vec3
	) {
		this.arms = points.map((q) => sub(q, centre));
		const a = new Float64Array(36);
		let size = 0;
		for (const r of this.arms) {
			size = Math.max(size, Math.abs(r[0]), Math.abs(r[1]), Math.abs(r[2]));
			// rows of [I, -[r]x]
			const g = [
				[1, 0, 0, 0, r[2], -r[1]],
				[0, 1, 0, -r[2], 0, r[0]],
				[0, 0, 1, r[1], -r[0], 0]
			];
			for (const row of g) for (let k = 0; k < 6; k++) for (let l = 0; l < 6; l++) a[6 * k + l] += row[k] * row[l];
		}
		// points on one line leave the turn about it open: hold it by a weight far below anything measured
		for (let k = 3; k < 6; k++) a[7 * k] += 1e-9 * size * size * points.length;
		this.inverse = [0, 1, 2, 3, 4, 5].map((k) => {
			const e = new Float64Array(6);
			e[k] = 1;
			return solveSmall(a.slice(), e);
		});
	}

	motion(u: readonly Vec3[]): Float64Array {
		const b = new Float64Array(6);
		this.arms.forEach((r, i) => {
			const v = u[i];
			for (let d = 0; d < 3; d++) b[d] += v[d];
			b[3] += r[1] * v[2] - r[2] * v[1];
			b[4] += r[2] * v[0] - r[0] * v[2];
			b[5] += r[0] * v[1] - r[1] * v[0];
		});
		return Float64Array.from(this.inverse, (row) => row.reduce((s, v, k) => s + v * b[k], 0));
	}

	/** The displacements with the best rigid motion taken out. */
	without = (u: readonly Vec3[]) => withoutRigid(this.points, u, this.centre, this.motion(u));
}

export function withoutRigid(p: readonly Vec3[], u: readonly Vec3[], centre: Vec3, motion: Float64Array): Vec3[] {
	const t: Vec3 = [motion[0], motion[1], motion[2]];
	const w: Vec3 = [motion[3], motion[4], motion[5]];
	return p.map((q, i) => {
		const turn = cross(w, sub(q, centre));
		return [u[i][0] - t[0] - turn[0], u[i][1] - t[1] - turn[1], u[i][2] - t[2] - turn[2]];
	});
}

/**
 * Points moved and turned by any amount, seen from three datum points: the first back at its place, the second on its axis, the
 * third in its plane. @throws RangeError if the datum points lie on one line
 */
export function seenFromDatum(drawn: readonly [Vec3, Vec3, Vec3], now: readonly [Vec3, Vec3, Vec3], point: Vec3): Vec3 {
	const frame = ([o, x, y]: readonly [Vec3, Vec3, Vec3]) => {
		const ex = unit(sub(x, o));
		const n = cross(ex, sub(y, o));
		if (!(norm(n) > 1e-9 * norm(sub(x, o)))) throw new Refusal('The three datum points lie on one line: choose others');
		const ez = unit(n);
		return [ex, cross(ez, ex), ez] as const;
	};
	const [a, b] = [frame(drawn), frame(now)];
	const r = sub(point, now[0]);
	const local = b.map((e) => dot(e, r));
	return [0, 1, 2].map((c) => drawn[0][c] + local.reduce((s, v, i) => s + v * a[i][c], 0)) as Vec3;
}

/** Rigid motion that brings three datum points back: origin in x, y, z; the second across the axis; the third out of plane. @throws RangeError if they lie on one line */
export function datumMotion(p: readonly [Vec3, Vec3, Vec3], u: readonly [Vec3, Vec3, Vec3]): Float64Array {
	const [o, x, y] = p;
	const ex = sub(x, o);
	const n = cross(ex, sub(y, o));
	const size = Math.hypot(...n);
	if (!(size > 1e-9 * Math.hypot(...ex) ** 2)) throw new Refusal('The three datum points lie on one line: choose others');
	const ez = n.map((v) => v / size) as Vec3;
	const ey = cross(ez, ex.map((v) => v / Math.hypot(...ex)) as Vec3);
	const a = new Float64Array(36);
	const b = new Float64Array(6);
	const row = (k: number, direction: Vec3, at: Vec3, move: Vec3) => {
		const arm = cross(sub(at, o), direction); // d . (w x r) = w . (r x d)
		for (let d = 0; d < 3; d++) {
			a[6 * k + d] = direction[d];
			a[6 * k + 3 + d] = arm[d];
			b[k] += direction[d] * move[d];
		}
	};
	row(0, [1, 0, 0], o, u[0]);
	row(1, [0, 1, 0], o, u[0]);
	row(2, [0, 0, 1], o, u[0]);
	row(3, ey, x, u[1]);
	row(4, ez, x, u[1]);
	row(5, ez, y, u[2]);
	return solveSmall(a, b);
}
