/** A rigid motion by any amount, and the one that brings points best onto others. */
import type { Vec3 } from '../geometry/vec';
import { symmetricEigen } from '../linalg/smallSymmetric';

export interface Motion {
	/** rotation, by rows */
	r: readonly number[];
	t: Vec3;
}

export const STILL: Motion = { r: [1, 0, 0, 0, 1, 0, 0, 0, 1], t: [0, 0, 0] };

export const turned = (r: readonly number[], [x, y, z]: Vec3): Vec3 => [
	r[0] * x + r[1] * y + r[2] * z,
	r[3] * x + r[4] * y + r[5] * z,
	r[6] * x + r[7] * y + r[8] * z
];
export const moved = ({ r, t }: Motion, p: Vec3): Vec3 => {
	const q = turned(r, p);
	return [q[0] + t[0], q[1] + t[1], q[2] + t[2]];
};
/** First `b`, then `a`. */
export const after = (a: Motion, b: Motion): Motion => ({
	r: [0, 1, 2].flatMap((i) => [0, 1, 2].map((j) => a.r[3 * i] * b.r[j] + a.r[3 * i + 1] * b.r[3 + j] + a.r[3 * i + 2] * b.r[6 + j])),
	t: moved(a, b.t)
});

const ofQuaternion = ([w, x, y, z]: readonly number[]): number[] => [
	w * w + x * x - y * y - z * z,
	2 * (x * y - w * z),
	2 * (x * z + w * y),
	2 * (x * y + w * z),
	w * w - x * x + y * y - z * z,
	2 * (y * z - w * x),
	2 * (x * z - w * y),
	2 * (y * z + w * x),
	w * w - x * x - y * y + z * z
];

/** A turn by a small vector, exactly a rotation. */
export function turnBy(w: Vec3): number[] {
	const angle = Math.hypot(...w);
	const s = angle < 1e-12 ? 0.5 : Math.sin(angle / 2) / angle;
	return ofQuaternion([Math.cos(angle / 2), w[0] * s, w[1] * s, w[2] * s]);
}

/** Least-squares motion of `from` onto `to`, pair by pair, never a mirror image (Kabsch 1976, by the quaternion of Horn 1987). */
export function bestMotion(from: readonly Vec3[], to: readonly Vec3[]): Motion {
	const mean = (list: readonly Vec3[]) => [0, 1, 2].map((d) => list.reduce((s, p) => s + p[d], 0) / list.length) as Vec3;
	const [a, b] = [mean(from), mean(to)];
	const s = new Float64Array(9);
	from.forEach((p, i) => {
		for (let d = 0; d < 3; d++) for (let e = 0; e < 3; e++) s[3 * d + e] += (p[d] - a[d]) * (to[i][e] - b[e]);
	});
	const [xx, xy, xz, yx, yy, yz, zx, zy, zz] = s;
	const n = [
		[xx + yy + zz, yz - zy, zx - xz, xy - yx],
		[yz - zy, xx - yy - zz, xy + yx, zx + xz],
		[zx - xz, xy + yx, yy - xx - zz, yz + zy],
		[xy - yx, zx + xz, yz + zy, zz - xx - yy]
	];
	const { values, vectors } = symmetricEigen(n.flat(), 4);
	let best = 0;
	for (let k = 1; k < 4; k++) if (values[k] > values[best]) best = k;
	const r = ofQuaternion([0, 1, 2, 3].map((i) => vectors[i * 4 + best]));
	const q = turned(r, a);
	return { r, t: [b[0] - q[0], b[1] - q[1], b[2] - q[2]] };
}
