import { describe, expect, it } from 'vitest';
import { deeply } from '../testing/deeply';
import { exampleJobs } from '../../cli/exampleJobs';
import { FAMILY_DEFAULTS } from '../families';
import { newPlan } from '../families/newPlan';
import { writeVtu } from '../formats/vtu';
import { resultFile } from '../formats/resultFile';
import type { Vec3 } from '../geometry/vec';
import { assemblyMesh } from '../mesh/assemblyMesh';
import { liesFor, positionsOf } from '../layout/positions';
import { benchPlan } from '../weldout/benchPlan';
import { forecast } from './forecast';
import { featureKind } from '../features';
import { verdictOf } from '../features/verdict';
import { datumMotion, RigidFit, withoutRigid } from '../linalg/rigid';
import { schedule } from './schedule';
import type { AnyFeature, PlanDocument } from '../document/schema';

const example = (file: string) => exampleJobs().find((e) => e.file === file)!.plan;
const tolerance = { upper: 1, source: 'typed' };
const square: Vec3[] = [
	[0, 0, 0],
	[100, 0, 0],
	[100, 100, 0],
	[0, 100, 0]
];
const still: Vec3[] = square.map(() => [0, 0, 0]);

describe('features as a person measures them', () => {
	const of = (kind: AnyFeature['kind'], more: object = {}) => ({ id: 'f', name: 'f', kind, tolerance, nx: 2, ny: 2, ...more }) as AnyFeature;
	it('nothing moved: nothing wrong', () => {
		for (const kind of ['squareness', 'twist', 'flatness'] as const) expect(featureKind(of(kind)).moved(of(kind), square, still)).toBeCloseTo(0, 9);
		expect(featureKind(of('length')).moved(of('length'), square.slice(0, 2), still.slice(0, 2))).toBe(0);
	});
	it('a rhombus: diagonals differ by twice the shear times the diagonal’s share (100 mm square sheared 1 mm: 1.414 mm)', () =>
		expect(
			featureKind(of('squareness')).moved(of('squareness'), square, [
				[0, 0, 0],
				[0, 0, 0],
				[1, 0, 0],
				[1, 0, 0]
			])
		).toBeCloseTo(Math.SQRT2, 9));
	it('a lifted corner is its own twist', () =>
		expect(
			featureKind(of('twist')).moved(of('twist'), square, [
				[0, 0, 0],
				[0, 0, 0],
				[0, 0, 0],
				[0, 0, 0.8]
			])
		).toBeCloseTo(0.8, 9));
	it('an angle opens by what one face turns', () => {
		const p: Vec3[] = [
			[0, 0, 0],
			[100, 0, 0],
			[50, 100, 0],
			[0, 0, 0],
			[100, 0, 0],
			[50, 0, 100]
		];
		const t = 0.01;
		const turned: Vec3[] = [
			[0, 0, 0],
			[0, 0, 0],
			[0, 0, 0],
			[0, 0, 0],
			[0, 0, 0],
			[0, -100 * Math.tan(t), 0]
		];
		expect(featureKind(of('angle')).nominal(p)).toBeCloseTo(90, 9);
		expect(Math.abs(featureKind(of('angle')).moved(of('angle'), p, turned))).toBeCloseTo((t * 180) / Math.PI, 4);
	});
	it('verdicts: the whole band decides', () => {
		expect(verdictOf({ upper: 1 }, 0, 0.9)).toBe('inside');
		expect(verdictOf({ upper: 1 }, 0.5, 1.2)).toBe('in doubt');
		expect(verdictOf({ upper: 1 }, 1.1, 2)).toBe('outside');
		expect(verdictOf({ upper: 1, lower: -1 }, -3, -2)).toBe('outside');
	});
});

describe('rigid motion', () => {
	const p: Vec3[] = [
		[0, 0, 0],
		[100, 0, 0],
		[0, 80, 0],
		[30, 40, 50]
	];
	const move = (t: Vec3, w: Vec3) =>
		p.map((q): Vec3 => [t[0] + w[1] * q[2] - w[2] * q[1], t[1] + w[2] * q[0] - w[0] * q[2], t[2] + w[0] * q[1] - w[1] * q[0]]);
	it('best fit and 3-2-1 datum both take a small rigid motion out whole', () => {
		const u = move([1, -2, 0.5], [1e-3, -2e-3, 3e-3]);
		const centre: Vec3 = [10, 20, 5];
		for (const v of new RigidFit(p, centre).without(u).flat()) expect(Math.abs(v)).toBeLessThan(1e-6);
		const three = datumMotion([p[0], p[1], p[2]], [u[0], u[1], u[2]]);
		for (const v of withoutRigid(p, u, p[0], three).flat()) expect(Math.abs(v)).toBeLessThan(1e-9);
	});
	it('datum points on a line are refused', () =>
		expect(() =>
			datumMotion(
				[
					[0, 0, 0],
					[1, 0, 0],
					[2, 0, 0]
				],
				[
					[0, 0, 0],
					[0, 0, 0],
					[0, 0, 0]
				]
			)
		).toThrow(/on one line/));
});

describe('pieces that no family made', () => {
	it('a tee: the web leans towards its weld, the plate curls to the web’s side', () => {
		const { result } = forecast(example('tee.json'));
		// weld on the front of the web, whose normal is -y
		expect(result.probes[0].displacement[1]).toBeLessThan(0);
		expect(result.features.find((f) => f.id === 'lean')!.predicted).not.toBe(0);
		expect(result.datum).toBe('3-2-1');
		expect(result.warnings.join()).not.toMatch(/tied to/);
	});
	it('a second fillet on the other side brings the web back, and pulls the plate further (common practice, no source)', () => {
		const one = example('tee.json');
		const both = structuredClone(one);
		both.joints.push({ ...both.joints[0], id: 'g', name: 'Fillet, back', weldSide: 'back' });
		both.tacks.push(...both.tacks.map((t) => ({ ...t, id: `${t.id}-g`, joint: 'g' })));
		both.runs.push(...both.runs.map((r) => ({ ...r, id: `${r.id}-g`, joint: 'g' })));
		const lean = (p: typeof one) => Math.abs(forecast(p).result.probes[0].displacement[1]);
		const flat = (p: typeof one) => forecast(p).result.features.find((f) => f.id === 'flat')!.predicted;
		expect(lean(both)).toBeLessThan(0.5 * lean(one));
		expect(flat(both)).toBeGreaterThan(flat(one));
	});
	deeply('a strongback keeps its own line straighter while it is on, and more so the deeper it is (common practice, no source)', () => {
		const plan = example('lap-with-strongback.json');
		const bow = (change: (p: typeof plan) => void) => {
			const p = structuredClone(plan);
			const outer = p.features.find((f) => f.id === 'bow')!;
			p.features.push({
				...outer,
				id: 'line',
				path: [
					[80, 10],
					[80, 390]
				]
			} as typeof outer);
			change(p);
			return forecast(p).result.features.find((f) => f.id === 'line')!.moments.cold.predicted;
		};
		const none = bow((p) => (p.holdDowns = p.holdDowns.filter((h) => h.kind !== 'strongback')));
		const as = bow(() => {});
		const deep = bow((p) => p.holdDowns.forEach((h) => h.kind === 'strongback' && (h.iOutMm4 *= 20)));
		expect(as).toBeLessThan(none);
		expect(deep).toBeLessThan(as);
	});
	it('values given for a joint are not scaled by the shop’s factors', () => {
		const plan = example('lap-with-strongback.json');
		const factors = { mean: [0.3, 0, 0.5, 0.5], covariance: new Array(16).fill(0), readings: 4, pieces: 1 };
		const width = (f?: typeof factors) => forecast(plan, { factors: f }).result.features.find((x) => x.id === 'width')!.predicted;
		expect(width(factors)).toBeCloseTo(width(), 9);
	});
	it('what floats is said', () => {
		const plan = structuredClone(example('tee.json'));
		plan.tacks = [];
		plan.runs = [];
		const { result } = forecast(plan);
		expect(result.warnings.join()).toMatch(/“Web” is tied to “Plate” by no tack and no run/);
		expect(JSON.stringify(result)).not.toMatch(/NaN|null/);
	});
});

describe('schedule, steps and files', () => {
	const plan = newPlan('open-trough', { ...FAMILY_DEFAULTS['open-trough'], lengthMm: 240, widthMm: 140, depthMm: 60 }).plan!;
	it('no run starts hotter than the interpass limit, and a lower limit costs time', () => {
		const at = (limit: number) => schedule({ ...plan, interpassLimitC: limit }, assemblyMesh(plan));
		for (const limit of [60, 150]) for (const r of at(limit).runs) expect(r.startC).toBeLessThanOrEqual(limit + 1e-9);
		expect(at(60).totalS).toBeGreaterThan(at(250).totalS);
		expect(at(150).arcS).toBeCloseTo(plan.runs.reduce((s, r) => s + Math.abs(r.toMm - r.fromMm), 0) / 2.5, 6);
	});
	it('bench steps: checks first, every tack and run once in order, measuring at its moments', () => {
		const steps = benchPlan(plan).steps;
		expect(steps.slice(0, plan.fitUp.checks.length).every((s) => s.kind === 'check')).toBe(true);
		expect(steps.flatMap((s) => (s.kind === 'run' ? [s.run] : []))).toEqual(plan.runs.map((r) => r.id));
		expect(steps.flatMap((s) => (s.kind === 'tack' ? s.stations : []))).toEqual(plan.tacks.map((t) => t.stationMm));
		const read = (p: PlanDocument) => benchPlan(p).steps.flatMap((s) => (s.kind === 'measure' ? [s.moment] : []));
		// held by nothing, cold and unclamped are one state and read once; clamped, what springs back is read too
		expect(read(plan)).toEqual(['as-tacked', 'unclamped']);
		const clamp = { id: 'c', name: 'Clamp', kind: 'clamp', joint: plan.joints[0].id, stationMm: 40, holds: 'normal', stiffnessNPerMm: 5000 } as const;
		const clamped = (off: string) => ({ ...plan, holdDowns: [{ ...clamp, life: { on: 'start', off } }] });
		expect(read(clamped('when-cold'))).toEqual(['as-tacked', 'cold', 'unclamped']);
		expect(read(clamped('after-tacks'))).toEqual(['as-tacked', 'unclamped']);
		expect(new Set(steps.map((s) => s.id)).size).toBe(steps.length);
		// every run is laid with the piece as its seam needs it, and the piece is turned only where it must be
		const positions = positionsOf(assemblyMesh(plan));
		let lies = 'top';
		const laid = steps.flatMap((s) => {
			if (s.kind === 'flip') {
				expect(s.up).not.toBe(lies);
				lies = s.up;
			}
			return s.kind === 'run' ? [lies] : [];
		});
		plan.runs.forEach((r, i) => expect(positions.get(r.joint)).toContain(laid[i]));
		expect(laid).toEqual(liesFor(plan.runs, positions));
	});
	it('VTU holds every node and triangle; the result file refuses numbers that are none', () => {
		const made = forecast(plan);
		const { result } = made;
		const shapes = made.shapes();
		const text = writeVtu(shapes);
		expect(text).toContain(`NumberOfPoints="${shapes.xyz.length / 3}" NumberOfCells="${shapes.tri.length / 3}"`);
		expect(() => resultFile('x', { ...result, consistencyMm: NaN })).toThrow(/consistencyMm/);
		expect(JSON.parse(resultFile('x', result)).features).toHaveLength(plan.features.length);
	});
});
