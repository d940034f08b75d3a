/** Shapes out: STL and GLB read back by other programs' rules, decks of pieces. */
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import { describe, expect, it } from 'vitest';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { ForecastCache, scalesOf } from '../forecast/analysis';
import { forecast } from '../forecast/forecast';
import { kernelFactory } from '../linalg/kernel/kernel';
import { writeCalculix } from './calculix';
import { writeGlb } from './glb';
import { pieceDeck } from './pieceDeck';
import { writeStl } from './stl';

const xyz = [0, 0, 0, 100, 0, 0, 0, 50, 0, 0, 0, 20];
const tri = [0, 1, 2, 0, 2, 3];
const buffer = (b: Uint8Array) => b.buffer.slice(b.byteOffset, b.byteOffset + b.byteLength) as ArrayBuffer;

describe('shapes', () => {
	it('STL: a second reader (three.js) finds every facet at its place', () => {
		const g = new STLLoader().parse(buffer(writeStl(xyz, tri, 'Tray “7”')));
		expect(Array.from(g.getAttribute('position').array)).toEqual(tri.flatMap((k) => xyz.slice(3 * k, 3 * k + 3)));
	});
	it('GLB: a second reader (three.js) finds the parts by name, in metres, y up', async () => {
		const bytes = writeGlb(
			xyz,
			[
				{ name: 'Böden', tri: [0, 1, 2] },
				{ name: 'End', tri: [0, 2, 3] }
			],
			'Tray'
		);
		const { scene } = await new GLTFLoader().parseAsync(buffer(bytes), '');
		expect(scene.children.map((c) => c.userData.name ?? c.name)).toEqual(['Böden', 'End']);
		// eslint-disable-next-line @typescript-eslint/no-explicit-any -- three's own classes
		const at = (scene.children[1] as any).geometry.getAttribute('position').array as Float32Array;
		// (0, 0, 20) mm stands 0.02 m up
		expect([at[6], at[7], at[8]].map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([0, 0.02, 0]);
		expect(() => writeGlb(xyz, [{ name: 'Empty', tri: [] }], '')).toThrow(/Empty/);
	});
	it('a piece’s deck holds every triangle, joins the seams, shrinks along and across them and nothing is not a number', () => {
		const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 140, depthMm: 60 }).plan!;
		const { analysis } = forecast({ ...plan, meshSizeMm: 30 }, { cache: new ForecastCache(kernelFactory(WebAssembly)) });
		const deck = pieceDeck(analysis, 'Tray', scalesOf([0, 0, 0, 0]));
		const pairs = analysis.mesh.seams.reduce((s, m) => s + [...m.a].filter((k, i) => k !== m.b[i]).length, 0);
		expect(deck.xyz.length / 3).toBeLessThan(analysis.mesh.nodeCount);
		expect(deck.xyz.length / 3).toBeGreaterThanOrEqual(analysis.mesh.nodeCount - pairs);
		expect(deck.eigen.length).toBeGreaterThan(0);
		// what shrinks along one axis may bulge along the other; in all, the metal beside the seams has shrunk
		expect(deck.eigen.reduce((s, e) => s + e.alongStrain + e.acrossStrain, 0)).toBeLessThan(0);
		expect(deck.eigen.every((e) => Math.abs(e.alongStrain) + Math.abs(e.acrossStrain) < 0.05)).toBe(true);
		// each run lays its own share on, none of it comes off again, and all of it is on at the end
		expect(deck.stages).toHaveLength(1 + analysis.plan.runs.length);
		for (const e of deck.eigen) {
			e.stages!.forEach((v, i) => expect(v).toBeGreaterThanOrEqual((e.stages![i - 1] ?? 0) - 1e-12));
			expect(e.stages![e.stages!.length - 1]).toBeCloseTo(1, 12);
		}
		const staged = writeCalculix(deck, { kind: 'staged', stages: deck.stages });
		expect(staged.match(/\*STEP, NLGEOM/g)).toHaveLength(deck.stages.length);
		expect(staged).not.toMatch(/NaN|undefined|Infinity/);
		const text = writeCalculix(deck, { kind: 'linear' });
		expect(text.match(/TYPE=S6/g)).toHaveLength(1);
		expect(text).not.toMatch(/NaN|undefined|Infinity/);
	});
});
