/** Models in: known solids, through Open CASCADE where they are STEP files. */
import occt from 'occt-import-js';
import { describe, expect, it } from 'vitest';
import { ringArea } from '../geometry/polyline';
import { checkPlan } from '../plan/check';
import { planFromParts } from './fromFlats';
import { partsFromSurfaces, type Soup } from './fromSurfaces';
import { boxStep, cylinderStep } from './stepFixtures';

const options = { material: '1.4301', thicknessMm: 1.5 };

/** A block as triangles without faces, as an STL would hold it. */
function block(lx: number, ly: number, lz: number, at: [number, number, number] = [0, 0, 0], name = 'Block'): Soup {
	const xyz: number[] = [];
	for (const z of [0, lz]) for (const y of [0, ly]) for (const x of [0, lx]) xyz.push(at[0] + x, at[1] + y, at[2] + z);
	const quads = [
		[0, 2, 3, 1],
		[4, 5, 7, 6],
		[0, 1, 5, 4],
		[2, 6, 7, 3],
		[0, 4, 6, 2],
		[1, 3, 7, 5]
	];
	return { xyz, tri: quads.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]), name };
}
function tube(R: number, t: number, L: number, n = 48): Soup {
	const xyz: number[] = [];
	const tri: number[] = [];
	for (const r of [R, R - t])
		for (const z of [0, L]) for (let i = 0; i < n; i++) xyz.push(r * Math.cos((2 * Math.PI * i) / n), r * Math.sin((2 * Math.PI * i) / n), z);
	const quad = (a: number, b: number, c: number, d: number) => tri.push(a, b, c, a, c, d);
	for (let i = 0; i < n; i++) {
		const j = (i + 1) % n;
		quad(i, j, n + j, n + i);
		quad(2 * n + j, 2 * n + i, 3 * n + i, 3 * n + j);
		quad(n + i, n + j, 3 * n + j, 3 * n + i);
		quad(j, i, 2 * n + i, 2 * n + j);
	}
	return { xyz, tri, name: 'Tube' };
}

describe('meshes', () => {
	it('a plate is one sheet at its middle, with its thickness and area', () => {
		const r = partsFromSurfaces([block(300, 200, 2)], options);
		expect(r.faults).toEqual([]);
		expect(r.parts).toHaveLength(1);
		expect(r.parts[0].thicknessMm).toBe(2);
		expect(Math.abs(ringArea(r.parts[0].outline))).toBeCloseTo(60_000, 6);
		expect(r.parts[0].frame.origin[2]).toBeCloseTo(1, 9);
	});
	it('two plates standing on each other make a tee', () => {
		const r = partsFromSurfaces([block(300, 200, 2, [0, 0, 0], 'Plate'), block(300, 2, 60, [0, 99, 2], 'Web')], options);
		const plan = planFromParts(r.parts, { toleranceMm: 1.5 });
		expect(checkPlan(plan)).toEqual([]);
		expect(plan.joints.map((j) => j.type)).toEqual(['tee']);
	});
	it('a closed box without sheets in it is six faces of the thickness given, and twelve seams', () => {
		const r = partsFromSurfaces([block(300, 200, 150)], options);
		expect(r.parts).toHaveLength(6);
		const plan = planFromParts(r.parts, { toleranceMm: 0.1 });
		expect(plan.joints).toHaveLength(12);
		expect(plan.joints.every((j) => j.type === 'corner-edge')).toBe(true);
	});
	it('a pipe is one rolled part at its mid-radius', () => {
		const r = partsFromSurfaces([tube(50, 2, 300)], options);
		expect(r.parts).toHaveLength(1);
		expect(r.parts[0].thicknessMm).toBeCloseTo(2, 1);
		expect(r.parts[0].roll!.radiusMm).toBeCloseTo(49, 0);
		expect(checkPlan(planFromParts(r.parts, { toleranceMm: 0.5 }))).toEqual([]);
	});
	it('what is neither flat nor round is listed; nothing at all is refused', () => {
		// a saddle
		const n = 8;
		const xyz: number[] = [];
		for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) xyz.push(40 * i, 40 * j, 0.002 * (40 * i - 160) * (40 * j - 160));
		const tri: number[] = [];
		for (let j = 0; j < n; j++)
			for (let i = 0; i < n; i++) {
				const a = j * (n + 1) + i;
				tri.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1);
			}
		const r = partsFromSurfaces([{ xyz, tri, name: 'Saddle' }, block(300, 200, 2, [900, 0, 0])], options);
		expect(r.unused.join(' ')).toMatch(/Saddle: \d+ faces? .*neither flat nor cylindrical/);
		expect(r.parts.length).toBeGreaterThanOrEqual(1);
		expect(partsFromSurfaces([], options).faults[0]).toMatch(/holds no surfaces/);
	});
	it('too many parts for a plan are refused whole', () => {
		const many = Array.from({ length: 160 }, (_, i) => block(40, 40, 1, [60 * i, 0, 0], `P${i}`));
		const r = partsFromSurfaces(many, options);
		expect(r.parts).toEqual([]);
		expect(r.faults[0]).toMatch(/comes to 160 parts; a plan holds at most 150/);
	});
});

describe('STEP through Open CASCADE', () => {
	const read = async (text: string): Promise<Soup[]> => {
		const r = (await occt()).ReadStepFile(new TextEncoder().encode(text), {
			linearUnit: 'millimeter',
			linearDeflectionType: 'absolute_value',
			linearDeflection: 0.05,
			angularDeflection: 0.15
		});
		expect(r.success).toBe(true);
		return r.meshes.map((m) => {
			const face = new Int32Array(m.index.array.length / 3);
			(m.brep_faces ?? []).forEach((f, k) => face.fill(k, f.first, f.last + 1));
			return { xyz: m.attributes.position.array, tri: m.index.array, face, name: m.name };
		});
	};
	it('a box of 120 x 80 x 50: six faces, 2 (lw + lh + wh) = 39,200 mm2', async () => {
		const r = partsFromSurfaces(await read(boxStep(120, 80, 50)), options);
		expect(r.parts).toHaveLength(6);
		expect(r.parts.reduce((s, p) => s + Math.abs(ringArea(p.outline)), 0)).toBeCloseTo(39_200, 3);
	});
	it('a cylinder of radius 40 and length 100: 2 pi r l = 25,133 mm2 of wall, two ends of pi r2 = 5,027', async () => {
		const r = partsFromSurfaces(await read(cylinderStep(40, 100)), options);
		const wall = r.parts.find((p) => p.roll)!;
		expect(Math.abs(Math.abs(ringArea(wall.outline)) / (2 * Math.PI * 40 * 100) - 1)).toBeLessThan(0.005);
		const ends = r.parts.filter((p) => !p.roll);
		expect(ends).toHaveLength(2);
		for (const e of ends) expect(Math.abs(Math.abs(ringArea(e.outline)) / (Math.PI * 1600) - 1)).toBeLessThan(0.01);
	});
});
