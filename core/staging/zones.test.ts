/** The width of the pull on any mesh: areas, forces and free shapes by hand. */
import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { assemblyMesh } from '../mesh/assemblyMesh';
import type { PlanDocument } from '../document/schema';
import { acrossOf } from '../response/across';
import { BANDS } from '../response/bands';
import { nodeAt } from '../shell/model';
import { axesOf, EigenElement, shellStiffness } from '../shell/triangle';
import type { Vec3 } from '../geometry/vec';
import { seamZones } from './zones';

const panel = (meshSizeMm: number, more: object = {}): PlanDocument => ({
	...newPlan('butt-panel', { ...FAMILY_DEFAULTS['butt-panel'], widthsMm: [150, 150], lengthMm: 300, ...more }).plan!,
	meshSizeMm
});

describe('zones beside a seam', () => {
	it.each([40, 17, 9])('cover length times half width, once, whatever the triangles (%s mm)', (size) => {
		const mesh = assemblyMesh(panel(size));
		for (const w of [10, 25, 60]) {
			const [zones] = seamZones(mesh, mesh.seams[0], 0, [w]);
			const area = zones.flat().reduce((s, z) => s + z.area, 0);
			expect(Math.abs(area / (300 * w) - 1)).toBeLessThan(1e-9);
			// the straight field over each triangle has the same total and the same lever about the seam as the even band
			let lever = 0;
			for (const z of zones.flat()) {
				const p = [0, 1, 2].map((i) => nodeAt(mesh.xyz, mesh.tri[3 * z.element + i])) as [Vec3, Vec3, Vec3];
				const a = axesOf(p);
				const A = Math.abs((a.x[1] - a.x[0]) * (a.y[2] - a.y[0]) - (a.x[2] - a.x[0]) * (a.y[1] - a.y[0])) / 2;
				expect(z.mean * A).toBeCloseTo(z.area, 6);
				const c = [(a.x[0] + a.x[1] + a.x[2]) / 3, (a.y[0] + a.y[1] + a.y[2]) / 3];
				// distance from the seam is straight over the triangle: its integral takes the mean and the second moments
				const seam = mesh.seams[0];
				const s0 = nodeAt(mesh.xyz, seam.a[0]);
				const out = seam.frames[0].outA;
				const at = (q: Vec3) => -(out[0] * (q[0] - s0[0]) + out[1] * (q[1] - s0[1]) + out[2] * (q[2] - s0[2]));
				const d = p.map(at);
				const middle = (d[0] + d[1] + d[2]) / 3;
				let more = 0;
				for (let i = 0; i < 3; i++) more += (d[i] - middle) * (z.slope[0] * (a.x[i] - c[0]) + z.slope[1] * (a.y[i] - c[1]));
				lever += z.mean * A * middle + (A / 12) * more;
			}
			expect(Math.abs(lever / (300 * w * (w / 2)) - 1)).toBeLessThan(1e-6);
		}
	});
	it('closes round a ring and at a corner of the path without gap or overlap', () => {
		const plan = newPlan('cylinder', FAMILY_DEFAULTS.cylinder).plan!;
		const mesh = assemblyMesh({ ...plan, meshSizeMm: 25 });
		for (const seam of mesh.seams) {
			const [zones] = seamZones(mesh, seam, 0, [12]);
			const covered = zones.flat().reduce((s, z) => s + z.area, 0);
			// straight chords and an edge beside the seam may take a little off, never add
			expect(covered / (seam.lengthMm * 12 * (seam.edgeA ? 1 : 2))).toBeGreaterThan(0.9);
			expect(covered / (seam.lengthMm * 12 * (seam.edgeA ? 1 : 2))).toBeLessThan(1.02);
		}
	});
});

describe('where the force lies', () => {
	it('two bands keep each sheet’s force and its mean distance, in wide sheets and narrow ones', () => {
		for (const width of [300, 60, 40, 20])
			for (const distance of [4, 9, 14, 22]) {
				if (distance >= width / 2) continue;
				const shares = acrossOf([
					{ force: 3000, distance, width },
					{ force: 1000, distance: 7, width: 25 }
				]);
				const [near, wide] = shares[0];
				// what a band has beyond the sheet's edge is not there
				const parts = BANDS.map((w, k) => ({ f: ([near, wide][k] * Math.min(w, width)) / w, at: Math.min(w, width) / 2 }));
				const force = parts.reduce((s, p) => s + p.f, 0);
				expect(force).toBeCloseTo(0.75, 9);
				expect(parts.reduce((s, p) => s + p.f * p.at, 0) / force).toBeCloseTo(distance, 9);
			}
		expect(
			acrossOf([
				{ force: 1, distance: 5, width: 10 },
				{ force: 1, distance: 5, width: 10 }
			])[0]
		).toEqual([0.75, 0]);
	});
});

describe('eigenstrain that varies over an element', () => {
	it('pulls and turns nothing as a whole, and an even field is that of a free element: stiffness times its displacements', () => {
		const p: [Vec3, Vec3, Vec3] = [
			[0, 0, 0],
			[17, 3, 0],
			[5, 21, 0]
		];
		const sheet = { eModulus: 200e3, poisson: 0.3, thickness: 1.5 };
		const a = axesOf(p);
		const element = new EigenElement(p, sheet);
		const varied = element.forces([1e-4, -2e-4, 5e-5], [1e-5, 2e-5, -1e-5], [-3e-5, 1e-5, 2e-5], [0, 0, 0]);
		const size = Math.max(...varied.map(Math.abs));
		for (let d = 0; d < 3; d++) expect(Math.abs(varied[d] + varied[6 + d] + varied[12 + d]) / size).toBeLessThan(1e-9);
		let turn = 0;
		for (let i = 0; i < 3; i++) turn += p[i][0] * varied[6 * i + 1] - p[i][1] * varied[6 * i] + varied[6 * i + 5];
		expect(Math.abs(turn) / (20 * size)).toBeLessThan(1e-9);
		// eps_xx = k in the element's own axes: u = k x
		const k = 1e-4;
		const u = new Float64Array(18);
		p.forEach((q, i) => {
			const x = a.ex[0] * q[0] + a.ex[1] * q[1];
			for (let d = 0; d < 3; d++) u[6 * i + d] = a.ex[d] * k * x;
		});
		const even = element.forces([k, 0, 0], [0, 0, 0], [0, 0, 0], [0, 0, 0]);
		const K = shellStiffness(p, sheet);
		for (let i = 0; i < 18; i++) {
			let s = 0;
			for (let j = 0; j < 18; j++) s += K[18 * i + j] * u[j];
			expect(Math.abs(s - even[i])).toBeLessThan(1e-9 * Math.max(...even.map(Math.abs)));
		}
	});
	deeply('a free strip shortens by F L / E A (Hooke) for each length added to it; its ends, within a width, lag', () => {
		const of = (meshSizeMm: number, lengthMm: number) => {
			const plan = panel(meshSizeMm, { widthsMm: [20, 20], lengthMm });
			plan.joints[0].response = { tendonForceN: 4000, transverseShrinkageMm: 0, angularChangeRad: 0, widthMm: 20, eccentricityMm: 0 };
			plan.features = [{ id: 'l', name: 'L', kind: 'length', points: ['c-bl', 'c-tl'], tolerance: { upper: 1, lower: -1, source: 'typed' } }];
			return forecast(plan, { cache: new ForecastCache() }).result.features[0].predicted;
		};
		const hooke = (-4000 * 400) / (200e3 * 40 * 1.5);
		for (const size of [10, 6]) expect(Math.abs((of(size, 1000) - of(size, 600)) / hooke - 1)).toBeLessThan(0.002);
	});
	it('off the middle it bends the strip in its plane alike on every mesh, as a beam by its lever (Bernoulli) within 4 %', () => {
		const bend = (meshSizeMm: number) => {
			const [short, long] = [600, 1000].map((lengthMm) => {
				const plan = panel(meshSizeMm, { widthsMm: [30, 70], lengthMm });
				// tacked at every place of an even mesh
				const n = Math.round(lengthMm / meshSizeMm);
				plan.tacks = Array.from({ length: n + 1 }, (_, i) => ({
					id: `t${i}`,
					joint: 's1',
					stationMm: (lengthMm * i) / n,
					lengthMm: 5,
					stage: 1,
					fusionOnly: true
				}));
				plan.joints[0].response = { tendonForceN: 4000, transverseShrinkageMm: 0, angularChangeRad: 0, widthMm: 40, eccentricityMm: 0 };
				const edge = (id: string, points: [string, string]) => ({
					id,
					name: id,
					kind: 'length' as const,
					points,
					tolerance: { upper: 1, lower: -1, source: 'typed' }
				});
				plan.features = [edge('left', ['c-bl', 'c-tl']), edge('right', ['c-br', 'c-tr'])] as never;
				const f = forecast(plan, { cache: new ForecastCache() }).result.features;
				return f[1].predicted - f[0].predicted;
			});
			return long - short;
		};
		// the seam lies 20 mm off the middle of 100: the two edges differ by M / (E I) times width times length
		const beam = ((4000 * 20) / (200e3 * ((1.5 * 100 ** 3) / 12))) * 100 * 400;
		const found = [20, 12, 7].map(bend);
		for (const v of found) {
			expect(Math.abs(v / found[2] - 1)).toBeLessThan(0.01);
			expect(Math.abs(v / beam - 1)).toBeLessThan(0.04);
		}
	});
});
