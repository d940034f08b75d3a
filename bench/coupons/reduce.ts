/** What a coupon's printed results say, in the words of the section model. */
import type { Coupon, Mesh } from './coupon';

export interface CouponResult {
	/** kN for both halves (or the whole flange): -E times the plastic strain along the seam, mean of the middle 84 % and of the middle fifth */
	forceKn: number;
	forceMidKn: number;
	/** kN of tension within 30 mm of the seam, middle fifth */
	tensionKn: number;
	/** mm, of both halves: inherent shrinkage across and closing of the edges, middle fifth */
	shrinkageMm: number;
	closingMm: number;
	/** degrees, both halves: inherent turn (from plastic strain) and what stands between the edges */
	turnDeg: number;
	edgeDeg: number;
	/** mm: height of the middle of the outer edge over its ends */
	bowMm: number;
	/** °C at the middle of the seam, by mm from it */
	peakC: [number, number][];
}

interface Printed {
	displacement: Map<number, number[]>;
	/** by element: stress and strain at each point, six and six */
	stress: Map<number, number[][]>;
	strain: Map<number, number[][]>;
	peak: Map<number, number>;
}

/** Reads the solver's list of printed values; the last value of everything but the temperatures, of which the highest. */
export function readPrinted(text: string): Printed {
	const out: Printed = { displacement: new Map(), stress: new Map(), strain: new Map(), peak: new Map() };
	let kind = '';
	for (const line of text.split('\n')) {
		if (/for set/.test(line)) {
			kind = /^ *displacements/.test(line)
				? 'u'
				: /^ *temperatures/.test(line)
					? 't'
					: /^ *stresses/.test(line)
						? 's'
						: /^ *strains/.test(line)
							? 'e'
							: '';
			if (kind === 's') out.stress.clear();
			if (kind === 'e') out.strain.clear();
			continue;
		}
		if (!kind) continue;
		const v = line.trim().split(/\s+/).map(Number);
		if (v.length < 2 || !Number.isFinite(v[0])) continue;
		if (kind === 'u') out.displacement.set(v[0], v.slice(1));
		else if (kind === 't') out.peak.set(v[0], Math.max(out.peak.get(v[0]) ?? -Infinity, v[1]));
		else {
			const map = kind === 's' ? out.stress : out.strain;
			if (!map.has(v[0])) map.set(v[0], []);
			map.get(v[0])!.push(v.slice(2));
		}
	}
	return out;
}

const G = 1 / Math.sqrt(3);

/** Places of the eight points of a brick in its own axes, in the order the solver prints them. */
const POINTS = [-G, G].flatMap((c) => [-G, G].flatMap((b) => [-G, G].map((a) => [a, b, c] as const)));

export function reduce(c: Coupon, mesh: Mesh, printed: Printed): CouponResult {
	const E = c.metal.eModulus(20);
	const slabs = mesh.stations.length - 1;
	const by = (from: number, to: number) => {
		let [force, shrink, turn, tension, count] = [0, 0, 0, 0, 0];
		for (let s = 0; s < slabs; s++) if (s >= from * slabs && s < to * slabs) count++;
		for (const [id, stress] of printed.stress) {
			const e = mesh.elements[id - 1];
			if (e.slab < from * slabs || e.slab >= to * slabs) continue;
			const strain = printed.strain.get(id)!;
			const corner = e.nodes.slice(0, 4).map((n) => [mesh.xyz[3 * n + 1], mesh.xyz[3 * n + 2]]);
			const [wide, high] = [corner[1][0] - corner[0][0], corner[3][1] - corner[0][1]];
			const tilt = (y: number) => (c.tee ? 0 : (0.1 * y) / Math.min(60, c.width));
			stress.forEach((s, k) => {
				const [a, b] = POINTS[k];
				const y = corner[0][0] + ((1 + a) / 2) * wide;
				const z = corner[0][1] + ((1 + b) / 2) * high + tilt(y) - tilt(corner[0][0]) - tilt(y);
				const e1 = strain[k][0] - (s[0] - 0.3 * (s[1] + s[2])) / E;
				const e2 = strain[k][1] - (s[1] - 0.3 * (s[0] + s[2])) / E;
				const area = (wide * high) / 4 / 2;
				force -= E * e1 * area;
				shrink -= (e2 * area) / c.thickness;
				turn -= (12 / c.thickness ** 3) * e2 * z * area;
				if (Math.abs(y) < 30 && s[0] > 0) tension += s[0] * area;
			});
		}
		const both = (c.tee ? 1 : 2) / count;
		return { force: both * force, shrink: both * shrink, turn: both * turn, tension: both * tension };
	};
	const most = by(0.08, 0.92);
	const mid = by(0.4, 0.6);
	const n = mesh.sectionNodes;
	const at = (share: number, y: number, z: number) => {
		const s = Math.round(share * slabs);
		let [best, least] = [0, Infinity];
		for (let p = 0; p < n; p++) {
			const d = Math.hypot(mesh.xyz[3 * p + 1] - y, mesh.xyz[3 * p + 2] - z);
			if (d < least) [least, best] = [d, p];
		}
		const u = printed.displacement.get(s * n + best + 1)!;
		return [0, 1, 2].map((k) => mesh.xyz[3 * (s * n + best) + k] + u[k]);
	};
	const W = c.width;
	const slope = (share: number, side: 1 | -1) => {
		const [p, q] = [at(share, side * W, 0), at(share, side * 0.7 * W, 0)];
		return Math.atan2(p[2] - q[2], side * (p[1] - q[1]));
	};
	const straight = c.tee ? 0 : 0.1 / Math.min(60, W);
	const edge = c.tee ? slope(0.5, 1) + slope(0.5, -1) : 2 * (slope(0.5, 1) - Math.atan(straight));
	const [e0, e1, e2] = [0, 0.5, 1].map((s) => at(s, W, 0)[2]);
	const peak = new Map<number, number>();
	for (const [id, v] of printed.peak) {
		const y = Math.abs(mesh.xyz[3 * (id - 1) + 1]);
		peak.set(y, Math.max(peak.get(y) ?? -Infinity, v));
	}
	const round = (v: number, d = 4) => Number(v.toPrecision(d));
	return {
		forceKn: round(most.force / 1000),
		forceMidKn: round(mid.force / 1000),
		tensionKn: round(mid.tension / 1000),
		shrinkageMm: round(mid.shrink),
		closingMm: round((c.tee ? 1 : 2) * (W - at(0.5, W, 0)[1])),
		turnDeg: round((mid.turn * 180) / Math.PI),
		edgeDeg: round((edge * 180) / Math.PI),
		bowMm: round(e1 - (e0 + e2) / 2),
		peakC: [...peak]
			.filter(([y]) => y <= 30)
			.sort((a, b) => a[0] - b[0])
			.map(([y, v]) => [round(y), Math.round(v)])
	};
}
