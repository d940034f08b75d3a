import { describe, expect, it } from 'vitest';
import { exampleJobs } from '../../cli/exampleJobs';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ringArea } from '../geometry/polyline';
import { cross, distance, norm, sub, type Vec2 } from '../geometry/vec';
import { planOf } from '../reading/readPlan';
import { nodeAt } from '../shell/model';
import { assemblyMesh, locate, type AssemblyMesh } from './assemblyMesh';
import { edgeKey, flatMesh } from './flatMesh';

const area = (m: AssemblyMesh, part?: number) => {
	let sum = 0;
	for (let e = 0; e < m.triPart.length; e++) {
		if (part !== undefined && m.triPart[e] !== part) continue;
		const [a, b, c] = [0, 1, 2].map((i) => nodeAt(m.xyz, m.tri[3 * e + i]));
		sum += norm(cross(sub(b, a), sub(c, a))) / 2;
	}
	return sum;
};
/** Conformity: every edge inside a part belongs to two triangles, every rim edge to one; angles stay above a floor. */
function quality(tri: Int32Array, xyz: (k: number) => number[]) {
	const edges = new Map<string, number>();
	let smallest = Infinity;
	for (let e = 0; e < tri.length; e += 3)
		for (let i = 0; i < 3; i++) {
			const [a, b, c] = [tri[e + i], tri[e + ((i + 1) % 3)], tri[e + ((i + 2) % 3)]];
			edges.set(edgeKey(a, b), (edges.get(edgeKey(a, b)) ?? 0) + 1);
			const [p, q, r] = [xyz(a), xyz(b), xyz(c)];
			const u = q.map((v, d) => v - p[d]);
			const w = r.map((v, d) => v - p[d]);
			smallest = Math.min(smallest, Math.acos(u.reduce((s, v, d) => s + v * w[d], 0) / (Math.hypot(...u) * Math.hypot(...w))));
		}
	return { most: Math.max(...edges.values()), rim: [...edges.values()].filter((n) => n === 1).length, smallestDeg: (smallest * 180) / Math.PI };
}

const square: Vec2[] = [
	[0, 0],
	[200, 0],
	[200, 150],
	[0, 150]
];

describe('flat mesh', () => {
	it('keeps the area less the holes, with edges on hole, bend and line', () => {
		const hole: Vec2[] = Array.from({ length: 24 }, (_, i) => [60 + 20 * Math.cos((i * Math.PI) / 12), 75 + 20 * Math.sin((i * Math.PI) / 12)]);
		const m = flatMesh(
			square,
			[hole],
			[
				[
					[130, 0],
					[130, 150]
				]
			],
			[
				[
					[150, 20],
					[190, 20]
				]
			],
			[[160, 100]],
			12
		);
		let sum = 0;
		for (let e = 0; e < m.tri.length; e += 3) sum += ringArea([0, 1, 2].map((i): Vec2 => [m.xy[2 * m.tri[e + i]], m.xy[2 * m.tri[e + i] + 1]]));
		expect(sum).toBeCloseTo(200 * 150 - Math.abs(ringArea(hole)), 6);
		for (const p of [[150, 20], [190, 20], [160, 100], [130, 0], hole[3]] as Vec2[]) expect(m.nodeAt(p)).toBeGreaterThanOrEqual(0);
		expect(() => m.nodeAt([1, 1])).toThrow(/No mesh node/);
		const q = quality(m.tri, (k) => [m.xy[2 * k], m.xy[2 * k + 1]]);
		expect(q.most).toBe(2);
		expect(q.smallestDeg).toBeGreaterThan(8);
		expect(m.bendEdges.size).toBeGreaterThan(8);
	});
	it('an L with a slanted edge stays inside its outline', () => {
		const l: Vec2[] = [
			[0, 0],
			[100, 0],
			[100, 40],
			[55, 70],
			[40, 120],
			[0, 120]
		];
		const m = flatMesh(l, [], [], [], [], 9);
		let sum = 0;
		for (let e = 0; e < m.tri.length; e += 3) sum += ringArea([0, 1, 2].map((i): Vec2 => [m.xy[2 * m.tri[e + i]], m.xy[2 * m.tri[e + i] + 1]]));
		expect(sum).toBeCloseTo(ringArea(l), 6);
	});
});

describe('formed parts', () => {
	it.each(['u-body', 'cross-blank', 'five-plates'])('folding keeps areas and closes the trough: %s', (body) => {
		const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], body }).plan!;
		const m = assemblyMesh(plan);
		plan.parts.forEach((p, i) => expect(area(m, i)).toBeCloseTo(Math.abs(ringArea(p.outline)), 4));
		for (const s of m.seams) for (let i = 0; i < s.a.length; i++) expect(distance(nodeAt(m.xyz, s.a[i]), nodeAt(m.xyz, s.b[i]))).toBeLessThan(1e-6);
		const z = Array.from({ length: m.nodeCount }, (_, k) => m.xyz[3 * k + 2]);
		expect(Math.max(...z)).toBeCloseTo(180.75, 6);
		expect(quality(m.tri, (k) => nodeAt(m.xyz, k)).most).toBeLessThanOrEqual(2);
	});
	it('a corner’s weld side is outside it', () => {
		const plan = newPlan('open-trough', FAMILY_DEFAULTS['open-trough']).plan!;
		const m = assemblyMesh(plan);
		const s = m.seams.find((x) => x.joint.id === 'bl')!;
		// bottom to left end: outwards is towards -x and -z
		expect(s.frames[2].weldSide[0]).toBeLessThan(-0.5);
		expect(s.frames[2].weldSide[2]).toBeLessThan(-0.5);
	});
	it('a rolled sheet: circumference closes, the long seam meets itself, a girth seam is closed', () => {
		const R = 60;
		const C = 2 * Math.PI * R;
		const frame = { origin: [0, 0, 0], x: [1, 0, 0], y: [0, 1, 0] };
		const shell = (id: string, y: number) => ({
			id,
			name: id,
			material: '1.4301',
			thicknessMm: 1,
			outline: [
				[0, 0],
				[C, 0],
				[C, 100],
				[0, 100]
			],
			holes: [],
			bends: [],
			roll: { hoop: 'x', radiusMm: R },
			frame: { ...frame, origin: [0, y, 0] }
		});
		const joint = (id: string, a: object, b: object) => ({
			id,
			name: id,
			type: 'butt',
			a,
			b,
			gapMm: 0,
			gapMeasured: false,
			presetDeg: 0,
			penetration: 'full',
			filler: false,
			weldSide: 'front',
			settings: 's'
		});
		const plan = planOf({
			format: 'sarta-plan',
			version: 1,
			materials: [],
			points: [],
			holdDowns: [],
			tacks: [],
			runs: [],
			features: [],
			probes: [],
			posture: 'upright',
			fitUp: { checks: [] },
			interpassLimitC: 150,
			ambientC: 20,
			meshSizeMm: 12,
			parts: [shell('one', 0), shell('two', 100)],
			joints: [
				joint(
					'long',
					{
						part: 'one',
						path: [
							[0, 0],
							[0, 100]
						]
					},
					{
						part: 'one',
						path: [
							[C, 0],
							[C, 100]
						]
					}
				),
				joint(
					'girth',
					{
						part: 'one',
						path: [
							[0, 100],
							[C, 100]
						]
					},
					{
						part: 'two',
						path: [
							[0, 0],
							[C, 0]
						]
					}
				)
			],
			settings: [{ id: 's', name: 's', process: 'TIG', current: 'steady', ampsA: 40, speedMmPerS: 2, gas: 'Argon', gasLPerMin: 8 }]
		});
		const m = assemblyMesh(plan);
		for (const s of m.seams) for (let i = 0; i < s.a.length; i++) expect(norm(s.frames[i].offset)).toBeLessThan(1e-6);
		for (let k = 0; k < m.nodeCount; k++) expect(Math.hypot(m.xyz[3 * k], m.xyz[3 * k + 2] + R)).toBeCloseTo(R, 6);
		// facets lie inside the circle: area falls short by about (h / R)^2 / 24
		expect(area(m, 0) / (C * 100)).toBeGreaterThan(0.99);
	});
	it('points are found on the part, and refused off it', () => {
		const m = assemblyMesh(exampleJobs().find((e) => e.file === 'tee.json')!.plan);
		const p = locate(m, 'plate', [33.3, 44.4]);
		expect(p.weights.reduce((s, w) => s + w, 0)).toBeCloseTo(1, 12);
		const at = [0, 1].map((d) => p.nodes.reduce((s, n, i) => s + p.weights[i] * m.xyz[3 * n + d], 0));
		expect(at[0]).toBeCloseTo(33.3, 9);
		expect(at[1]).toBeCloseTo(44.4, 9);
		expect(() => locate(m, 'plate', [900, 900])).toThrow(/is not on part/);
	});
	it('a model too large is refused with the size that would fit', () => {
		const plan = { ...newPlan('open-trough', FAMILY_DEFAULTS['open-trough']).plan!, meshSizeMm: 3 };
		expect(() => assemblyMesh(plan)).toThrow(/set a mesh size of about/);
	});
});
