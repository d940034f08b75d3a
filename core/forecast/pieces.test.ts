/** What a tradesman would check on real pieces (common practice, no source), and stiffening against plate and beam formulas. */
import { describe, expect, it } from 'vitest';
import { deeply, deepSuite } from '../testing/deeply';
import { FAMILY_DEFAULTS, type MadeFamily } from '../families';
import { newPlan } from '../families/newPlan';
import { kernelFactory } from '../linalg/kernel/kernel';
import type { AnyHoldDown, PlanDocument } from '../document/schema';
import { factorModel, nodeAt } from '../shell/model';
import { FinalShape } from '../staging/finalShape';
import { memberBeams } from '../staging/condense';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { ForecastCache, scalesOf } from './analysis';
import { finalForecast } from './finalForecast';
import { forecast } from './forecast';

const kernel = kernelFactory(WebAssembly);
const quickOf = (plan: PlanDocument) => forecast(plan, { cache: new ForecastCache(kernel) });
const make = (kind: MadeFamily, change: object = {}): PlanDocument => {
	const made = newPlan(kind, { ...FAMILY_DEFAULTS[kind], ...change });
	if (!made.plan) throw new Error(JSON.stringify(made.faults));
	return made.plan;
};

describe('mitred frame', () => {
	it('the inside of the mitre pulls the frame out of square more than the outside corner; more than every face it does not (said in docs/theory/depths.md)', () => {
		const plan = make('mitred-frame', { lengthMm: 400, widthMm: 300, sideMm: 30 });
		const square = quickOf(plan).result.features.find((f) => f.id === 'square')!;
		const by = (kind: string) =>
			Math.abs(square.influence.filter((i) => plan.runs.find((r) => r.id === i.step)?.joint.startsWith(`${kind}-`)).reduce((s, i) => s + i.value, 0));
		expect(by('in')).toBeGreaterThan(2 * by('out'));
		expect(by('under')).toBeGreaterThan(0);
	});
});

deepSuite('manifold', () => {
	const plan = make('manifold', { lengthMm: 600, sockets: 4 });
	const back = (off: string): AnyHoldDown => ({
		id: 'back',
		name: 'Strongback',
		kind: 'strongback',
		part: 'tube',
		path: [
			[4, 20],
			[4, 580]
		],
		areaMm2: 1200,
		iOutMm4: 360_000,
		iInMm4: 90_000,
		torsionMm4: 100_000,
		eModulusMPa: 200_000,
		offsetMm: 20,
		pitchMm: 60,
		life: { on: 'start', off }
	});
	deeply('a strongback keeps it straight while it is on, and for good where it stays', () => {
		const of = (holdDowns: AnyHoldDown[]) => quickOf({ ...plan, holdDowns }).result.features.find((f) => f.id === 'back')!;
		const [free, off, stays] = [of([]), of([back('when-cold')]), of([back('stays')])];
		expect(off.moments.cold.predicted).toBeLessThan(0.95 * free.predicted);
		expect(stays.predicted).toBeLessThan(0.95 * free.predicted);
		// taken off cold it springs back, to no better than before in a linear method
		expect(off.predicted).toBeGreaterThan(off.moments.cold.predicted);
	});
});

describe('stiffening against formulas', () => {
	it('cross-break: buckling gain over the flat floor lies between nothing and that of a roof section, 1 + (h / t)^2', () => {
		const factor = (h: number) => {
			const plan = make('open-trough', { body: 'five-plates', lengthMm: 300, widthMm: 200, depthMm: 40, rimFlangeMm: 0, crossBreakMm: h });
			plan.meshSizeMm = 16;
			// the welds round the floor press it
			for (const j of plan.joints)
				j.response = { tendonForceN: ['bf', 'bb', 'bl', 'br'].includes(j.id) ? 10_000 : 0, transverseShrinkageMm: 0, angularChangeRad: 0 };
			const { analysis: a } = quickOf(plan);
			const model = new FinalShape(
				plan,
				a.mesh,
				a.sheets,
				plan.parts.map(() => 7900),
				a.condensed,
				a.staged,
				'three-points'
			);
			const modes = model.modes(model.pull(a.staged.marks[a.staged.marks.length - 1], scalesOf([0, 0, 0, 0])), 3);
			return modes.filter((m) => m.factor > 0)[0].factor;
		};
		const [flat, low, high] = [0, 1.5, 3].map(factor);
		expect(low / flat).toBeGreaterThan(1.15);
		expect(low / flat).toBeLessThan(1 + 1);
		expect(high / low).toBeGreaterThan(1.2);
		expect(high / flat).toBeLessThan(1 + 4);
	});
	it('strongback on a strip: stiffness of the composite section E (I1 + I2 + A1 A2 e2 / (A1 + A2)) (beam theory), within 6 %', () => {
		const [L, w, t] = [600, 60, 2];
		const plan = make('stiffened-plate', { lengthMm: L, widthMm: w, stiffenerHeightMm: 20, thicknessMm: t });
		const bar = { areaMm2: 120, iOutMm4: 4000, iInMm4: 400, torsionMm4: 400, eModulusMPa: 200_000, offsetMm: 11 };
		const strip: PlanDocument = {
			...plan,
			parts: [plan.parts[0]],
			joints: [],
			tacks: [],
			runs: [],
			features: [],
			meshSizeMm: 15,
			holdDowns: [
				{
					id: 'sb',
					name: 'Bar',
					kind: 'strongback',
					part: 'plate',
					path: [
						[0, w / 2],
						[L, w / 2]
					],
					pitchMm: 15,
					life: { on: 'start', off: 'stays' },
					...bar
				}
			]
		};
		const mesh = assemblyMesh(strip);
		const tip = (withBar: boolean) => {
			const beams = memberBeams(strip, mesh);
			const n = mesh.nodeCount + beams.extraNodes.length / 3;
			const xyz = new Float64Array(3 * n);
			xyz.set(mesh.xyz);
			xyz.set(beams.extraNodes, mesh.xyz.length);
			// clamped at x = 0, loaded at the far end; ties as very stiff springs between bar and sheet
			const stiff = 1e9;
			const springs: { freedom: number; stiffness: number }[] = [];
			const ends: number[] = [];
			for (let k = 0; k < mesh.nodeCount; k++) {
				const [x] = nodeAt(xyz, k);
				if (x < 1e-6) for (let d = 0; d < 6; d++) springs.push({ freedom: 6 * k + d, stiffness: stiff });
				if (x > L - 1e-6) ends.push(k);
			}
			// where the bar is off, its nodes float on springs of their own
			for (let k = mesh.nodeCount; k < n; k++) for (let d = 0; d < 6; d++) springs.push({ freedom: 6 * k + d, stiffness: withBar ? 1e-6 : 1 });
			const sheet = { eModulus: 200_000, poisson: 0, thickness: t };
			const up: [number, number, number] = [0, 0, 1];
			const links = withBar
				? beams.ties.get('sb')!.map(([shell, beam]) => ({
						nodes: [shell, beam] as [number, number],
						up: [1, 0, 0] as [number, number, number],
						section: { eModulus: 200_000, shearModulus: 100_000, area: 5000, iUp: 5e6, iSide: 5e6, torsion: 5e6 }
					}))
				: [];
			const model = factorModel(
				{ nodeCount: n, xyz, tri: mesh.tri, sheet: () => sheet, beams: [...beams.elements.map((b) => ({ ...b, up })), ...links], springs },
				kernel
			);
			const load = new Float64Array(6 * n);
			for (const k of ends) load[6 * k + 2] = 1 / ends.length;
			const u = model.factor.solve(load);
			return ends.reduce((s, k) => s + u[6 * k + 2] / ends.length, 0);
		};
		const E = 200_000;
		const [A1, A2] = [w * t, bar.areaMm2];
		const [I1, I2] = [(w * t ** 3) / 12, bar.iOutMm4];
		const wanted = (I: number) => L ** 3 / (3 * E * I);
		expect(Math.abs(tip(false) / wanted(I1) - 1)).toBeLessThan(0.06);
		expect(Math.abs(tip(true) / wanted(I1 + I2 + (A1 * A2 * bar.offsetMm ** 2) / (A1 + A2)) - 1)).toBeLessThan(0.06);
	});
});

describe('every hold-down changes the forecast', () => {
	const base = make('butt-panel', { widthsMm: [120, 120], lengthMm: 240 });
	base.meshSizeMm = 30;
	const life = { on: 'start', off: 'stays' };
	const kinds: AnyHoldDown[] = [
		{ id: 'h', name: 'H', kind: 'clamp', joint: 's1', stationMm: 120, holds: 'normal', stiffnessNPerMm: 5000, life },
		{ id: 'h', name: 'H', kind: 'jig', joint: 's1', fromMm: 0, toMm: 240, holds: 'normal', stiffnessNPerMm: 5000, life },
		{
			id: 'h',
			name: 'H',
			kind: 'brace',
			part: 'blank-1',
			at: [20, 120],
			partB: 'blank-2',
			atB: [100, 120],
			areaMm2: 100,
			iMm4: 3000,
			eModulusMPa: 200_000,
			life
		}
	];
	const bow = (plan: PlanDocument) => quickOf(plan).result.features.find((f) => f.kind === 'straightness')!.moments.cold.predicted;
	it('jigs, clamps and braces restrain; the jig more than one clamp', () => {
		const free = bow(base);
		const [clamp, jig, brace] = kinds.map((h) => bow({ ...base, holdDowns: [h] }));
		expect(jig).toBeLessThan(0.5 * free);
		expect(jig).toBeLessThan(clamp + 1e-9);
		expect(brace).not.toBeCloseTo(free, 6);
	});
	it('table tacks and weights hold where they sit; too light a weight is said to be lifted', () => {
		const tacks = [
			[20, 20],
			[20, 220],
			[60, 120]
		].map(([x, y], i): AnyHoldDown => ({
			id: `t${i}`,
			name: `Tack ${i}`,
			kind: 'table-tack',
			part: 'blank-1',
			at: [x, y],
			stiffnessNPerMm: 50_000,
			life
		}));
		const weight = (massKg: number): AnyHoldDown => ({
			id: 'w',
			name: 'Weight',
			kind: 'weight',
			part: 'blank-2',
			at: [100, 120],
			massKg,
			life: { on: 'start', off: 'when-cold' }
		});
		const of = (kg: number) => quickOf({ ...base, holdDowns: [...tacks, weight(kg)] }).result;
		expect(of(0.1).warnings.some((w) => /“Weight” weighs 1 N .*would be lifted/.test(w))).toBe(true);
		expect(of(2000).warnings.some((w) => /would be lifted/.test(w))).toBe(false);
	});
	it('a brace that stays is in the final shape and holds the panel’s angle', () => {
		const angle = (holdDowns: AnyHoldDown[]) =>
			finalForecast(quickOf({ ...base, holdDowns })).result.features.find((f) => f.kind === 'angle')!.predicted;
		expect(Math.abs(angle([kinds[2]]))).toBeLessThan(Math.abs(angle([])));
	});
});
