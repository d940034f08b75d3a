/** Parts moved away from the middle of the piece, so that each edge is seen: where each node of a mesh goes. */
import type { Geometry } from '$lib/quick/protocol';

/** @returns 3 per node, mm: each part as a whole, by its own middle's way from the piece's, once over */
export function awayFromMiddle({ xyz, tri, triPart }: Pick<Geometry, 'xyz' | 'tri' | 'triPart'>): Float32Array {
	const count = xyz.length / 3;
	const part = new Int32Array(count).fill(-1);
	for (let k = 0; k < tri.length; k++) part[tri[k]] = triPart[Math.floor(k / 3)];
	const sums = new Map<number, [number, number, number, number]>();
	const whole: [number, number, number, number] = [0, 0, 0, 0];
	for (let n = 0; n < count; n++) {
		if (part[n] < 0) continue;
		const own = sums.get(part[n]) ?? [0, 0, 0, 0];
		sums.set(part[n], own);
		for (const sum of [own, whole]) {
			for (let d = 0; d < 3; d++) sum[d] += xyz[3 * n + d];
			sum[3]++;
		}
	}
	const out = new Float32Array(xyz.length);
	for (let n = 0; n < count; n++) {
		const own = sums.get(part[n]);
		if (own) for (let d = 0; d < 3; d++) out[3 * n + d] = own[d] / own[3] - whole[d] / whole[3];
	}
	return out;
}
